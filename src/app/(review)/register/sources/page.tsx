import { SourcesView } from "@/features/register/sources-view";
import { may, nomade, personnelOffice } from "@/wiring/nomade";
import { feedAddress } from "@/wiring/web/feed-route";
import { accountWith } from "@/wiring/web/web-session";
import { collectPushed, makeToken, revokeToken, saveOwnership, saveRhythm, sendOrdersTo } from "./actions";

export default async function SourcesPage() {
  const account = await accountWith("read-whole");
  return (
    <SourcesView
      sources={await nomade.listSources(account)}
      mayEdit={may(account, "take-in")}
      mayKeepTokens={may(account, "keep-accounts")}
      save={saveOwnership}
      saveRhythm={saveRhythm}
      sendTo={sendOrdersTo}
      feed={{ makeToken, revokeToken, collect: collectPushed }}
      feedAddress={await feedAddress()}
      office={personnelOffice()}
    />
  );
}

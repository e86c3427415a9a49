import { SourcesView } from "@/features/register/sources-view";
import { may, nomade } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";
import { saveOwnership, sendOrdersTo } from "./actions";

export default async function SourcesPage() {
  const account = await accountWith("read-whole");
  return <SourcesView sources={await nomade.listSources(account)} mayEdit={may(account, "take-in")} save={saveOwnership} sendTo={sendOrdersTo} />;
}

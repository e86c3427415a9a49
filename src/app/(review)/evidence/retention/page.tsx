import { RetentionView } from "@/features/evidence/retention-view";
import { may, nomade } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";
import { setRetention } from "./actions";

export default async function RetentionPage() {
  const account = await accountWith("read-record");
  return <RetentionView kinds={await nomade.showRetention(account)} set={may(account, "keep-accounts") ? setRetention : undefined} />;
}

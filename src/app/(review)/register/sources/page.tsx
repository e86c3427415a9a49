import { SourcesView } from "@/features/register/sources-view";
import { nomade } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web-session";
import { saveOwnership } from "./actions";

export default async function SourcesPage() {
  const account = await accountWith("read-register");
  return <SourcesView sources={await nomade.sourceSheets(account)} mayEdit={nomade.may(account, "take-in")} save={saveOwnership} />;
}

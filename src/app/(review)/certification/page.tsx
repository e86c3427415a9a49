import { RoundsView } from "@/features/certification/rounds-view";
import { asking, may } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";

export default async function CertificationPage() {
  const account = await accountWith("read-rounds");
  return <RoundsView rounds={await asking.listRounds(account)} mayOpen={may(account, "run-rounds")} />;
}

import { RoundsView } from "@/features/certification/rounds-view";
import { nomade } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web-session";

export default async function CertificationPage() {
  const account = await accountWith("read-rounds");
  return <RoundsView rounds={await nomade.rounds(account)} mayOpen={nomade.may(account, "run-rounds")} />;
}

import { IntakeView } from "@/features/intake/intake-view";
import { nomade } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web-session";
import { storeIntake } from "./actions";

export default async function IntakePage() {
  const account = await accountWith("take-in");
  return <IntakeView snapshots={await nomade.snapshots(account)} store={storeIntake} />;
}

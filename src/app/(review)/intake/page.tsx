import { IntakeView } from "@/features/intake/intake-view";
import { nomade } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web-session";
import { storeIntake } from "./actions";

export default async function IntakePage() {
  const account = await accountWith("take-in");
  const [snapshots, sources] = await Promise.all([nomade.snapshots(account), nomade.sources(account)]);
  return <IntakeView snapshots={snapshots} sources={sources} columns={nomade.tableColumns()} store={storeIntake} />;
}

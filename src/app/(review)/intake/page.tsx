import { IntakeView } from "@/features/intake/intake-view";
import { nomade, profileTargets } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";
import { storeIntake, takeBackIntake } from "./actions";

export default async function IntakePage() {
  const account = await accountWith("take-in");
  const [snapshots, sources] = await Promise.all([nomade.listSnapshots(account), nomade.sourceNames(account)]);
  return <IntakeView snapshots={snapshots} sources={sources} targets={profileTargets} store={storeIntake} takeBack={takeBackIntake} />;
}

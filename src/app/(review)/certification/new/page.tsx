import { PlanRound } from "@/features/certification/plan-round";
import { accountWith } from "@/wiring/web/web-session";
import { openRound, planRound } from "../actions";

export default async function NewRoundPage() {
  await accountWith("run-rounds");
  return <PlanRound plan={planRound} open={openRound} />;
}

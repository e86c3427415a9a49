import { FirstStepsView } from "@/features/shell/first-steps-view";
import { NoRegister } from "@/features/shell/no-register";
import { asking, may } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";

export default async function FirstStepsPage() {
  const account = await accountWith("ask");
  const steps = await asking.firstSteps(account, undefined);
  return steps ? <FirstStepsView steps={steps} reads={{ takesIn: may(account, "take-in"), record: may(account, "read-record") }} /> : <NoRegister />;
}

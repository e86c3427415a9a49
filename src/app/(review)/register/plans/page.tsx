import { PlansView } from "@/features/register/plans/plans-view";
import { NoRegister } from "@/features/shell/no-register";
import { asking } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";

export default async function PlansPage() {
  const account = await accountWith("read-register");
  const plans = await asking.listPlans(account, undefined);
  return plans ? <PlansView of={plans} /> : <NoRegister />;
}

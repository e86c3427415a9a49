import { notFound } from "next/navigation";
import { PlanEditor } from "@/features/register/plans/plan-editor";
import { asking } from "@/wiring/nomade";
import { numberInPath } from "@/wiring/web/number-in-path";
import { accountWith } from "@/wiring/web/web-session";
import { placeDoors } from "../../actions";

export default async function EditPlanPage({ params }: { readonly params: Promise<{ readonly plan: string }> }) {
  const account = await accountWith("keep-plans");
  const id = numberInPath((await params).plan);
  const shown = id === undefined ? undefined : await asking.showPlan(account, undefined, id);
  if (!shown) notFound();
  return <PlanEditor key={shown.plan.version} plan={shown.plan} save={placeDoors} />;
}

import { notFound } from "next/navigation";
import { PlanView } from "@/features/register/plans/plan-view";
import { asking } from "@/wiring/nomade";
import { numberInPath } from "@/wiring/web/number-in-path";
import { accountWith } from "@/wiring/web/web-session";
import { changePlan, dropPlan } from "../actions";

interface Props {
  readonly params: Promise<{ readonly plan: string }>;
  readonly searchParams: Promise<{ readonly door?: string | string[] }>;
}

export default async function PlanPage({ params, searchParams }: Props) {
  const account = await accountWith("read-register");
  const [id, { door }] = [numberInPath((await params).plan), await searchParams];
  const shown = id === undefined ? undefined : await asking.showPlan(account, undefined, id);
  if (!shown) notFound();
  return <PlanView {...shown} door={Array.isArray(door) ? door[0] : door} actions={{ change: changePlan, drop: dropPlan }} />;
}

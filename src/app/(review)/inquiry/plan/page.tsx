import { notFound } from "next/navigation";
import type { AddressParts } from "@/core/questions/question-address";
import { PlanAnswerView } from "@/features/inquiry/plan-answer-view";
import { UnansweredView } from "@/features/inquiry/unanswered-view";
import { notRead } from "@/features/words/not-read";
import { asking, nomade } from "@/wiring/nomade";
import { readAskedOfOne } from "@/wiring/web/asked-question";
import { numberInPath } from "@/wiring/web/number-in-path";
import { accountWith } from "@/wiring/web/web-session";

export default async function PlanAnswerPage({ searchParams }: { readonly searchParams: Promise<AddressParts> }) {
  const account = await accountWith("ask");
  const { plan, door, ...query } = await searchParams;
  const wanted = typeof plan === "string" ? numberInPath(plan) : undefined;
  if ((plan !== undefined && wanted === undefined) || (door !== undefined && typeof door !== "string")) notFound();
  const read = await readAskedOfOne(account, query);
  if (read.outcome !== "asked") return <UnansweredView why={read} name="Plans" />;
  const { asked, register, told } = read;
  const { inquiry, names } = asked;
  const { who } = inquiry;
  if (who?.kind === "cardholder" || who?.kind === "credential") await nomade.noteLookUp(account, "access", { ...who, name: names.who });
  const answer = await asking.answerOnPlan(account, register, inquiry, wanted);
  if (!answer) notFound();
  return <PlanAnswerView asked={asked} answer={answer} door={door} reference={`Plans on snapshot ${told.id}${notRead(told)}`} />;
}

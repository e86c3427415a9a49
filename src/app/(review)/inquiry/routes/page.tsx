import { notFound } from "next/navigation";
import type { AddressParts } from "@/core/questions/question-address";
import { RoutesView } from "@/features/inquiry/routes-view";
import { UnansweredView } from "@/features/inquiry/unanswered-view";
import { notRead } from "@/features/words/not-read";
import { asking, nomade } from "@/wiring/nomade";
import { readAskedOfOne } from "@/wiring/web/asked-question";
import { accountWith } from "@/wiring/web/web-session";

export default async function RoutesPage({ searchParams }: { readonly searchParams: Promise<AddressParts> }) {
  const account = await accountWith("ask");
  const { without, ...query } = await searchParams;
  if (without !== undefined && typeof without !== "string") notFound();
  const read = await readAskedOfOne(account, query);
  // What lies over several snapshots has no one plan of doors.
  if (read.outcome !== "asked") return <UnansweredView why={read} name="Routes" />;
  const { asked, register, told } = read;
  const { inquiry, names } = asked;
  const { who } = inquiry;
  if (who?.kind === "cardholder" || who?.kind === "credential") await nomade.noteLookUp(account, "access", { ...who, name: names.who });
  const answer = await asking.findRoutes(account, register, inquiry, without);
  if (!answer) notFound();
  return <RoutesView asked={asked} answer={answer} reference={`Routes on snapshot ${told.id}${notRead(told)}`} />;
}

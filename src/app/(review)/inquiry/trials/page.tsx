import { notFound } from "next/navigation";
import type { AddressParts } from "@/core/questions/question-address";
import { NotUnderstoodView } from "@/features/inquiry/not-understood-view";
import { TrialsView } from "@/features/inquiry/trials-view";
import { NoRegister } from "@/features/shell/no-register";
import { notRead } from "@/features/words/not-read";
import { asking, may, nomade } from "@/wiring/nomade";
import { readAsked, registerOf } from "@/wiring/web/asked-question";
import { accountWith } from "@/wiring/web/web-session";
import { addTrial, dropTrial } from "./actions";

export default async function TrialsPage({ searchParams }: { readonly searchParams: Promise<AddressParts> }) {
  const account = await accountWith("ask");
  const [snapshots, read] = await Promise.all([nomade.snapshotChoices(account), readAsked(account, await searchParams)]);
  const [latest] = snapshots;
  if (!latest) return <NoRegister />;
  if (!read) notFound();
  if (!read.ok) return <NotUnderstoodView parts={read.error} reference={`Trials on snapshot ${latest.id}`} />;
  const { inquiry, names, isThere } = read.value;
  if (!isThere) notFound();
  const register = registerOf(inquiry);
  const trials = (await asking.runTrials(account, register)) ?? [];
  const { who, where } = inquiry;
  const isPresented = where?.kind === "door" && (who?.kind === "cardholder" || who?.kind === "credential");
  if (isPresented) await nomade.noteLookUp(account, "access", { ...who, name: names.who });
  const trace = isPresented ? await asking.traceInquiry(account, register, inquiry) : undefined;
  const others = trace?.others.map(({ credential }) => credential) ?? [];
  const cards = who?.kind === "cardholder" && trace?.credential ? [trace.credential, ...others].map(({ id, name }) => ({ id, name })) : [];
  const told = snapshots.find(({ id }) => id === inquiry.snapshot) ?? latest;
  return (
    <TrialsView
      asked={{ inquiry, names }}
      trace={trace?.credential ? trace : undefined}
      cards={cards}
      trials={trials}
      reference={`Trials on snapshot ${told.id}${notRead(told)}`}
      mayWrite={may(account, "triage")}
      actions={{ add: addTrial, drop: dropTrial }}
    />
  );
}

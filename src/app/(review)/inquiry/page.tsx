import { notFound } from "next/navigation";
import { Suspense } from "react";
import type { ReactNode } from "react";
import { formOf } from "@/core/questions/answer-form";
import type { AddressParts } from "@/core/questions/question-address";
import { questionOfRow } from "@/features/inquiry/address";
import { AsOf } from "@/features/inquiry/as-of";
import { AnswerView } from "@/features/inquiry/answer-view";
import { AwaitedView } from "@/features/inquiry/awaited-view";
import { BlankView } from "@/features/inquiry/blank-view";
import { NotUnderstoodView } from "@/features/inquiry/not-understood-view";
import type { AskedQuestion } from "@/features/inquiry/question-line";
import { NoRegister } from "@/features/shell/no-register";
import { SheetView } from "@/features/inquiry/sheet-view";
import { VerdictView } from "@/features/inquiry/verdict-view";
import { notRead } from "@/features/words/not-read";
import type { Account } from "@/operations/ports/accounts";
import { asking, nomade } from "@/wiring/nomade";
import { readAsked } from "@/wiring/web/asked-question";
import { dropQuestion, keepQuestion, watchQuestion } from "./actions";
import { accountWith } from "@/wiring/web/web-session";

interface AnsweredProps {
  readonly account: Account;
  readonly asked: AskedQuestion;
  readonly reference: ReactNode;
}

/** The answer to a question about people, doors and a time that the register holds. */
async function Answered({ account, asked, reference }: AnsweredProps) {
  const { inquiry } = asked;
  const { snapshot, when } = inquiry;
  if (formOf(inquiry) === "verdict") {
    const now = await asking.traceInquiry(account, snapshot, { ...inquiry, when: { kind: "now" } });
    const then = when.kind === "any" || when.kind === "now" ? undefined : await asking.traceInquiry(account, snapshot, inquiry);
    return now ? <VerdictView asked={asked} now={now} then={then} reference={reference} keep={keepQuestion} /> : <NoRegister />;
  }
  if (formOf(inquiry) === "sheet") {
    const first = await asking.layOutSheet(account, snapshot, inquiry, { row: 0, column: 0 });
    return first ? <SheetView key={JSON.stringify(inquiry)} asked={asked} first={first} reference={reference} keep={keepQuestion} /> : <NoRegister />;
  }
  const answer = await asking.answerInquiry(account, snapshot, inquiry);
  if (!answer) return <NoRegister />;
  const first = answer.rows[0] ?? answer.asleep[0];
  const firstTrace = first && (await asking.traceInquiry(account, snapshot, questionOfRow(inquiry, first)));
  return <AnswerView key={JSON.stringify(inquiry)} asked={asked} answer={answer} firstTrace={firstTrace} reference={reference} keep={keepQuestion} />;
}

export default async function InquiryPage({ searchParams }: { readonly searchParams: Promise<AddressParts> }) {
  const account = await accountWith("ask");
  const parts = await searchParams;
  const [snapshots, read] = await Promise.all([nomade.snapshotChoices(account), readAsked(account, parts)]);
  const [latest] = snapshots;
  if (!latest) return <NoRegister />;
  const wanted = read?.ok ? read.value.inquiry.snapshot : undefined;
  const snapshot = wanted === undefined ? latest : snapshots.find(({ id }) => id === wanted);
  // There is no such snapshot.
  if (!read || !snapshot) notFound();
  if (!read.ok) return <NotUnderstoodView parts={read.error} reference={`Inquiry on snapshot ${snapshot.id}`} />;
  const { inquiry, names, isThere } = read.value;
  // Of what the register does not hold nothing is said, least of all that nobody opens it.
  if (!isThere) notFound();
  const reference = (
    <AsOf
      words={`Inquiry on snapshot ${snapshot.id}${notRead(snapshot)}`}
      inquiry={inquiry}
      snapshots={snapshots.map(({ id, takenAt }) => ({ id, takenAt }))}
    />
  );
  const { who, where, when } = inquiry;
  if (!who && !where && when.kind === "any") {
    const [examples, waiting, kept] = await Promise.all([
      asking.exampleQuestions(account, undefined),
      nomade.whatWaits(account),
      asking.listKeptQuestions(account, undefined),
    ]);
    return (
      <BlankView
        examples={examples ?? []}
        waiting={waiting}
        kept={kept ?? []}
        keptActions={{ watch: watchQuestion, drop: dropQuestion }}
        reference={reference}
      />
    );
  }
  if (who?.kind === "cardholder" || who?.kind === "credential") await nomade.noteLookUp(account, "access", { ...who, name: names.who });
  const asked = { inquiry, names };
  return (
    <Suspense key={JSON.stringify(parts)} fallback={<AwaitedView asked={asked} reference={reference} />}>
      <Answered account={account} asked={asked} reference={reference} />
    </Suspense>
  );
}

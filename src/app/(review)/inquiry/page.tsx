import { notFound } from "next/navigation";
import { Suspense } from "react";
import type { ReactNode } from "react";
import { formOf } from "@/core/questions/answer-form";
import type { PastPart } from "@/core/questions/past-parts";
import { mostParts } from "@/core/questions/past-parts";
import type { AddressParts } from "@/core/questions/question-address";
import { answeredQuestion, questionOfRow } from "@/features/inquiry/address";
import { AsOf } from "@/features/inquiry/as-of";
import { AnswerView } from "@/features/inquiry/answer-view";
import { AwaitedView } from "@/features/inquiry/awaited-view";
import { BlankView } from "@/features/inquiry/blank-view";
import { ImpossibleDraftView } from "@/features/inquiry/impossible-draft-view";
import { NotUnderstoodView } from "@/features/inquiry/not-understood-view";
import { PastView, TooLongView } from "@/features/inquiry/past-view";
import type { AskedQuestion } from "@/features/inquiry/question-line";
import { NoRegister } from "@/features/shell/no-register";
import { SheetView } from "@/features/inquiry/sheet-view";
import { VerdictView } from "@/features/inquiry/verdict-view";
import { notRead } from "@/features/words/not-read";
import type { Inquiry } from "@/operations/inquiry/inquiry";
import type { Account } from "@/operations/ports/accounts";
import { asking, may, nomade } from "@/wiring/nomade";
import { readAsked, registerOf } from "@/wiring/web/asked-question";
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
  const answered = answeredQuestion(asked);
  const { when } = answered;
  const [present, register] = [registerOf(inquiry), registerOf(answered)];
  const keep = keepQuestion;
  if (formOf(inquiry) === "verdict") {
    // What is now is told by the present register, whatever stood at the asked time.
    const isNow = when.kind === "any" || when.kind === "now";
    const now = await asking.traceInquiry(account, present, { ...inquiry, when: { kind: "now" } });
    const then = isNow ? undefined : await asking.traceInquiry(account, register, answered);
    // What opens as if live is told apart from what opens as things stand.
    const living: Inquiry = { ...answered, when: isNow ? { kind: "now" } : when, asIfLive: undefined };
    const asItIs = inquiry.asIfLive ? await asking.traceInquiry(account, register, living) : undefined;
    const year = await asking.yearOfPair(account, register, answered);
    return now ? <VerdictView asked={asked} now={now} then={then} asItIs={asItIs} year={year} reference={reference} keep={keep} /> : <NoRegister />;
  }
  if (formOf(inquiry) === "sheet") {
    const first = await asking.layOutSheet(account, register, answered, { row: 0, column: 0 });
    return first ? <SheetView key={JSON.stringify(answered)} asked={asked} first={first} reference={reference} keep={keep} /> : <NoRegister />;
  }
  const answer = await asking.answerInquiry(account, register, answered);
  if (!answer) return <NoRegister />;
  const first = answer.rows[0] ?? answer.asleep[0];
  const firstTrace = first && (await asking.traceInquiry(account, register, questionOfRow(answered, first)));
  return <AnswerView key={JSON.stringify(answered)} asked={asked} answer={answer} firstTrace={firstTrace} reference={reference} keep={keep} />;
}

/** The answer to a question about a past time that lies over several snapshots. */
async function PastAnswered({ account, asked, reference, parts }: AnsweredProps & { readonly parts: readonly PastPart[] }) {
  const answer = await asking.answerPast(account, asked.inquiry, parts);
  return <PastView asked={asked} answer={answer} reference={reference} keep={keepQuestion} />;
}

export default async function InquiryPage({ searchParams }: { readonly searchParams: Promise<AddressParts> }) {
  const account = await accountWith("ask");
  const query = await searchParams;
  const [snapshots, read] = await Promise.all([nomade.snapshotChoices(account), readAsked(account, query)]);
  const [latest] = snapshots;
  if (!latest) return <NoRegister />;
  const asksDraft = typeof query.draft === "string" && /^[1-9][0-9]{0,8}$/.test(query.draft) ? Number(query.draft) : undefined;
  const draft = asksDraft === undefined ? undefined : await asking.draftToAsk(account, asksDraft);
  if (draft && !draft.isPossible) return <ImpossibleDraftView draft={draft} reference={`Inquiry on snapshot ${latest.id}`} />;
  const wanted = read?.ok ? read.value.inquiry.snapshot : undefined;
  const snapshot = wanted === undefined ? latest : snapshots.find(({ id }) => id === wanted);
  // There is no such snapshot.
  if (!read || !snapshot) notFound();
  if (!read.ok) return <NotUnderstoodView parts={read.error} reference={`Inquiry on snapshot ${snapshot.id}`} />;
  const { inquiry, names, isThere } = read.value;
  // Of what the register does not hold nothing is said, least of all that nobody opens it.
  if (!isThere) notFound();
  const { who, where, when } = inquiry;
  const times = await asking.timesOfInquiry(account, undefined, inquiry);
  const parts = times?.outcome === "past" ? times.parts : [];
  // A past moment is told by the snapshot that stood then.
  const stood = parts.length === 1 ? parts[0]?.snapshot : undefined;
  const told = snapshots.find(({ id }) => id === stood) ?? snapshot;
  const drafts = may(account, "edit-drafts") && may(account, "read-whole") ? await nomade.listDrafts(account) : [];
  const reference = (
    <AsOf
      words={`Inquiry on ${draft ? `the draft “${draft.name}”, over ` : ""}snapshot ${told.id}${stood === undefined ? "" : parts[0]?.isBeforeAll ? ", the first of all, exported later" : ", which stood then"}${notRead(told)}`}
      inquiry={inquiry}
      stood={stood}
      snapshots={snapshots.map(({ id, takenAt }) => ({ id, takenAt }))}
      drafts={drafts.filter(({ state }) => state === "open").map(({ id, name }) => ({ id, name }))}
    />
  );
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
  const asked = { inquiry, names, stood };
  if (times?.outcome === "too-many") return <TooLongView asked={asked} count={times.count} most={mostParts} reference={reference} />;
  return (
    <Suspense key={JSON.stringify(query)} fallback={<AwaitedView asked={asked} reference={reference} />}>
      {parts.length > 1 ? (
        <PastAnswered account={account} asked={asked} reference={`Inquiry on ${parts.length} snapshots`} parts={parts} />
      ) : (
        <Answered account={account} asked={asked} reference={reference} />
      )}
    </Suspense>
  );
}

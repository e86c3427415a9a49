import { notFound } from "next/navigation";
import type { AddressParts } from "@/core/questions/question-address";
import { AsOf } from "@/features/inquiry/as-of";
import { AnswerView } from "@/features/inquiry/answer-view";
import { BlankView } from "@/features/inquiry/blank-view";
import { NotAnsweredYetView, NotUnderstoodView } from "@/features/inquiry/not-understood-view";
import { NoRegister } from "@/features/shell/no-register";
import { VerdictView } from "@/features/inquiry/verdict-view";
import { notRead } from "@/features/words/not-read";
import { asking, nomade } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";

export default async function InquiryPage({ searchParams }: { readonly searchParams: Promise<AddressParts> }) {
  const account = await accountWith("ask");
  const [snapshots, read] = await Promise.all([nomade.snapshotChoices(account), asking.readInquiry(account, undefined, await searchParams)]);
  const [latest] = snapshots;
  if (!latest || !read) return <NoRegister />;
  if (!read.ok) return <NotUnderstoodView parts={read.error} reference={`Inquiry on snapshot ${latest.id}`} />;
  const inquiry = read.value;
  const past = inquiry.snapshot === undefined ? undefined : snapshots.find(({ id }) => id === inquiry.snapshot);
  if (inquiry.snapshot !== undefined && !past) notFound();
  const snapshot = past ?? latest;
  const reference = (
    <AsOf
      words={`Inquiry on snapshot ${snapshot.id}${notRead(snapshot)}`}
      inquiry={inquiry}
      snapshots={snapshots.map(({ id, takenAt }) => ({ id, takenAt }))}
    />
  );
  if (!inquiry.who && !inquiry.where) {
    const [examples, waiting] = await Promise.all([asking.exampleQuestions(account, undefined), nomade.whatWaits(account)]);
    return <BlankView examples={examples ?? []} waiting={waiting} reference={reference} />;
  }
  const outcome = await asking.askInquiry(account, inquiry.snapshot, inquiry);
  if (!outcome) return <NoRegister />;
  if (outcome.outcome === "not-answered-yet") return <NotAnsweredYetView inquiry={inquiry} words={outcome.words} reference={reference} />;
  const { answer, answerable } = outcome;
  // Of what the register does not hold nothing is said, least of all that nobody opens it.
  if ((answerable.who && !answer.asked.who) || (answerable.where && !answer.asked.where)) notFound();
  if (answerable.who) await nomade.noteLookUp(account, "access", { ...answerable.who, name: answer.asked.who?.name });
  const asked = { inquiry: answerable, whoName: answer.asked.who?.name ?? answerable.who?.id, whereName: answer.asked.where?.name ?? answerable.where?.id };
  if (answerable.who && answerable.where?.kind === "door") {
    const now = await asking.traceInquiry(account, inquiry.snapshot, { ...inquiry, when: { kind: "now" } });
    const then = inquiry.when.kind === "any" || inquiry.when.kind === "now" ? undefined : await asking.traceInquiry(account, inquiry.snapshot, inquiry);
    if (now) return <VerdictView asked={asked} now={now} then={then} reference={reference} />;
  }
  const first = answer.rows[0] ?? answer.asleep[0];
  const firstTrace =
    first &&
    (await asking.traceInquiry(account, inquiry.snapshot, {
      ...inquiry,
      who: { kind: first.holder.kind, id: first.holder.id },
      where: { kind: "door", id: first.door.id },
    }));
  return <AnswerView key={JSON.stringify(inquiry)} asked={asked} answer={answer} firstTrace={firstTrace} reference={reference} />;
}

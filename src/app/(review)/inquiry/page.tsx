import { notFound } from "next/navigation";
import { AsOf } from "@/features/inquiry/as-of";
import { inquiryOf } from "@/features/inquiry/address";
import type { QuestionAddress } from "@/features/inquiry/address";
import { AnswerView } from "@/features/inquiry/answer-view";
import { BlankView } from "@/features/inquiry/blank-view";
import { NoRegister } from "@/features/shell/no-register";
import { VerdictView } from "@/features/inquiry/verdict-view";
import { notRead } from "@/features/words/not-read";
import { nomade } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web-session";

export default async function InquiryPage({ searchParams }: { readonly searchParams: Promise<QuestionAddress> }) {
  const account = await accountWith("ask");
  const inquiry = inquiryOf(await searchParams);
  const snapshots = await nomade.snapshots(account);
  const past = inquiry.snapshot === undefined ? undefined : snapshots.find(({ id }) => id === inquiry.snapshot);
  const snapshot = past ?? snapshots[0];
  if (!snapshot) return <NoRegister />;
  if (inquiry.snapshot !== undefined && !past) notFound();
  const reference = <AsOf words={`Inquiry on snapshot ${snapshot.id}${notRead(snapshot)}`} inquiry={inquiry} snapshots={snapshots} />;
  if (!inquiry.who && !inquiry.where) return <BlankView examples={await nomade.examples(account)} reference={reference} />;
  const answer = await nomade.answer(account, inquiry);
  if (!answer) return <NoRegister />;
  // Of what the register does not hold nothing is said, least of all that nobody opens it.
  if ((inquiry.who && !answer.asked.who) || (inquiry.where && !answer.asked.where)) notFound();
  const asked = { inquiry, whoName: answer.asked.who?.name ?? inquiry.who?.id, whereName: answer.asked.where?.name ?? inquiry.where?.id };
  if (inquiry.who && inquiry.where?.kind === "door") {
    const now = await nomade.trace(account, { ...inquiry, when: { kind: "now" } }, undefined);
    const then = inquiry.when.kind === "moment" ? await nomade.trace(account, inquiry, undefined) : undefined;
    if (now) return <VerdictView asked={asked} now={now} then={then} reference={reference} />;
  }
  const first = answer.rows[0] ?? answer.asleep[0];
  const firstTrace = first && (await nomade.trace(account, { ...inquiry, who: { kind: first.holder.kind, id: first.holder.id }, where: { kind: "door", id: first.door.id } }, undefined));
  return <AnswerView key={JSON.stringify(inquiry)} asked={asked} answer={answer} firstTrace={firstTrace} reference={reference} />;
}

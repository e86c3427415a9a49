import { notFound } from "next/navigation";
import type { AddressParts } from "@/core/questions/question-address";
import { ChartsView } from "@/features/inquiry/charts-view";
import { UnansweredView } from "@/features/inquiry/unanswered-view";
import { notRead } from "@/features/words/not-read";
import { asking } from "@/wiring/nomade";
import { readAskedOfOne } from "@/wiring/web/asked-question";
import { accountWith } from "@/wiring/web/web-session";

/** So many of the last snapshots are drawn beside each other. */
const snapshotsDrawn = 8;

export default async function ChartsPage({ searchParams }: { readonly searchParams: Promise<AddressParts> }) {
  const account = await accountWith("ask");
  const read = await readAskedOfOne(account, await searchParams);
  // What lies over several snapshots has no one week.
  if (read.outcome !== "asked") return <UnansweredView why={read} name="Inquiry" />;
  const { asked, register, told, snapshots } = read;
  const charts = await asking.chartInquiry(account, register, asked.inquiry);
  if (!charts) notFound();
  return (
    <ChartsView
      asked={asked}
      charts={charts}
      snapshots={snapshots
        .slice(0, snapshotsDrawn)
        .map(({ id }) => id)
        .reverse()}
      reference={`Inquiry on snapshot ${told.id}${notRead(told)}`}
    />
  );
}

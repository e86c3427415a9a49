import { notFound } from "next/navigation";
import type { AddressParts } from "@/core/questions/question-address";
import { ChartsView } from "@/features/inquiry/charts-view";
import { NotUnderstoodView } from "@/features/inquiry/not-understood-view";
import { TooLongView } from "@/features/inquiry/past-view";
import { NoRegister } from "@/features/shell/no-register";
import { notRead } from "@/features/words/not-read";
import { asking, nomade } from "@/wiring/nomade";
import { readAsked, registerOf } from "@/wiring/web/asked-question";
import { accountWith } from "@/wiring/web/web-session";

/** So many of the last snapshots are drawn beside each other. */
const snapshotsDrawn = 8;

export default async function ChartsPage({ searchParams }: { readonly searchParams: Promise<AddressParts> }) {
  const account = await accountWith("ask");
  const query = await searchParams;
  const [snapshots, read] = await Promise.all([nomade.snapshotChoices(account), readAsked(account, query)]);
  const [latest] = snapshots;
  if (!latest) return <NoRegister />;
  if (!read) notFound();
  if (!read.ok) return <NotUnderstoodView parts={read.error} reference={`Inquiry on snapshot ${latest.id}`} />;
  const { inquiry, names, isThere } = read.value;
  if (!isThere) notFound();
  const times = await asking.timesOfInquiry(account, undefined, inquiry);
  const parts = times?.outcome === "past" ? times.parts : [];
  // What lies over several snapshots has no one week.
  const count = times?.outcome === "too-many" ? times.count : parts.length;
  if (count > 1) return <TooLongView asked={{ inquiry, names }} count={count} most={1} reference="Inquiry on several snapshots" />;
  const stood = parts[0]?.snapshot;
  const asked = { inquiry, names, stood };
  const charts = await asking.chartInquiry(account, registerOf(stood === undefined ? inquiry : { snapshot: stood }), inquiry);
  if (!charts) notFound();
  const told = snapshots.find(({ id }) => id === (inquiry.snapshot ?? stood)) ?? latest;
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

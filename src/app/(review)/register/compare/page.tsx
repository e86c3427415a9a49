import { notFound } from "next/navigation";
import { ComparisonView } from "@/features/register/comparison-view";
import { asking, nomade } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";

const numberOf = (text: string | undefined): number => (/^[0-9]{1,9}$/.test(text ?? "") ? Number(text) : 0);

export default async function ComparisonPage({ searchParams }: { readonly searchParams: Promise<{ before?: string; after?: string }> }) {
  const account = await accountWith("read-whole");
  const { before, after } = await searchParams;
  const [found, snapshots] = await Promise.all([asking.compareSnapshots(account, numberOf(before), numberOf(after)), nomade.snapshotChoices(account)]);
  if (!found) notFound();
  const shown = ({ id, source, takenAt, counts }: typeof found.before) => ({ id, source, takenAt, counts });
  return <ComparisonView before={shown(found.before)} after={shown(found.after)} effect={found.effect} snapshots={snapshots} />;
}

import { notFound } from "next/navigation";
import { RoundView } from "@/features/certification/round-view";
import { asking } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";

export default async function RoundPage({ params }: { readonly params: Promise<{ round: string }> }) {
  const account = await accountWith("read-rounds");
  const id = Number((await params).round);
  const overview = Number.isInteger(id) ? await asking.showRound(account, id) : undefined;
  if (!overview) notFound();
  return <RoundView overview={overview} orders={await asking.listOrders(account, id)} />;
}

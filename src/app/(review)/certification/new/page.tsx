import { notFound } from "next/navigation";
import { PlanRound } from "@/features/certification/plan-round";
import { newRoundAddress, roundOfAddress } from "@/features/certification/round-address";
import { accountWith } from "@/wiring/web/web-session";
import { openRound, planRound } from "../actions";

interface Props {
  readonly searchParams: Promise<Record<string, string | string[] | undefined>>;
}

export default async function NewRoundPage({ searchParams }: Props) {
  await accountWith("run-rounds");
  const asked = roundOfAddress(await searchParams);
  // A round about everybody would be another one than was asked for.
  if (asked === null) notFound();
  // Another address is another plan.
  return <PlanRound key={newRoundAddress(asked)} asked={asked} plan={planRound} open={openRound} />;
}

import { notFound } from "next/navigation";
import { PlanRound } from "@/features/certification/plan-round";
import { aboutOfAddress } from "@/features/certification/round-address";
import { accountWith } from "@/wiring/web/web-session";
import { openRound, planRound } from "../actions";

interface Props {
  readonly searchParams: Promise<Record<string, string | string[] | undefined>>;
}

export default async function NewRoundPage({ searchParams }: Props) {
  await accountWith("run-rounds");
  const about = aboutOfAddress(await searchParams);
  // A round about everybody would be another one than was asked for.
  if (about === null) notFound();
  return <PlanRound about={about} plan={planRound} open={openRound} />;
}

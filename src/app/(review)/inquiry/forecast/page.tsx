import { notFound } from "next/navigation";
import { Suspense } from "react";
import { AwaitedForecast, ForecastView } from "@/features/inquiry/forecast-view";
import { NoRegister } from "@/features/shell/no-register";
import { notRead } from "@/features/words/not-read";
import type { Account } from "@/operations/ports/accounts";
import type { Snapshot } from "@/operations/ports/snapshots";
import { asking, longestForecastDays, nomade, usualForecastDays } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";

async function Worked({ account, snapshot, days }: { readonly account: Account; readonly snapshot: Snapshot; readonly days: number }) {
  const forecast = await asking.showForecast(account, undefined, days);
  if (!forecast) return <NoRegister />;
  return (
    <ForecastView key={forecast.days} forecast={forecast} longest={longestForecastDays} reference={`Forecast on snapshot ${snapshot.id}${notRead(snapshot)}`} />
  );
}

export default async function ForecastPage({ searchParams }: { readonly searchParams: Promise<{ readonly days?: string | string[] }> }) {
  const account = await accountWith("ask");
  const { days: asked } = await searchParams;
  if (asked !== undefined && (typeof asked !== "string" || !/^[1-9][0-9]{0,2}$/.test(asked) || Number(asked) > longestForecastDays)) notFound();
  const snapshot = await nomade.latestSnapshot();
  if (!snapshot) return <NoRegister />;
  const days = asked === undefined ? usualForecastDays : Number(asked);
  return (
    <Suspense key={days} fallback={<AwaitedForecast days={days} />}>
      <Worked account={account} snapshot={snapshot} days={days} />
    </Suspense>
  );
}

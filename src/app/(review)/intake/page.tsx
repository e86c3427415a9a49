import { IntakeView } from "@/features/intake/intake-view";
import { nomade, profileTargets } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";
import { discard, storeIntake, takeBackIntake } from "./actions";

export default async function IntakePage({ searchParams }: { readonly searchParams: Promise<{ readonly waiting?: string | string[] }> }) {
  const account = await accountWith("take-in");
  const [snapshots, sheets, arrivals, { waiting }] = await Promise.all([
    nomade.listSnapshots(account),
    nomade.listSources(account),
    nomade.listArrivals(account),
    searchParams,
  ]);
  return (
    <IntakeView
      snapshots={snapshots}
      sources={sheets.map(({ name }) => name)}
      targets={profileTargets}
      arrivals={arrivals}
      waiting={arrivals.find(({ token }) => token === waiting)}
      overdue={sheets.filter(({ isOverdue }) => isOverdue).map(({ name, dueAt }) => ({ name, dueAt }))}
      store={storeIntake}
      takeBack={takeBackIntake}
      discard={discard}
    />
  );
}

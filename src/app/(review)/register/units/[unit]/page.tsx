import { notFound } from "next/navigation";
import { UnitView } from "@/features/register/units/unit-view";
import { asking, may, nomade } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";
import { disturbDoor, dropUnit, keepUnit, presentAtUnit, sendAgain, setUnitLockdown, treatUnit } from "../actions";

export default async function UnitPage({ params }: { readonly params: Promise<{ readonly unit: string }> }) {
  const account = await accountWith("read-whole");
  const id = decodeURIComponent((await params).unit);
  const [latest, unit] = await Promise.all([nomade.latestSnapshot(), asking.showUnit(account, undefined, id)]);
  if (!unit || !latest) notFound();
  return (
    <UnitView
      unit={unit}
      snapshot={latest.id}
      mayTend={may(account, "tend-units")}
      mayKeep={may(account, "keep-units")}
      actions={{
        sendAgain,
        lockdown: setUnitLockdown,
        present: presentAtUnit,
        disturb: disturbDoor,
        treat: treatUnit,
        keep: keepUnit,
        drop: dropUnit,
      }}
    />
  );
}

import { UnitsView } from "@/features/register/units/units-view";
import { NoRegister } from "@/features/shell/no-register";
import { asking, nomade } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";

export default async function UnitsPage() {
  const account = await accountWith("read-whole");
  const [latest, units] = await Promise.all([nomade.latestSnapshot(), asking.listUnits(account, undefined)]);
  return units && latest ? <UnitsView units={units} snapshot={latest.id} /> : <NoRegister />;
}

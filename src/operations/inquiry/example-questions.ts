import { doorSensitivity } from "@/core/compile/door-sensitivity";
import { addDays, weekdayNumber } from "@/core/time/civil-day";
import type { CivilDay } from "@/core/time/civil-day";
import type { When } from "@/core/questions/when";
import { usualParts } from "@/core/questions/when-context";
import { monthsAhead } from "@/core/time/horizon";
import type { EpochMinute } from "@/core/time/instant";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import type { Position } from "@/core/compile/position-index";
import type { Inquiry } from "./inquiry";
import { minuteNow } from "./inquiry-context";
import type { Account } from "../ports/accounts";
import type { OpenRegister } from "../register/open-register";
import { demand } from "../rights";
import type { Services } from "../services";
import { todayOf } from "../findings/today";

export interface ExampleQuestion {
  readonly sentence: string;
  readonly inquiry: Inquiry;
}

/** The door to ask about first; of equally sensitive ones that which lies deepest. Where there is no door, the position of none. */
export function mostSensitiveDoor(compiled: CompiledFacility): Position {
  const weight = (position: number): number => 10 * doorSensitivity(compiled, position) + (compiled.doors[position]?.areas.length ?? 0);
  return compiled.doors.reduce((best, { position }) => (weight(position) > weight(best) ? position : best), 0);
}

/** Every night of the 13 months from a minute on. */
export const nightsFrom = (from: EpochMinute, compiled: CompiledFacility): When => ({
  kind: "recurring",
  days: { kind: "every-day" },
  hours: { kind: "between", start: usualParts.night[0], end: usualParts.night[1] },
  within: { kind: "instants", from, to: monthsAhead(from, compiled.vocabulary.zone) },
});

/** Questions worth asking of the register at hand: of its most sensitive door, and of whoever is most at risk. */
export async function exampleQuestions(services: Services, account: Account, { compiled, snapshot }: OpenRegister): Promise<ExampleQuestion[]> {
  demand(account, "ask");
  const asked = compiled.facility.doors[mostSensitiveDoor(compiled)];
  if (!asked) return [];
  const today = Math.floor(Date.parse(services.now()) / 86_400_000) as CivilDay;
  const saturday = addDays(today, (5 - weekdayNumber(today) + 7) % 7 || 7);
  const where: Inquiry["where"] = { kind: "door", id: asked.id };
  const open: Inquiry = { who: undefined, where, when: { kind: "any" }, lockdown: false };
  const nights = nightsFrom(minuteNow(services), compiled);
  const found = await services.findings.page(snapshot.id, {}, todayOf(services), 50);
  const risky = found.find(({ cardholder }) => cardholder !== undefined)?.cardholder;
  const { name, department } = compiled.facility.cardholders[compiled.cardholderById.get(risky ?? "") ?? -1] ?? {};
  const group = compiled.facility.groups[compiled.groupById.get(department ?? "") ?? -1];
  return [
    {
      sentence: `Who opens ${asked.name} on Saturday at 22:30?`,
      inquiry: { ...open, when: { kind: "moment", at: { date: saturday, minuteOfDay: 22 * 60 + 30 } } },
    },
    { sentence: `Who ever opens ${asked.name}?`, inquiry: open },
    { sentence: `Who could still open ${asked.name} in a lockdown?`, inquiry: { ...open, lockdown: true } },
    { sentence: "Who opens anything at night?", inquiry: { ...open, where: undefined, when: nights } },
    ...(risky === undefined || name === undefined
      ? []
      : [
          { sentence: `What does ${name} open?`, inquiry: { ...open, where: undefined, who: { kind: "cardholder" as const, id: risky } } },
          {
            sentence: `What does ${name} open at night?`,
            inquiry: { ...open, where: undefined, who: { kind: "cardholder" as const, id: risky }, when: nights },
          },
        ]),
    ...(group
      ? [
          {
            sentence: `What does everybody of ${group.name} open?`,
            inquiry: { ...open, where: undefined, who: { kind: "group" as const, id: group.id }, form: "sheet" as const },
          },
        ]
      : []),
  ];
}

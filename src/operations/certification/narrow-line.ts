import type { Narrowing } from "@/core/certification/decide-line";
import { isDefinition } from "@/core/certification/line-content";
import { doorsOfLine, withdrawLine } from "@/core/certification/line-withdrawal";
import type { NarrowingSchedule } from "@/core/certification/narrowings";
import { narrowingSchedules } from "@/core/certification/narrowings";
import { stayOf } from "@/core/certification/withdrawal/wish";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import { parseCivilDay } from "@/core/time/civil-day";
import { horizonOf } from "@/core/table/horizon";
import type { Account } from "../ports/accounts";
import { openRegister } from "../register/open-register";
import { demand } from "../rights";
import type { Services } from "../services";
import type { DecisionOutcome } from "./decide-line";
import { refused, writeDecision } from "./decide-line";
import { planningTerms } from "./orders-of-lines";
import { ownLine, seenLine } from "./docket-access";

/** In what ways a line can be narrowed. */
export interface NarrowingChoices {
  readonly schedules: readonly NarrowingSchedule[];
  /** Doors of the line, of which some may go. */
  readonly doors: readonly { readonly id: string; readonly name: string }[];
  /** The date of the export: what ends on it or earlier is no narrowing. */
  readonly after: string;
}

/** In what ways a line can be narrowed; undefined where there is no such line that the account may see, or it is about a card or a definition. */
export async function showNarrowings(services: Services, account: Account, lineId: number): Promise<NarrowingChoices | undefined> {
  demand(account, "see-dockets");
  const seen = await seenLine(services, account, lineId);
  const line = seen?.line.line;
  if (!seen || !line || isDefinition(line) || line.subject.kind === "credential") return undefined;
  const register = await openRegister(services, seen.round.snapshot);
  if (!register) return undefined;
  const opened = line.hours.flatMap(({ doors }) => doors);
  return { schedules: narrowingSchedules(horizonOf(register.compiled), line), doors: opened, after: register.snapshot.asOf.slice(0, 10) };
}

/** Whether a narrowing says something that can be: a schedule of the register, a date that is still to come, some of the line's doors but not all. */
export function isPossible(compiled: CompiledFacility, doors: readonly string[], narrowing: Narrowing): boolean {
  if (narrowing.kind === "doors") {
    const shut = new Set(narrowing.shut);
    return shut.size > 0 && shut.size < doors.length && [...shut].every((door) => doors.includes(door));
  }
  const { schedule, until } = narrowing;
  if (schedule !== undefined && compiled.indexes.of("schedules").get(schedule) === undefined) return false;
  if (until !== undefined && parseCivilDay(until) === undefined) return false;
  return stayOf(compiled, horizonOf(compiled).ahead, narrowing).isSomething;
}

/** The narrowing with what the register calls its schedule, whatever whoever asked calls it. */
function withName({ facility, indexes }: CompiledFacility, narrowing: Narrowing): Narrowing {
  if (narrowing.kind === "doors") return narrowing;
  const { schedule, until } = narrowing;
  const name = facility.schedules[indexes.of("schedules").get(schedule ?? "") ?? -1]?.name;
  return {
    kind: "hours",
    ...(schedule !== undefined && { schedule }),
    ...(name !== undefined && { scheduleName: name }),
    ...(until !== undefined && { until }),
  };
}

/** Keeps a line in part: in the hours of a schedule, until a last date, or at some of its doors. Refused where that would leave all as it is. */
export async function narrowLine(services: Services, account: Account, lineId: number, narrowing: Narrowing, reason: string): Promise<DecisionOutcome> {
  demand(account, "certify");
  const own = await ownLine(services, account, lineId);
  if (!own) return refused("not-yours");
  const { line } = own.line;
  if (isDefinition(line)) return refused("nothing-to-narrow");
  const register = line.subject.kind === "credential" ? undefined : await openRegister(services, own.round.snapshot);
  if (!register || !isPossible(register.compiled, doorsOfLine(register.compiled, line), narrowing)) return refused("nothing-to-narrow");
  const { changes, searched } = withdrawLine(horizonOf(register.compiled), line, narrowing, await planningTerms(services));
  if (changes.length === 0 && searched !== "none") return refused("nothing-to-narrow");
  return writeDecision(services, account, own, { decision: "narrow", narrowing: withName(register.compiled, narrowing), reason });
}

import { EventBook, eachOnce } from "@/core/events/event-book";
import type { ToldEvent } from "@/core/events/event-book";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import { aheadOf } from "@/core/facility/ahead";
import { instantOf } from "@/core/facility/time-rules";
import { Judged } from "@/core/findings/judged";
import type { Decided, PublicHolidays } from "@/core/findings/judged";
import { Horizon } from "@/core/table/horizon";
import { minuteDown, parseInstant } from "@/core/time/instant";
import { compiledFrom } from "~/tests/builders";
import type { JudgedCase } from "./arbitrary-findings";
import type { RawEvent } from "./findings/terms";

/** An event as it is read. */
export const told = ({ at, result, ...event }: RawEvent): ToldEvent => ({
  ...(Object.fromEntries(Object.entries(event).filter(([, text]) => text !== "")) as Omit<RawEvent, "at" | "result">),
  second: parseInstant(at)?.seconds ?? 0,
  granted: result === "granted",
});

export const decidedIn = ({ decisions }: JudgedCase): Decided[] | undefined =>
  decisions?.map(({ at, cardholder, credential, area, decision }) => ({
    at: minuteDown(instantOf(at)),
    holder: cardholder === undefined ? { kind: "credential", id: credential ?? "" } : { kind: "cardholder", id: cardholder },
    area,
    decision,
  }));

/** A drawn register as rules look at it, with all of its events at hand. */
export function judgedOfCase(
  drawn: JudgedCase,
  publicHolidays: PublicHolidays = () => [],
): { readonly judged: Judged; readonly compiled: CompiledFacility; readonly documents: readonly CompiledFacility[] } {
  const compiled = compiledFrom(drawn.facility);
  const ahead = aheadOf(compiled.facility, drawn.settings.horizonDays);
  const documents = drawn.earlier.map((document) => compiledFrom(document));
  const judged = new Judged({
    horizon: new Horizon(compiled, ahead),
    settings: drawn.settings,
    events: new EventBook(compiled, eachOnce(drawn.events.map(told)), ahead.from),
    earlier: documents.map((document) => ({ compiled: document, asOf: minuteDown(instantOf(document.facility.asOf)) })),
    decisions: decidedIn(drawn),
    publicHolidays,
    peopleSources: drawn.peopleSources.map(({ source, people }) => ({ source, people: new Set(people) })),
    houseRules: drawn.houseRules,
    unitReports: undefined,
  });
  return { judged, compiled, documents };
}

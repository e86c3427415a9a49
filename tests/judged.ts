import type { Evidence } from "@/core/events/event-book";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import { Judged } from "@/core/findings/judged";
import type { JudgedInput } from "@/core/findings/judged";
import { usualSettings } from "@/core/findings/settings";
import { noEvents } from "@/core/findings/use";
import type { UseRecord } from "@/core/findings/use";
import { required } from "@/core/kernel/invariant";
import type { Horizon } from "@/core/table/horizon";

/** The last uses of credentials and the dates with events as evidence; of single events nothing is known. */
const evidenceOf = ({ facility }: CompiledFacility, use: UseRecord): Evidence => ({
  events: [],
  of: () => [],
  lastGrantedOf: (credential) => use.lastUse(required(facility.credentials[credential], "positions are valid").id),
  lastGrantedByDoor: () => new Map(),
  lastOutOfHoursByDoor: () => new Map(),
  datesAt: use.eventDates,
});

/** A register as rules look at it, with the usual settings, and nothing before it, unless something else is given. */
export const judgedOf = (horizon: Horizon, { use = noEvents, ...given }: Partial<JudgedInput> & { readonly use?: UseRecord } = {}): Judged =>
  new Judged({
    horizon,
    settings: usualSettings,
    events: evidenceOf(horizon.compiled, use),
    earlier: [],
    decisions: undefined,
    publicHolidays: () => [],
    peopleSources: [],
    houseRules: [],
    unitReports: undefined,
    ...given,
  });

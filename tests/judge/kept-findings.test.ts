import { expect, it } from "@jest/globals";
import fc from "fast-check";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import { EventBook } from "@/core/events/event-book";
import type { ToldEvent } from "@/core/events/event-book";
import { aheadOf } from "@/core/facility/ahead";
import { instantOf } from "@/core/facility/time-rules";
import { countedPlaces } from "@/core/findings/counted-places";
import { judgeAll } from "@/core/findings/judge";
import { Judged } from "@/core/findings/judged";
import type { Decided } from "@/core/findings/judged";
import type { RuleSettings } from "@/core/findings/settings";
import { Horizon } from "@/core/table/horizon";
import { minuteDown, parseInstant } from "@/core/time/instant";
import { judged, judgedHorizon, judgingOf } from "@/operations/findings/judging";
import type { Services } from "@/operations/services";
import { compiledFrom } from "~/tests/builders";
import { memoryEvents } from "~/tests/contract/memory-events";
import { arbitraryCase } from "./arbitrary-findings";
import type { RawEvent } from "./findings/terms";

const told = ({ at, result, ...event }: RawEvent): ToldEvent => ({
  ...(Object.fromEntries(Object.entries(event).filter(([, text]) => text !== "")) as Omit<RawEvent, "at" | "result">),
  second: parseInstant(at)?.seconds ?? 0,
  granted: result === "granted",
});

async function* streamed(events: readonly ToldEvent[]): AsyncGenerator<ToldEvent> {
  for (const event of events) {
    await Promise.resolve();
    yield event;
  }
}

const lines = (one: Judged): string[] =>
  Array.from(judgeAll(one, undefined, true), (line) => JSON.stringify(line, (_, value: unknown) => (value instanceof Map ? [...value] : value)));

/** Services that hold a register as the last of several snapshots, and events as they were taken in. */
async function servicesWith(
  present: CompiledFacility,
  earlier: readonly CompiledFacility[],
  events: readonly ToldEvent[],
  settings: RuleSettings,
  decided: Decided[] | undefined,
): Promise<Services> {
  const kept = memoryEvents();
  const all = [...earlier, present];
  await kept.store({ name: "events", hash: "e", source: "" }, streamed(events), countedPlaces(present, settings), { signIn: "test" }, "", () => undefined);
  return {
    events: kept,
    ruleSettings: { current: () => Promise.resolve({ version: 1, settings, secondPersonFrom: 50 }) },
    snapshots: {
      list: () => Promise.resolve(all.map(({ facility }, i) => ({ id: i + 1, asOf: facility.asOf }))),
      byId: (id: number) => Promise.resolve({ id, asOf: all[id - 1]?.facility.asOf }),
    },
    compiled: ({ id }: { readonly id: number }) => Promise.resolve(all[id - 1]),
    rounds: { decided: () => Promise.resolve(decided) },
    publicHolidays: () => Promise.resolve(() => []),
  } as unknown as Services;
}

it("what is kept of events, snapshots and decisions gives the same findings as reading all of them", async () => {
  let found = 0;
  await fc.assert(
    fc.asyncProperty(arbitraryCase, async ({ facility, settings, events, earlier, decisions }) => {
      const compiled = compiledFrom(facility);
      const documents = earlier.map((document) => compiledFrom(document));
      const decided = decisions?.map(({ at, cardholder, credential, area, decision }): Decided => ({
        at: minuteDown(instantOf(at)),
        holder: cardholder === undefined ? { kind: "credential", id: credential ?? "" } : { kind: "cardholder", id: cardholder },
        area,
        decision,
      }));
      const ahead = aheadOf(compiled.facility, settings.horizonDays);
      const whole = new Judged({
        horizon: new Horizon(compiled, ahead),
        settings,
        events: new EventBook(compiled, events.map(told), ahead.from),
        earlier: documents.map((document) => ({ compiled: document, asOf: minuteDown(instantOf(document.facility.asOf)) })),
        decisions: decided,
        publicHolidays: () => [],
      });
      const services = await servicesWith(compiled, documents, events.map(told), settings, decided);
      const judging = await judgingOf(services, compiled, documents.length + 1);
      const expected = lines(whole);
      expect(lines(judged(judgedHorizon(compiled, judging.settings), judging))).toEqual(expected);
      found += expected.length;
    }),
    { numRuns: 12 },
  );
  expect(found).toBeGreaterThan(0);
});

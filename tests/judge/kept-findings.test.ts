import { expect, it } from "@jest/globals";
import fc from "fast-check";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import type { ToldEvent } from "@/core/events/event-book";
import { countedPlaces } from "@/core/findings/counted-places";
import { judgeAll } from "@/core/findings/judge";
import type { Decided, Judged } from "@/core/findings/judged";
import { usualSettings } from "@/core/findings/settings";
import type { RuleSettings } from "@/core/findings/settings";
import { judged, judgedHorizon, judgingOf } from "@/operations/findings/judging";
import type { Services } from "@/operations/services";
import { compiledFrom } from "~/tests/builders";
import { memoryEvents } from "~/tests/contract/memory-events";
import type { JudgedCase } from "./arbitrary-findings";
import { arbitraryCase } from "./arbitrary-findings";
import { decidedIn, judgedOfCase, told } from "./judged-case";

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
  peopleSources: JudgedCase["peopleSources"],
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
    houseRules: { inForce: () => Promise.resolve([]) },
    units: { all: () => Promise.resolve([]) },
    rounds: { decided: () => Promise.resolve(decided) },
    publicHolidays: () => Promise.resolve(() => []),
    deliveries: { peopleSources: () => Promise.resolve(peopleSources.map(({ source, people }) => ({ source, people: new Set(people) }))) },
    sources: { owns: () => Promise.resolve({}) },
  } as unknown as Services;
}

/** By which settings the events are counted: those that are judged by, or others, as when settings are tried out. */
it.each(["the same", "other"] as const)(
  "what is kept of events, snapshots and decisions gives the same findings as reading all of them, counted by %s settings",
  async (counted) => {
    let found = 0;
    await fc.assert(
      fc.asyncProperty(arbitraryCase, async (drawn) => {
        const { judged: whole, compiled, documents } = judgedOfCase({ ...drawn, houseRules: [] });
        const inForce = counted === "other" ? usualSettings : drawn.settings;
        const services = await servicesWith(compiled, documents, drawn.events.map(told), inForce, decidedIn(drawn), drawn.peopleSources);
        const judging = await judgingOf(services, compiled, documents.length + 1, counted === "other" ? drawn.settings : undefined);
        const expected = lines(whole);
        expect(lines(judged(judgedHorizon(compiled, judging.settings), judging))).toEqual(expected);
        found += expected.length;
      }),
      { numRuns: 12 },
    );
    expect(found).toBeGreaterThan(0);
  },
);

it("events of two sources that call theirs the same are two", async () => {
  const compiled = compiledFrom({
    doors: [{ id: "gate", name: "Gate", site: "garden" }],
    credentials: [{ id: "c1", cardholder: "iris", kind: "card", status: "active" }],
  });
  const at = Date.parse(compiled.facility.asOf) / 1000;
  const one = (second: number): ToldEvent => ({ second, door: "gate", credential: "c1", granted: false, id: "1" });
  const services = await servicesWith(compiled, [], [one(at - 7200)], usualSettings, undefined, []);
  const second = { name: "other", hash: "f", source: "other" };
  await services.events.store(second, streamed([one(at - 3600)]), countedPlaces(compiled, usualSettings), { signIn: "test" }, "", () => undefined);
  const judging = await judgingOf(services, compiled, 1);
  const { events } = judged(judgedHorizon(compiled, judging.settings), judging);
  expect(events.of(0).map(({ second: of }) => at - of)).toEqual([7200, 3600]);
});

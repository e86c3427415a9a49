import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { memoryEvents } from "~/tests/contract/memory-events";
import { verraneInstitute } from "~/demo/institute";
import { compiledFrom, minute } from "~/tests/builders";
import { arbitraryFacility } from "~/tests/judge/arbitrary-facility";
import { compileFacility } from "@/core/compile/compile-facility";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import { withAllLists } from "@/core/facility/facility";
import { required } from "@/core/kernel/invariant";
import { listOfKind, registerKinds } from "@/core/register/kinds";
import type { RegisterKind } from "@/core/register/kinds";
import { ordinary } from "@/core/paths/paths";
import { exactTimeframe } from "@/core/paths/timeframe";
import { cardholderOpenIn } from "@/core/paths/timetable";
import { monthsAhead } from "@/core/time/horizon";
import type { Account } from "../ports/accounts";
import type { OpenRegister } from "./open-register";
import type { Services } from "../services";
import { changesOf, showObject } from "./show-object";

const tessa: Account = { id: 1, signIn: "tessa", name: "Tessa", role: "reviewer", cardholder: undefined };

describe("the history of an object", () => {
  it("says what came, what changed from one snapshot to the next, and what went", () => {
    expect(
      changesOf([
        { since: 1, until: 3, values: { name: "Iris", department: "d1" } },
        { since: 3, until: 5, values: { name: "Iris", department: "d2", until: "2026-12-31" } },
      ]),
    ).toEqual([
      { snapshot: 1, what: "came", values: [] },
      {
        snapshot: 3,
        what: "changed",
        values: [
          { field: "department", before: "d1", after: "d2" },
          { field: "until", before: undefined, after: "2026-12-31" },
        ],
      },
      { snapshot: 5, what: "went", values: [] },
    ]);
  });

  it("tells an object that was away for a while from one that changed", () => {
    const values = { name: "Iris" };
    expect(
      changesOf([
        { since: 1, until: 2, values },
        { since: 4, until: undefined, values },
      ]).map(({ snapshot, what }) => `${what} ${snapshot}`),
    ).toEqual(["came 1", "went 2", "came 4"]);
    expect(changesOf([])).toEqual([]);
  });
});

describe("an object with what hangs on it", () => {
  const services = {
    now: () => "2026-03-01T08:00:00Z",
    findings: { page: () => Promise.resolve([]) },
    register: { versions: () => Promise.resolve([]) },
    snapshots: { latest: () => Promise.resolve({ id: 1 }) },
    events: memoryEvents(),
  } as unknown as Services;
  const registerOf = (compiled: CompiledFacility): OpenRegister => ({ snapshot: { id: 1, hash: "made for a test" }, compiled }) as unknown as OpenRegister;
  const idsOf = ({ facility }: CompiledFacility, kind: RegisterKind): string[] => facility[listOfKind[kind]].map(({ id }) => id);
  const demo = compileFacility(withAllLists(verraneInstitute({ cardholders: 40, doors: 95, seed: 3 })));

  it("is shown of every kind, and leads only to objects that are there", async () => {
    const known = new Map(registerKinds.map((kind) => [kind, new Set(idsOf(demo, kind))]));
    let links = 0;
    for (const kind of registerKinds)
      for (const id of idsOf(demo, kind)) {
        const sheet = required(await showObject(services, tessa, registerOf(demo), { kind, id }), `${kind} ${id}`);
        expect([sheet.kind, sheet.id, sheet.name === ""]).toEqual([kind, id, false]);
        for (const { link } of sheet.facts) if (link) expect([kind, id, link, known.get(link.kind)?.has(link.id)]).toEqual([kind, id, link, true]);
        for (const section of sheet.sections) {
          expect(section.rows.length).toBe(Math.min(section.total, 12));
          for (const row of section.rows)
            expect([kind, id, section.kind, row.id, known.get(section.kind)?.has(row.id)]).toEqual([kind, id, section.kind, row.id, true]);
        }
        links += sheet.facts.filter(({ link }) => link).length;
      }
    expect(links).toBeGreaterThan(400);
  });

  it("is not there where the register has none of its kind and id", async () => {
    for (const kind of registerKinds) expect(await showObject(services, tessa, registerOf(demo), { kind, id: "nothing has this id" })).toBeUndefined();
  });

  it("counts for a person just the doors that they open in the 13 months, and the sensitive ones among them", async () => {
    await fc.assert(
      fc.asyncProperty(arbitraryFacility, async (draft) => {
        // The inner area is sensitive by the outer one that it lies in.
        const compiled = compiledFrom({ ...draft, areas: (draft.areas ?? []).map((area) => (area.parent === undefined ? { ...area, sensitivity: 2 } : area)) });
        const asOf = minute("2026-03-01T00:00:00Z");
        const reading = exactTimeframe(compiled, asOf, monthsAhead(asOf, compiled.vocabulary.zone), ordinary);
        for (const { position, cardholder } of compiled.cardholders) {
          const opened = compiled.doors.filter((door) => cardholderOpenIn(compiled, reading, position, door.position).length > 0);
          const sheet = await showObject(services, tessa, registerOf(compiled), { kind: "cardholder", id: cardholder.id });
          expect(sheet?.reach).toEqual({ doors: opened.length, sensitive: opened.filter(({ door }) => door.area !== undefined).length });
        }
      }),
      { numRuns: 40 },
    );
  });

  it("shows the week, the rows and the coming days of a schedule", async () => {
    const compiled = compiledFrom({
      asOf: "2026-04-29T10:00:00Z",
      sites: [{ id: "garden", name: "Garden", timeZone: "Europe/Vienna", calendar: "days" }],
      calendars: [{ id: "days", name: "Days", days: [{ name: "Labour Day", dayType: "public", yearly: "05-01" }] }],
      schedules: [
        { id: "late", name: "Late", week: { thu: [["20:00", "02:00"]], fri: [["08:00", "12:00"]] }, holidays: { public: [["10:00", "11:00"]] } },
        { id: "always", name: "Always", always: true },
        { id: "public-only", name: "Public days", week: {}, holidays: { public: [["09:00", "10:00"]] } },
      ],
    });
    const sheetOf = async (id: string) => required((await showObject(services, tessa, registerOf(compiled), { kind: "schedule", id }))?.schedule, id);
    const late = await sheetOf("late");
    // Minutes from Monday: Thursday 20:00 until Friday 02:00, and Friday 08:00 to 12:00.
    expect(late.week).toEqual([3 * 1440 + 1200, 4 * 1440, 4 * 1440, 4 * 1440 + 120, 4 * 1440 + 480, 4 * 1440 + 720]);
    expect(late.rows.filter(({ words }) => words !== "closed")).toEqual([
      { day: "Thursday", words: "20:00–02:00" },
      { day: "Friday", words: "08:00–12:00" },
      { day: "On public holidays", words: "10:00–11:00" },
    ]);
    expect((await sheetOf("always")).rows).toEqual([{ day: "Always", words: "at all hours, whatever the day" }]);
    expect((await sheetOf("public-only")).words).toBe("Closed on ordinary days; opens only on day types with a row of their own.");
    expect((await sheetOf("late")).sites.map(({ id, timeZone, days }) => [id, timeZone, days.length > 0])).toEqual([["garden", "Europe/Vienna", true]]);
  });
});

import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { Temporal } from "temporal-polyfill";
import { compiledFrom, minute } from "~/tests/builders";
import { memoryEvents } from "~/tests/contract/memory-events";
import { arbitraryFacility, askedDays } from "~/tests/judge/arbitrary-facility";
import { Judge } from "~/tests/judge/judge";
import { usualRuleSettings } from "~/tests/settings";
import type { FacilityDocument } from "@/core/facility/document";
import { required } from "@/core/kernel/invariant";
import { formsOf } from "@/core/questions/answer-form";
import type { Where, Who } from "@/core/questions/question";
import { minutesADay, parseCivilDay } from "@/core/time/civil-day";
import type { CivilDay } from "@/core/time/civil-day";
import { zoneOf } from "@/core/time/zone";
import type { OpenRegister } from "../register/open-register";
import type { Account } from "../ports/accounts";
import type { Services } from "../services";
import { answerInquiry } from "./answer-inquiry";
import type { Inquiry } from "./inquiry";
import { layOutSheet } from "./lay-out-sheet";

const tessa: Account = { id: 1, signIn: "tessa", name: "Tessa", role: "reviewer", cardholder: undefined };
const services = {
  now: () => "2026-03-02T06:00:00Z",
  findings: { page: () => Promise.resolve([]), risks: () => Promise.resolve(new Map()) },
  events: memoryEvents(),
  ruleSettings: usualRuleSettings,
} as unknown as Services;
const registerOf = (draft: Partial<FacilityDocument>): OpenRegister =>
  ({ snapshot: { id: 1, hash: "made for a test" }, compiled: compiledFrom(draft) }) as unknown as OpenRegister;

const dayOf = (text: string): CivilDay => required(parseCivilDay(text), "a date");

/** What the text says, read aloud, over a document that `arbitraryFacility` draws: two people, three cards, three doors. */
class Literal {
  constructor(private readonly draft: FacilityDocument) {}

  /** Whether something that says until when it lasts is over before a minute; dates last to their end on the facility's clock. */
  private isOver(until: string | undefined, from: number): boolean {
    if (until === undefined) return false;
    if (until.length > 10) return Math.ceil(Date.parse(until) / 60_000) <= from;
    const end = Temporal.PlainDate.from(until).add({ days: 1 }).toZonedDateTime({ timeZone: this.draft.timeZone });
    return Math.ceil(end.epochMilliseconds / 60_000) <= from;
  }

  private groupsWith(id: string): string[] {
    const below = (this.draft.groups ?? []).filter(({ parent }) => parent === id).flatMap((group) => this.groupsWith(group.id));
    return [id, ...below];
  }

  private members(group: string, from: number): string[] {
    const groups = this.groupsWith(group);
    return [
      ...(this.draft.cardholders ?? []).filter(({ department }) => department !== undefined && groups.includes(department)).map(({ id }) => `cardholder ${id}`),
      ...(this.draft.memberships ?? [])
        .filter((one) => groups.includes(one.group) && !this.isOver(one.until, from))
        .map(({ cardholder }) => `cardholder ${cardholder}`),
    ];
  }

  people(who: Who | undefined, from: number): Set<string> {
    const { cardholders = [], credentials = [], grants = [] } = this.draft;
    if (!who || who.kind === "everybody")
      return new Set([
        ...cardholders.map(({ id }) => `cardholder ${id}`),
        ...credentials.filter(({ cardholder }) => cardholder === undefined).map(({ id }) => `credential ${id}`),
      ]);
    if (who.kind === "cardholder" || who.kind === "credential") return new Set([`${who.kind} ${who.id}`]);
    if (who.kind === "type") return new Set(cardholders.filter(({ type = "employee" }) => type === who.type).map(({ id }) => `cardholder ${id}`));
    if (who.kind === "group") return new Set(this.members(who.id, from));
    const giving = grants.filter(
      ({ open, effect, until }) =>
        effect !== "block" && !this.isOver(until, from) && (who.kind === "level" ? open.level === who.id || open.bundle === "b1" : open.bundle === who.id),
    );
    return new Set(
      giving.flatMap(({ to }) => {
        if (to.cardholder !== undefined) return [`cardholder ${to.cardholder}`];
        if (to.group !== undefined) return this.members(to.group, from);
        const holder = credentials.find(({ id }) => id === to.credential)?.cardholder;
        return [holder === undefined ? `credential ${to.credential ?? ""}` : `cardholder ${holder}`];
      }),
    );
  }

  doors(where: Where | undefined): string[] {
    const { doors = [], levels = [] } = this.draft;
    const inArea = (id: string): string[] => doors.filter(({ area }) => area === id || (id === "a1" && area === "a2")).map((door) => door.id);
    const inGroup = (id: string): string[] => (id === "dg1" ? ["d1", "d2", "d3"] : ["d2", "d3"]);
    if (!where || where.kind === "anywhere") return doors.map(({ id }) => id);
    if (where.kind === "door") return [where.id];
    if (where.kind === "area") return inArea(where.id);
    if (where.kind === "doorGroup") return inGroup(where.id);
    if (where.kind === "site") return doors.filter(({ site }) => site === where.id).map(({ id }) => id);
    if (where.kind === "sensitivity")
      return doors
        .filter(
          ({ area }) =>
            Math.max(
              0,
              ...(this.draft.areas ?? []).filter(({ id }) => id === area || (area === "a2" && id === "a1")).map(({ sensitivity = 0 }) => sensitivity),
            ) >= where.from,
        )
        .map(({ id }) => id);
    return (levels.find(({ id }) => id === where.id)?.rows ?? []).flatMap((row) =>
      row.door !== undefined ? [row.door] : row.doorGroup !== undefined ? inGroup(row.doorGroup) : inArea(row.area ?? ""),
    );
  }

  cards(person: string): string[] {
    const [kind, id] = person.split(" ");
    return (this.draft.credentials ?? []).filter((one) => (kind === "credential" ? one.id === id : one.cardholder === id)).map((one) => one.id);
  }
}

const whos = fc.constantFrom<Who | undefined>(
  undefined,
  { kind: "everybody" },
  { kind: "type", type: "employee" },
  { kind: "type", type: "contractor" },
  { kind: "group", id: "g1" },
  { kind: "group", id: "g2" },
  { kind: "level", id: "l1" },
  { kind: "bundle", id: "b1" },
  { kind: "cardholder", id: "h1" },
  { kind: "credential", id: "c3" },
);
const wheres = fc.constantFrom<Where | undefined>(
  undefined,
  { kind: "anywhere" },
  { kind: "door", id: "d2" },
  { kind: "area", id: "a1" },
  { kind: "site", id: "x" },
  { kind: "doorGroup", id: "dg1" },
  { kind: "doorGroup", id: "dg2" },
  { kind: "level", id: "l2" },
  { kind: "sensitivity", from: 2 },
);

const dateOf = (day: string): CivilDay => (minute(`${day}T00:00:00Z`) / minutesADay) as CivilDay;
const documents = fc
  .tuple(arbitraryFacility, fc.constantFrom(0 as const, 2 as const, 3 as const), fc.constantFrom(undefined, "contractor" as const))
  .map(([draft, sensitivity, type]) => ({
    ...draft,
    areas: (draft.areas ?? []).map((area) => (area.id === "a1" ? { ...area, sensitivity } : area)),
    cardholders: (draft.cardholders ?? []).map((one) => (one.id === "h2" && type ? { ...one, type } : one)),
  }));

describe("questions about several people and several doors", () => {
  it("are answered by person, by door and as a sheet with just the pairs that the judge says open at the moment", async () => {
    await fc.assert(
      fc.asyncProperty(
        documents,
        whos,
        wheres,
        fc.constantFrom("2026-01-31", ...askedDays, "2027-06-30"),
        fc.nat(1439),
        fc.boolean(),
        fc.constantFrom(undefined, true as const),
        async (draft, who, where, date, minuteOfDay, lockdown, asIfLive) => {
          const register = registerOf(draft);
          const asked: Inquiry = { who, where, when: { kind: "moment", at: { date: dateOf(date), minuteOfDay } }, lockdown, asIfLive };
          const judge = new Judge(draft);
          const literal = new Literal(draft);
          const clock = `${String(Math.floor(minuteOfDay / 60)).padStart(2, "0")}:${String(minuteOfDay % 60).padStart(2, "0")}`;
          const instants = new Map(
            (draft.sites ?? []).map(({ id, timeZone }) => {
              const local = Temporal.PlainDateTime.from(`${date}T${clock}`);
              const both = (["earlier", "later"] as const).map((disambiguation) => local.toZonedDateTime(zoneOf(timeZone).name, { disambiguation }));
              return [id, [...new Set(both.filter((one) => one.toPlainDateTime().equals(local)).map((one) => one.epochMilliseconds / 60_000))]];
            }),
          );
          const doors = [...new Set(literal.doors(where))];
          const meant = doors.flatMap(
            (id) =>
              instants.get(
                required(
                  draft.doors?.find((door) => door.id === id),
                  "doors are there",
                ).site,
              ) ?? [],
          );
          const people = [...literal.people(who, Math.min(minute("2026-03-01T00:00:00Z"), ...meant))];
          const opens = (person: string, id: string, woken: boolean): boolean =>
            literal.cards(person).some((card) =>
              (
                instants.get(
                  required(
                    draft.doors?.find((door) => door.id === id),
                    "doors are there",
                  ).site,
                ) ?? []
              ).some((at) => judge.reason(card, id, BigInt(at), { lockdown, asIfLive: woken }) === "open"),
            );
          const doorsOf = (person: string, woken: boolean): string[] => doors.filter((id) => opens(person, id, woken));
          const openersOf = (id: string, woken: boolean): string[] => people.filter((person) => opens(person, id, woken));
          /** What is told apart: what opens as if live where nothing opens otherwise; asked as if live, all that does not open otherwise. */
          const apart = (live: readonly string[], woken: readonly string[]): readonly string[] =>
            asIfLive ? woken.filter((one) => !live.includes(one)) : live.length === 0 ? woken : [];

          for (const form of formsOf(asked)) {
            if (form === "verdict") continue;
            if (form === "sheet") {
              const laid = await layOutSheet(services, tessa, register, { ...asked, form }, { row: 0, column: 0 });
              const pairs = laid.rows.flatMap((row, i) =>
                laid.columns.flatMap((column, j) => (laid.cells[i]?.[j] ? [`${row.kind} ${row.id} ${column.id}`] : [])),
              );
              const woken = asIfLive === true;
              expect(pairs.sort()).toEqual(people.flatMap((person) => doorsOf(person, woken).map((id) => `${person} ${id}`)).sort());
              const asleep = laid.rows.flatMap((row, i) =>
                laid.columns.filter((_, j) => laid.cells[i]?.[j]?.[3] === 1).map(({ id }) => `${row.kind} ${row.id} ${id}`),
              );
              const expectedAsleep = people.flatMap((person) =>
                doorsOf(person, woken)
                  .filter((id) => !opens(person, id, false))
                  .map((id) => `${person} ${id}`),
              );
              expect(asleep.sort()).toEqual(expectedAsleep.sort());
              // Taken together, a cell counts the people of the department who open anything of the area.
              const folded = await layOutSheet(services, tessa, register, { ...asked, form, fold: "both" }, { row: 0, column: 0 });
              const areaOf = (id: string): string => draft.doors?.find((door) => door.id === id)?.area ?? "";
              const departmentOf = (person: string): string => draft.cardholders?.find(({ id }) => person === `cardholder ${id}`)?.department ?? "";
              for (const [i, row] of folded.rows.entries())
                for (const [j, column] of folded.columns.entries())
                  expect(folded.cells[i]?.[j]?.[2] ?? 0).toBe(
                    people.filter((person) => departmentOf(person) === row.id && doorsOf(person, woken).some((id) => areaOf(id) === column.id)).length,
                  );
              continue;
            }
            const answer = await answerInquiry(services, tessa, register, { ...asked, form });
            expect([answer.askedHolders, answer.askedDoors]).toEqual([people.length, doors.length]);
            const found = (rows: typeof answer.rows): string[] =>
              rows
                .map((row) => (form === "people" ? `${row.holder.kind} ${row.holder.id} ${row.furtherDoors + 1}` : `${row.door.id} ${row.furtherHolders + 1}`))
                .sort();
            const counted = (one: string, of: readonly string[]): string[] => (of.length > 0 ? [`${one} ${of.length}`] : []);
            const rowsOf = (of: (one: string, woken: boolean) => string[], all: readonly string[]) => ({
              awake: all.flatMap((one) => counted(one, of(one, false))).sort(),
              asleep: all.flatMap((one) => counted(one, apart(of(one, false), of(one, true)))).sort(),
            });
            // By door, what is apart without being asked for are doors that nobody opens as things stand.
            const expected = form === "people" ? rowsOf(doorsOf, people) : rowsOf(openersOf, doors);
            expect([form, found(answer.rows), found(answer.asleep)]).toEqual([form, expected.awake, expected.asleep]);
          }
        },
      ),
      { numRuns: 60 },
    );
  });

  it("are given a page at a time: the pages together are the whole, each row once", async () => {
    const count = 23;
    const people = Array.from({ length: count }, (_, i) => ({ id: `p${i}`, name: `Person ${i % 7}`, status: "active" as const }));
    const register = registerOf({
      cardholders: people,
      credentials: people.map(({ id }, i) => ({
        id: `c-${id}`,
        cardholder: id,
        kind: "card" as const,
        status: i % 5 === 0 ? ("suspended" as const) : ("active" as const),
      })),
      grants: people.map(({ id }) => ({ id: `g-${id}`, to: { cardholder: id }, open: { door: "gate" }, schedule: "always" })),
    });
    const asked: Inquiry = { who: undefined, where: { kind: "door", id: "gate" }, when: { kind: "any" }, lockdown: false };
    const whole = await answerInquiry(services, tessa, register, asked, 0, 100);
    const ids: string[] = [];
    for (let offset = 0; offset < count; offset += 4) {
      const page = await answerInquiry(services, tessa, register, asked, offset, 4);
      ids.push(...[...page.rows, ...page.asleep].map(({ holder }) => holder.id));
    }
    expect(ids).toEqual([...whole.rows, ...whole.asleep].map(({ holder }) => holder.id));
    expect(new Set(ids).size).toBe(count);
  });

  it("say nothing in one sentence of doors on several clocks, and draw the week on each door's own", async () => {
    const register = registerOf({
      sites: [
        { id: "garden", name: "Garden", timeZone: "Europe/Vienna" },
        { id: "island", name: "Island", timeZone: "Atlantic/Azores" },
      ],
      doors: [
        { id: "gate", name: "Gate", site: "garden" },
        { id: "jetty", name: "Jetty", site: "island" },
      ],
      grants: ["gate", "jetty"].map((door) => ({ id: door, to: { cardholder: "iris" }, open: { door }, schedule: "office" })),
    });
    const asked: Inquiry = { who: { kind: "everybody" }, where: { kind: "anywhere" }, when: { kind: "any" }, lockdown: false, form: "people" };
    const { rows } = await answerInquiry(services, tessa, register, asked);
    const one = await answerInquiry(services, tessa, register, { ...asked, where: { kind: "door", id: "gate" }, form: undefined });
    expect(rows.map(({ words, furtherDoors, weekMinutes }) => [words, furtherDoors, weekMinutes])).toEqual([[undefined, 1, one.rows[0]?.weekMinutes]]);
    expect(one.rows[0]?.words).toMatch(/^Mon–Fri/);
  });

  it("reckon out of hours by the business hours that are set for each site, in rows, in sheets, in drawn weeks and as a time", async () => {
    const register = registerOf({
      sites: [
        { id: "garden", name: "Garden", timeZone: "Europe/Vienna" },
        { id: "bakery", name: "Bakery", timeZone: "Europe/Vienna" },
      ],
      doors: [
        { id: "gate", name: "Gate", site: "garden" },
        { id: "oven", name: "Oven", site: "bakery" },
      ],
      schedules: [{ id: "early", name: "Early", week: { mon: [["04:00", "12:00"]] } }],
      grants: ["gate", "oven"].map((door) => ({ id: door, to: { cardholder: "iris" }, open: { door }, schedule: "early" })),
    });
    const night = { week: { sun: [["22:00", "06:00"]], mon: [["22:00", "10:00"]] } };
    const set = {
      ...services,
      ruleSettings: {
        current: () => Promise.resolve({ settings: { format: "nomade.rules/1", sites: { bakery: { business: night } } }, version: 1, secondPersonFrom: 0 }),
      },
    } as unknown as Services;
    const asked: Inquiry = { who: { kind: "everybody" }, where: { kind: "anywhere" }, when: { kind: "any" }, lockdown: false, form: "doors" };
    const { rows } = await answerInquiry(set, tessa, register, asked);
    // At the garden Mon 04–07 of Mon–Fri 07–19; at the bakery Mon 06–12 of Sun 22–06 and Mon 22–10.
    expect(rows.map(({ door, outOfHoursMinutes, week }) => [door.id, outOfHoursMinutes, week.outside])).toEqual([
      ["gate", 180, [240, 420]],
      ["oven", 360, [360, 720]],
    ]);
    const { columns, cells } = await layOutSheet(set, tessa, register, { ...asked, form: "sheet" }, { row: 0, column: 0 });
    expect(columns.map(({ id }, j) => [id, cells[0]?.[j]])).toEqual([
      ["oven", [480, 360, 1, 0]],
      ["gate", [480, 180, 1, 0]],
    ]);
    // Both doors together: what is out of hours at either.
    const together = await answerInquiry(set, tessa, register, { ...asked, form: "people" });
    expect(together.rows[0]?.week).toEqual({ open: [240, 720], outside: [240, 720] });
    const within = { kind: "dates" as const, from: dayOf("2026-03-09"), to: dayOf("2026-03-09") };
    const when = { kind: "recurring" as const, days: { kind: "every-day" as const }, hours: { kind: "business" as const }, within };
    const inBusiness = await answerInquiry(set, tessa, register, { ...asked, when });
    expect(inBusiness.rows.map(({ door }) => door.id)).toEqual(["gate", "oven"]);
    const early = { ...when, hours: { kind: "out-of-hours" as const } };
    const outside = await answerInquiry(set, tessa, { ...register }, { ...asked, when: early });
    expect(outside.rows.map(({ door }) => door.id)).toEqual(["gate", "oven"]);
  });
});

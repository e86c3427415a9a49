import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { compiledFrom } from "~/tests/builders";
import { arbitraryFacility } from "~/tests/judge/arbitrary-facility";
import { Judge } from "~/tests/judge/judge";
import { germanInEnglish, readHoursBack } from "~/tests/judge/read-hours";
import { orchard } from "~/tests/browser/orchard";
import type { DocumentSchedule, FacilityDocument } from "../../facility/document";
import { required } from "../../kernel/invariant";
import { Horizon, horizonOf } from "../../table/horizon";
import type { EpochMinute } from "../../time/instant";
import { contains } from "../../time/intervals";
import { parseCivilDay } from "../../time/civil-day";
import { localTime } from "../../time/zone";
import type { DefinitionKind } from "./definition";
import { definitionLines } from "./definition-lines";
import { definitionChanges, definitionsOf } from "./definitions-of-register";

/** The doors that a row of a level names, with groups in groups and areas below areas, read off the document. */
function doorsNamed(draft: FacilityDocument, row: { readonly door?: string; readonly doorGroup?: string; readonly area?: string }): Set<string> {
  const { doors = [], doorGroups = [], areas = [] } = draft;
  if (row.door !== undefined) return new Set([row.door]);
  if (row.area !== undefined) {
    const below = (id: string): string[] => [id, ...areas.filter(({ parent }) => parent === id).flatMap((area) => below(area.id))];
    const inside = below(row.area);
    return new Set(doors.flatMap(({ id, area }) => (area !== undefined && inside.includes(area) ? [id] : [])));
  }
  const found = new Set<string>();
  const visit = (id: string | undefined): void => {
    const group = doorGroups.find((one) => one.id === id);
    group?.doors?.forEach((door) => found.add(door));
    group?.groups?.forEach(visit);
  };
  visit(row.doorGroup);
  return found;
}

/** What a definition says of the hours at its doors, held against the judge, minute by minute, over the 13 months. */
function checkHours(draft: FacilityDocument, kind: DefinitionKind, isOpen: (judge: Judge, subject: string, door: string, minute: bigint) => boolean): number {
  const compiled = compiledFrom(draft);
  const judge = new Judge(draft);
  const horizon = horizonOf(compiled);
  const { from, to } = horizon.ahead;
  const step = Math.floor((to - from) / 61);
  let checked = 0;
  for (const { subject, parts } of definitionsOf(horizon))
    for (const part of subject.kind === kind ? parts().values() : []) {
      const says = part.says();
      if (says.kind !== "hours") throw new Error("doors say hours");
      const { zone, calendar } = required(compiled.doors[compiled.doorById.get(part.id) ?? -1], "the door is there");
      // Dates that are only counted cannot be read back; they are in the test of hours in full.
      if (/on \d+ (dates|of \d+)|and \d+ more dates/.test(says.words)) continue;
      expect(germanInEnglish(says.german)).toBe(says.words);
      const [first, last] = [localTime(zone, from).date, localTime(zone, (to - 1) as EpochMinute).date];
      const read = readHoursBack(says.words, first, last, (date) => compiled.calendars[calendar ?? -1]?.read(date)?.winner.dayType);
      for (let i = 1; i < 61; i++) {
        const minute = (from + i * step) as EpochMinute;
        const { date, minuteOfDay } = localTime(zone, minute);
        if (date === first || date === last) continue;
        const said = [subject.id, part.id, says.words, minute];
        expect([...said, contains(read.get(date) ?? [], minuteOfDay)]).toEqual([...said, isOpen(judge, subject.id, part.id, BigInt(minute))]);
        checked++;
      }
    }
  return checked;
}

const calendarOf = ({ sites = [], doors = [] }: FacilityDocument, door: string) => {
  const at = required(
    sites.find(({ id }) => id === doors.find((one) => one.id === door)?.site),
    "a door has a site",
  );
  return [at.calendar, at.timeZone] as const;
};

describe("what a definition says holds:", () => {
  it("a level opens each of its doors just when a row that names it is open", () => {
    let checked = 0;
    fc.assert(
      fc.property(arbitraryFacility, (draft) => {
        checked += checkHours(draft, "level", (judge, level, door, minute) =>
          (draft.levels?.find(({ id }) => id === level)?.rows ?? []).some(
            (row) => doorsNamed(draft, row).has(door) && judge.open(row.schedule, ...calendarOf(draft, door), minute),
          ),
        );
      }),
      { numRuns: 25 },
    );
    expect(checked).toBeGreaterThan(500);
  });

  it("a door stands open to everybody just when the schedule that unlocks it is open", () => {
    let checked = 0;
    fc.assert(
      fc.property(arbitraryFacility, (draft) => {
        checked += checkHours(draft, "unlocking", (judge, _, door, minute) =>
          judge.open(draft.doors?.find(({ id }) => id === door)?.unlock ?? "", ...calendarOf(draft, door), minute),
        );
      }),
      { numRuns: 25 },
    );
    expect(checked).toBeGreaterThan(500);
  });

  it("a calendar marks just the dates to which the document gives a day type, also where years end", () => {
    fc.assert(
      fc.property(
        arbitraryFacility,
        fc.constantFrom("2026-03-01T00:00:00Z", "0001-02-01T00:00:00Z", "9998-11-01T00:00:00Z", "9999-12-20T00:00:00Z"),
        (drawn, asOf) => {
          const draft = { ...drawn, asOf };
          const horizon = horizonOf(compiledFrom(draft));
          // One schedule for each day type is open on such dates only: the judge then tells the type of a date.
          const types = [...new Set((draft.calendars ?? []).flatMap(({ days = [] }) => days.map(({ dayType }) => dayType)))];
          const asked = types.map((dayType): DocumentSchedule => ({ id: `of ${dayType}`, name: "", week: {}, holidays: { [dayType]: [["00:00", "24:00"]] } }));
          const judge = new Judge({ ...draft, schedules: asked });
          for (const { subject, freeze } of definitionsOf(horizon)) {
            const { definition } = freeze();
            if (definition.kind !== "calendar") continue;
            const marked = new Map<number, string>();
            for (const { from, to, dayType } of definition.dates)
              for (let date = parseCivilDay(from) ?? 0; date <= (parseCivilDay(to) ?? -1); date++) marked.set(date, dayType);
            expect(marked.size).toBe(definition.count);
            const zone = horizon.compiled.vocabulary.zone;
            for (let minute = horizon.ahead.from; minute < horizon.ahead.to; minute = (minute + 1440) as EpochMinute) {
              const { date } = localTime(zone, minute);
              const type = types.find((one) => judge.open(`of ${one}`, subject.id, zone.name, BigInt(minute)));
              expect([subject.id, date, marked.get(date)]).toEqual([subject.id, date, type]);
            }
          }
        },
      ),
      { numRuns: 6 },
    );
  });

  it("the stock has every card that nobody holds, and a privilege everybody who has it", () => {
    fc.assert(
      fc.property(arbitraryFacility, (draft) => {
        const found = definitionsOf(horizonOf(compiledFrom(draft)));
        const stock = found.filter(({ subject }) => subject.kind === "stock").flatMap(({ parts }) => [...parts().keys()]);
        expect(stock.sort()).toEqual((draft.credentials ?? []).flatMap(({ id, cardholder }) => (cardholder === undefined ? [id] : [])).sort());
        for (const { subject, parts } of found.filter((one) => one.subject.kind === "privilege"))
          for (const { id, ...cardholder } of draft.cardholders ?? []) {
            const has = cardholder[subject.id as "lockdownPass" | "override"];
            expect([subject.id, id, parts().has(id)]).toEqual([subject.id, id, has === true || (Array.isArray(has) && has.length > 0)]);
          }
      }),
      { numRuns: 60 },
    );
  });
});

const orchardOwned: FacilityDocument = {
  ...orchard,
  areas: (orchard.areas ?? []).map((area) => ({ ...area, owner: area.id === "cellar" ? "otto" : "dagmar" })),
};

const kept = (draft: FacilityDocument, before?: FacilityDocument) => {
  const horizon = horizonOf(compiledFrom(draft));
  const was = before && new Map(definitionsOf(new Horizon(compiledFrom(before), horizon.ahead)).map((one) => [`${one.subject.kind} ${one.subject.id}`, one]));
  return definitionLines(horizon, [], ({ kind, id }) => was && { at: "2026-02-01T10:00:00.000Z", was: was.get(`${kind} ${id}`) });
};

describe("definitions", () => {
  it("go to the owners of the areas that they concern, and a privilege to nobody who has it", () => {
    const privileged: FacilityDocument = {
      ...orchardOwned,
      cardholders: (orchardOwned.cardholders ?? []).map((one) => (one.id === "otto" ? { ...one, override: true as const } : one)),
    };
    const certified = new Map(kept(privileged).map(({ line, certifiers }) => [`${line.subject.kind} ${line.subject.id}`, [...certifiers].sort()]));
    expect(certified.get("privilege override")).toEqual(["dagmar"]);
    expect(certified.get("calendar days")).toEqual(["dagmar", "otto"]);
    expect(certified.get("level barn-day")).toEqual(["dagmar"]);
    // Nobody owns anything: it falls to the reviewer.
    expect(kept({ ...orchard, areas: (orchard.areas ?? []).map(({ owner: _, ...area }) => area) }).every(({ certifiers }) => certifiers.length === 0)).toBe(
      true,
    );
  });

  it("say what came, what went and what is otherwise, and nothing of what is written differently and means the same", () => {
    const [level] = orchardOwned.levels ?? [];
    const [schedule] = (orchardOwned.schedules ?? []).filter(({ id }) => id === level?.rows?.[0]?.schedule);
    if (!level || !schedule) throw new Error("the orchard has levels");
    const renamed: FacilityDocument = {
      ...orchardOwned,
      schedules: [...(orchardOwned.schedules ?? []), { ...schedule, id: "another", name: "Another" }],
      levels: (orchardOwned.levels ?? []).map((one) =>
        one === level ? { ...one, rows: (one.rows ?? []).map((row) => (row.schedule === schedule.id ? { ...row, schedule: "another" } : row)) } : one,
      ),
    };
    for (const { line } of kept(renamed, orchardOwned)) expect([line.subject, line.since?.count]).toEqual([line.subject, 0]);
    const wider: FacilityDocument = {
      ...orchardOwned,
      schedules: (orchardOwned.schedules ?? []).map((one) => (one.id === schedule.id ? { id: one.id, name: one.name, always: true as const } : one)),
    };
    const changed = kept(wider, orchardOwned).find(({ line }) => line.subject.kind === "level" && line.subject.id === level.id)?.line.since;
    expect(changed?.changes.every((one) => one.do === "altered" && one.is.kind === "hours" && one.is.words.startsWith("At all hours"))).toBe(true);
    expect(changed?.count).toBeGreaterThan(0);
    // One that was not there then is new in all its parts.
    const without = { ...orchardOwned, levels: (orchardOwned.levels ?? []).filter((one) => one !== level), grants: [], bundles: [] };
    const added = kept(orchardOwned, without).find(({ line }) => line.subject.kind === "level" && line.subject.id === level.id)?.line.since;
    expect(added?.changes.every((one) => one.do === "added")).toBe(true);
  });

  it("are the same as themselves, and differ one way as the other", () => {
    fc.assert(
      fc.property(arbitraryFacility, arbitraryFacility, (a, b) => {
        const horizon = horizonOf(compiledFrom(a));
        const [now, then] = [definitionsOf(horizon), definitionsOf(new Horizon(compiledFrom({ ...b, asOf: a.asOf }), horizon.ahead))];
        for (const one of now) {
          expect(definitionChanges(one.parts(), one.parts())).toEqual([]);
          const other = then.find(({ subject }) => subject.kind === one.subject.kind && subject.id === one.subject.id);
          if (!other) continue;
          const [forth, back] = [definitionChanges(other.parts(), one.parts()), definitionChanges(one.parts(), other.parts())];
          expect(forth.map((change) => [change.part.id, change.do]).sort()).toEqual(
            back.map((change) => [change.part.id, change.do === "added" ? "gone" : change.do === "gone" ? "added" : "altered"]).sort(),
          );
        }
      }),
      { numRuns: 40 },
    );
  });
});

import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { arbitraryFacility } from "~/tests/judge/arbitrary-facility";
import { compiledFrom, facilityDraft, minute } from "~/tests/builders";
import type { FacilityDocument } from "../facility/document";
import { accessTable } from "../table/access-table";
import { exactTimeframe } from "../paths/timeframe";
import { cardholderOpenIn } from "../paths/timetable";
import { AccessWorld } from "../table/access-world";
import { subtract, totalMinutes } from "../time/intervals";
import { causesOf } from "./causes";
import { compareAccess } from "./compare-access";
import type { DoorChange } from "./compare-access";

const [from, to] = [minute("2026-03-20T00:00:00Z"), minute("2026-05-20T00:00:00Z")];
const mode = { lockdown: false, asIfLive: false };

function changesBetween(before: Partial<FacilityDocument>, after: Partial<FacilityDocument>) {
  const [a, b] = [compiledFrom(before), compiledFrom(after)];
  const world = new AccessWorld();
  const [x, y] = [accessTable(a, exactTimeframe(a, from, to, mode), world), accessTable(b, exactTimeframe(b, from, to, mode), world)];
  const found = new Map<string, readonly DoorChange[]>(
    [...compareAccess(x, y)].flatMap(({ kind, id, changes }) => (kind === "cardholder" ? [[id, changes] as const] : [])),
  );
  return { a, b, timelines: world.timelines, found };
}

const office = { grants: [{ id: "g", to: { cardholder: "iris" }, open: { door: "gate" }, schedule: "office" }] };

describe("comparing access", () => {
  it("finds for every cardholder and door just what two resolutions of the pair differ by", () => {
    fc.assert(
      fc.property(arbitraryFacility, arbitraryFacility, fc.boolean(), (first, other, mixed) => {
        // Two documents that share most of what they say: the grants and people of the one on the places of the other.
        const second = mixed ? { ...first, grants: other.grants, memberships: other.memberships, doors: [...(first.doors ?? [])].reverse() } : other;
        const { a, b, timelines, found } = changesBetween(first, second);
        const [readingA, readingB] = [exactTimeframe(a, from, to, mode), exactTimeframe(b, from, to, mode)];
        for (const cardholder of ["h1", "h2"])
          for (const door of ["d1", "d2", "d3"]) {
            const was = cardholderOpenIn(a, readingA, a.cardholderById.get(cardholder) ?? -1, a.doorById.get(door) ?? -1);
            const is = cardholderOpenIn(b, readingB, b.cardholderById.get(cardholder) ?? -1, b.doorById.get(door) ?? -1);
            const change = found.get(cardholder)?.find((one) => one.door === door);
            const told = change && {
              change: change.change,
              was: timelines.set(change.before),
              is: timelines.set(change.after),
              more: change.minutesMore,
              less: change.minutesLess,
            };
            const same = was.join() === is.join();
            expect([cardholder, door, told]).toEqual([
              cardholder,
              door,
              same
                ? undefined
                : {
                    change: was.length === 0 ? "gained" : is.length === 0 ? "lost" : "hours",
                    was,
                    is,
                    more: totalMinutes(subtract(is, was)),
                    less: totalMinutes(subtract(was, is)),
                  },
            ]);
          }
      }),
      { numRuns: 150 },
    );
  });

  it("says nothing where only records differ and access does not", () => {
    const { found } = changesBetween(office, { ...office, cardholders: [{ id: "iris", name: "Iris Married", status: "active", email: "x@y.test" }] });
    expect([...found]).toEqual([]);
  });

  it("counts who is in one document only as opening nothing in the other", () => {
    const { found } = changesBetween(office, { cardholders: [], credentials: [] });
    expect(found.get("iris")).toMatchObject([{ door: "gate", change: "lost", minutesMore: 0 }]);
  });
});

describe("the causes of a change", () => {
  const causes = (before: Partial<FacilityDocument>, after: Partial<FacilityDocument>) => {
    const { a, b } = changesBetween(before, after);
    return causesOf(a, b, { kind: "cardholder", id: "iris" }, "gate");
  };

  it("are the grant that was added or taken away, and not what it led over", () => {
    expect(causes(office, {})).toEqual([{ kind: "grant", id: "g", what: "gone" }]);
    expect(causes({}, office)).toEqual([{ kind: "grant", id: "g", what: "added" }]);
  });

  it("are the membership, where the group's grant stays as it was", () => {
    const group = { groups: [{ id: "watch", name: "Watch" }], grants: [{ id: "g", to: { group: "watch" }, open: { door: "gate" }, schedule: "office" }] };
    expect(causes({ ...group, memberships: [{ group: "watch", cardholder: "iris" }] }, group)).toEqual([
      { kind: "membership", id: "watch", what: "gone", entry: "always–no end" },
    ]);
  });

  it("are the schedule, or the entry of the calendar, that changed behind an unchanged grant", () => {
    const [always, day] = facilityDraft().schedules ?? [];
    const longer = { ...day, id: "office", name: "Office", week: { mon: [["06:00", "22:00"]] } } as NonNullable<FacilityDocument["schedules"]>[number];
    expect(causes(office, { ...office, schedules: always ? [always, longer] : [] })).toEqual([{ kind: "schedule", id: "office", what: "changed" }]);
    const withDay = (on: string): Partial<FacilityDocument> => ({
      ...office,
      sites: [{ id: "garden", name: "Garden", timeZone: "Europe/Vienna", calendar: "k" }],
      calendars: [
        {
          id: "k",
          name: "K",
          days: [
            { name: "May Day", dayType: "public", yearly: "05-01" },
            { name: "Fair", dayType: "public", on },
          ],
        },
      ],
    });
    expect(causes(withDay("2026-04-01"), withDay("2026-04-02"))).toEqual([{ kind: "calendarEntry", id: "k", what: "changed", entry: "Fair" }]);
  });

  it("are the credential or the cardholder themself", () => {
    const suspended = { ...office, credentials: [{ id: "c1", cardholder: "iris", kind: "card" as const, status: "suspended" as const }] };
    expect(causes(office, suspended)).toEqual([{ kind: "credential", id: "c1", what: "changed" }]);
    expect(causes(office, { ...office, cardholders: [{ id: "iris", name: "Iris", status: "left" }] })).toEqual([
      { kind: "cardholder", id: "iris", what: "changed" },
    ]);
  });
});

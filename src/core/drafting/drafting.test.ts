import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { arbitraryFacility } from "../../../tests/judge/arbitrary-facility";
import { bitsOf26, cardsOf, faultsOf } from "./card-box";
import type { CardBox } from "./card-box";
import type { DraftChange } from "./change";
import { fieldChanges, rebase, sameValue } from "./change";
import { applyChanges } from "./apply-changes";
import { drawnOnRow, minutesOfRow, readRow, writtenRow } from "./clock-row";
import { differingParts, ruleWords } from "./field-words";
import { settleDraft } from "./settle-draft";
import { ownershipOf } from "../facility/ownership";
import { withAllLists } from "../facility/facility";
import { listKeys } from "../facility/document";
import type { ClockRange, FacilityDocument } from "../facility/document";
import { keyOf } from "../facility/object-key";
import type { Plain } from "../facility/object-key";
import { normalFacility, normalText } from "../facility/normal-form";
import { minutesADay } from "../time/civil-day";
import { contains } from "../time/intervals";

const box: CardBox = { kind: "card", status: "stock", bitFormat: "26", facilityCode: "87", first: "00101", last: "00104", printedFirst: "9001" };

describe("a box of cards", () => {
  it("has the parity of the open 26-bit format", () => {
    // Worked by hand. Even parity over the first twelve data bits, odd over the last twelve: common practice, no source.
    expect(bitsOf26(0, 0)).toBe(`0${"0".repeat(24)}1`);
    expect(bitsOf26(255, 65535)).toBe(`0${"1".repeat(24)}1`);
    // 1 = 00000001, 1 = 0000000000000001: one set bit in each half.
    expect(bitsOf26(1, 1)).toBe("1" + "00000001" + "0000000000000001" + "0");
    // 87 = 01010111 (five), 40101 = 1001 110010100101 (two in the first half, six in the second).
    expect(bitsOf26(87, 40101)).toBe("1" + "01010111" + "1001110010100101" + "1");
    expect(bitsOf26(256, 1)).toBeUndefined();
    expect(bitsOf26(1, 65536)).toBeUndefined();
  });

  it("always has an even first half and an odd second half of thirteen bits each", () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 255 }), fc.integer({ min: 0, max: 65535 }), (code, number) => {
        const bits = bitsOf26(code, number) ?? "";
        const ones = (part: string): number => part.replaceAll("0", "").length;
        expect(bits).toHaveLength(26);
        expect(ones(bits.slice(0, 13)) % 2).toBe(0);
        expect(ones(bits.slice(13)) % 2).toBe(1);
        expect([parseInt(bits.slice(1, 9), 2), parseInt(bits.slice(9, 25), 2)]).toEqual([code, number]);
      }),
    );
  });

  it("counts on from its first number and keeps the zeros at the front", () => {
    expect(faultsOf(box)).toEqual([]);
    expect(cardsOf(box).map(({ id, number, printedNumber }) => [id, number, printedNumber])).toEqual([
      ["card-87-00101", "00101", "9001"],
      ["card-87-00102", "00102", "9002"],
      ["card-87-00103", "00103", "9003"],
      ["card-87-00104", "00104", "9004"],
    ]);
  });

  it("tells everything that is wrong with it at once", () => {
    expect(faultsOf({ ...box, facilityCode: "256", first: "12a", last: "70000", printedFirst: "x" }).map(({ field, value }) => [field, value])).toEqual([
      ["facilityCode", "256"],
      ["first", "12a"],
      ["last", "70000"],
      ["printedFirst", "x"],
    ]);
    expect(faultsOf({ ...box, first: "9", last: "8" }).map(({ field }) => field)).toEqual(["last"]);
    expect(faultsOf({ ...box, bitFormat: undefined, first: "1", last: "6000" }).map(({ field }) => field)).toEqual(["last"]);
  });
});

const change = (base: Plain | undefined, value: Plain | undefined): DraftChange => ({ list: "cardholders", key: "iris", base, value });
const iris = { id: "iris", name: "Iris", status: "active" };

describe("a change on top of a register that moved on", () => {
  it("keeps what the register changed in other fields", () => {
    const onTop = rebase(change(iris, { ...iris, department: "press" }), { ...iris, email: "iris@orchard.example" });
    expect(onTop.value).toEqual({ ...iris, email: "iris@orchard.example", department: "press" });
    expect(onTop.clashes).toEqual([]);
    expect(onTop.settled).toBe(false);
  });

  it("clashes where both changed one field, each its own way, and not where both did the same", () => {
    const wish = change(iris, { ...iris, status: "left", department: "press" });
    expect(rebase(wish, { ...iris, status: "suspended" }).clashes).toEqual([{ field: "status", base: "active", present: "suspended", wanted: "left" }]);
    expect(rebase(wish, { ...iris, status: "left" }).clashes).toEqual([]);
    expect(rebase(wish, { ...iris, status: "left", department: "press" }).settled).toBe(true);
  });

  it("clashes as a whole where an object was changed that is to go, or is gone that was to be changed", () => {
    expect(rebase(change(iris, undefined), { ...iris, name: "Iris A" }).clashes.map(({ field }) => field)).toEqual([""]);
    expect(rebase(change(iris, { ...iris, name: "Iris B" }), undefined).clashes.map(({ field }) => field)).toEqual([""]);
    expect(rebase(change(iris, undefined), undefined).settled).toBe(true);
    expect(rebase(change(undefined, iris), { ...iris, name: "Another" }).clashes.map(({ field }) => field)).toEqual(["name"]);
  });

  it("leads from any register to any other, object by object, and leaves nothing to do on arrival", () => {
    fc.assert(
      fc.property(arbitraryFacility, arbitraryFacility, (from, to) => {
        const [before, after] = [normalFacility(withAllLists(from)), normalFacility(withAllLists(to))];
        const changes = listKeys.flatMap((list): DraftChange[] => {
          const keyed = (facility: typeof before) => new Map((facility[list] as unknown as readonly Plain[]).map((object) => [keyOf(list, object), object]));
          const [was, is] = [keyed(before), keyed(after)];
          return [...new Set([...was.keys(), ...is.keys()])]
            .filter((key) => !sameValue(was.get(key), is.get(key)))
            .map((key) => ({ list, key, base: was.get(key), value: is.get(key) }));
        });
        // A membership that is stated twice has one key; documents with such are left out, as no change can tell them apart.
        fc.pre(
          new Set(after.memberships.map((one) => keyOf("memberships", one as unknown as Plain))).size === after.memberships.length &&
            new Set(before.memberships.map((one) => keyOf("memberships", one as unknown as Plain))).size === before.memberships.length,
        );
        const tried = applyChanges(before, changes);
        expect(tried.rebased.flatMap(({ clashes }) => clashes)).toEqual([]);
        const { name, timeZone, asOf } = after;
        expect(normalText(normalFacility({ ...tried.facility, name, timeZone, asOf }))).toBe(normalText(after));
        expect(applyChanges(tried.facility, changes).rebased.every(({ settled }) => settled)).toBe(true);
      }),
      { numRuns: 60 },
    );
  });
});

describe("closing a draft", () => {
  const cellar = { id: "cellar", name: "Cellar", site: "orchard", sensitivity: 1 };
  const facility = withAllLists({
    format: "nomade.facility/1",
    name: "O",
    timeZone: "UTC",
    asOf: "2026-03-01T00:00:00Z",
    areas: [cellar],
    cardholders: [iris],
  } as FacilityDocument);
  const settled = (changes: readonly DraftChange[], brings: Parameters<typeof ownershipOf>[0]) =>
    settleDraft(applyChanges(facility, changes).rebased, ownershipOf(brings));

  it("applies what no source brings and orders what one does, field by field", () => {
    const both: DraftChange = { list: "areas", key: "cellar", base: cellar, value: { ...cellar, name: "Cider cellar", sensitivity: 3, owner: "iris" } };
    const { applied, orders } = settled([both], [{ source: "controller", brings: { areas: ["id", "name", "site"] } }]);
    expect(applied).toEqual([{ list: "areas", key: "cellar", base: cellar, value: { ...cellar, sensitivity: 3, owner: "iris" } }]);
    expect(orders).toEqual([
      { source: "controller", action: "change", list: "areas", key: "cellar", fields: [{ field: "name", before: "Cellar", after: "Cider cellar" }] },
    ]);
  });

  it("never adds to or ends a list that a source brings", () => {
    const changes: DraftChange[] = [change(iris, undefined), { list: "cardholders", key: "otto", base: undefined, value: { ...iris, id: "otto" } }];
    const owned = settled(changes, [{ source: "people", brings: { cardholders: ["id", "name", "status"] } }]);
    expect([owned.applied, owned.orders.map(({ action, key }) => [action, key])]).toEqual([
      [],
      [
        ["end", "iris"],
        ["add", "otto"],
      ],
    ]);
    expect(settled(changes, [{ source: "controller", brings: { areas: "all" } }]).applied).toEqual(changes);
  });

  it("goes by the source that brought a field last", () => {
    const ownership = ownershipOf([
      { source: "new", brings: { cardholders: ["id", "email"] } },
      { source: "old", brings: { cardholders: "all" } },
    ]);
    expect([
      ownership.ofField("cardholders", "email"),
      ownership.ofField("cardholders", "name"),
      ownership.ofObjects("cardholders"),
      ownership.ofField("areas", "owner"),
    ]).toEqual(["new", "old", "new", undefined]);
  });

  it("leaves alone what the register says already", () => {
    expect(settled([change({ ...iris, name: "I." }, iris)], [])).toEqual({ applied: [], orders: [] });
  });
});

describe("hours of a row", () => {
  it("are read however they are typed, and written one way", () => {
    const read = (text: string) => {
      const found = readRow(text);
      return "row" in found ? writtenRow(found.row) : `? ${found.unread}`;
    };
    expect(["8-18", "0800–1800", "08:00 to 12:00; 13:00-17:30", "closed", "", "22:00–06:00", "00:00-24:00"].map(read)).toEqual([
      "08:00–18:00",
      "08:00–18:00",
      "08:00–12:00, 13:00–17:30",
      "",
      "",
      "22:00–06:00",
      "00:00–24:00",
    ]);
    expect(["25-26", "8", "08:60-09:00", "9-10, noon"].map(read)).toEqual(["? 25-26", "? 8", "? 08:60-09:00", "? noon"]);
  });

  it("keep the tail over midnight as long as the end of the day is open, and drop it with that", () => {
    const night: ClockRange[] = [["22:00", "06:00"]];
    expect(drawnOnRow(night, 20 * 60, 22 * 60, true)).toEqual([["20:00", "06:00"]]);
    expect(drawnOnRow(night, 23 * 60, minutesADay, false)).toEqual([["22:00", "23:00"]]);
    expect(drawnOnRow(night, 8 * 60, 9 * 60, true)).toEqual([
      ["08:00", "09:00"],
      ["22:00", "06:00"],
    ]);
  });

  it("are open after drawing just where they were open or were drawn, minute by minute", () => {
    const clock = fc
      .integer({ min: 0, max: 95 })
      .map((quarter) => `${String(Math.floor(quarter / 4)).padStart(2, "0")}:${String((quarter % 4) * 15).padStart(2, "0")}`);
    const row = fc.array(fc.tuple(clock, clock), { maxLength: 4 });
    fc.assert(
      fc.property(row, fc.integer({ min: 0, max: 95 }), fc.integer({ min: 1, max: 30 }), fc.boolean(), (ranges, start, length, isOpen) => {
        const [from, to] = [start * 15, Math.min(minutesADay, (start + length) * 15)];
        const [before, after] = [minutesOfRow(ranges).own, minutesOfRow(drawnOnRow(ranges, from, to, isOpen)).own];
        for (let minute = 0; minute < minutesADay; minute += 15)
          expect(contains(after, minute)).toBe(minute >= from && minute < to ? isOpen : contains(before, minute));
      }),
    );
  });
});

describe("what a change says", () => {
  const name = (_list: string, id: string) => id.toUpperCase();
  it("names the parts of a value that go and come, not the whole", () => {
    const rows = [
      { door: "d1", schedule: "day" },
      { area: "a1", schedule: "day" },
    ];
    expect(differingParts("levels", "rows", rows, [rows[0], { area: "a1", schedule: "night" }], name)).toEqual({ gone: ["A1: DAY"], come: ["A1: NIGHT"] });
    expect(differingParts("schedules", "week", { mon: [["08:00", "18:00"]], tue: [] }, { mon: [["08:00", "20:00"]], tue: [] }, name)).toEqual({
      gone: ["Mon 08:00–18:00"],
      come: ["Mon 08:00–20:00"],
    });
    expect(differingParts("cardholders", "department", "press", undefined, name)).toEqual({ gone: ["PRESS"], come: [] });
    expect(differingParts("calendars", "days", [], [{ name: "Labour Day", dayType: "public", yearly: "05-01" }], name).come).toEqual([
      "Labour Day (public): every 05-01",
    ]);
    expect(ruleWords({ name: "", dayType: "", easter: -2 })).toBe("2 days before Easter");
  });

  it("finds fields that were added, changed and taken away", () => {
    expect(fieldChanges({ a: 1, b: 2 }, { b: 3, c: [1] })).toEqual([
      { field: "a", before: 1, after: undefined },
      { field: "b", before: 2, after: 3 },
      { field: "c", before: undefined, after: [1] },
    ]);
  });
});

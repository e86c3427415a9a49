import { expect, it } from "@jest/globals";
import fc from "fast-check";
import { linesOf } from "@/core/certification/lines-of-register";
import { compileFacility } from "@/core/compile/compile-facility";
import { findAll } from "@/core/findings/find";
import { noEvents } from "@/core/findings/use";
import { horizonOf } from "@/core/table/horizon";
import { issueWords } from "@/intake/formats/facility/issue-words";
import { readFacility } from "@/intake/formats/facility/read-facility";
import { facilityDraft } from "~/tests/builders";
import { judgedOf } from "~/tests/judged";
import { arbitraryFacility } from "./arbitrary-facility";

/** What is no text that says something, or says something else than is meant where it is put. */
const junk: fc.Arbitrary<unknown> = fc.oneof(
  fc.constantFrom<unknown>(null, 0, -1, 1e308, 3.5, "", " ", "\u0000", "\ud800", [], {}, true, "__proto__", "x".repeat(200)),
  fc.constantFrom<unknown>("9999-12-31T23:59:59.999Z", "0001-01-01T00:00:00Z", "2026-06-30", "02-29", "24:00", "00:00", "Europe/Dublin", "d1", "h1", "c1"),
  fc.constantFrom<unknown>([["00:00", "24:00"]], [["23:59", "00:00"]], [["12:00", "12:00"]], { door: "d1" }, { area: "a1", door: "d1" }, ["x"]),
);
const addedKey = fc.constantFrom("until", "from", "via", "parent", "toString", "expiry", "override", "hours", "calendar", "x", "sensitivity", "requirements");

interface Change {
  /** Which of what lies there is gone into, level by level. */
  readonly way: readonly number[];
  readonly how: "put" | "remove" | "repeat" | "add";
  readonly value: unknown;
  readonly key: string;
}
const change: fc.Arbitrary<Change> = fc.record({
  way: fc.array(fc.nat(200), { minLength: 1, maxLength: 7 }),
  how: fc.constantFrom("put" as const, "put" as const, "put" as const, "remove" as const, "repeat" as const, "add" as const),
  value: junk,
  key: addedKey,
});

/** A document with something in it put wrong. */
function changed(value: unknown, { way: [step = 0, ...further], how, value: put, key }: Change): unknown {
  const isLast = further.length === 0;
  const inner = (one: unknown): unknown => (isLast ? put : changed(one, { way: further, how, value: put, key }));
  if (Array.isArray(value)) {
    const items = value as readonly unknown[];
    if (items.length === 0) return isLast ? [put] : items;
    const at = step % items.length;
    if (isLast && how === "remove") return items.filter((_, i) => i !== at);
    if (isLast && how === "repeat") return [...items, items[at]];
    return items.map((one, i) => (i === at ? inner(one) : one));
  }
  if (typeof value !== "object" || value === null) return put;
  const entries = Object.entries(value);
  if (isLast && how === "add") return Object.fromEntries([...entries, [key, put]]);
  const at = step % Math.max(1, entries.length);
  return Object.fromEntries(entries.flatMap(([name, one], i) => (i !== at ? [[name, one]] : isLast && how === "remove" ? [] : [[name, inner(one)]])));
}

it("a document with anything put wrong in it is refused in words, or is a register that everything can be asked of", () => {
  let [refused, read] = [0, 0];
  fc.assert(
    fc.property(arbitraryFacility, fc.array(fc.tuple(change, fc.option(change, { nil: undefined })), { minLength: 12, maxLength: 12 }), (drawn, changes) => {
      for (const [first, second] of changes) {
        const document = [first, second].reduce<unknown>((before, one) => (one ? changed(before, one) : before), facilityDraft(drawn));
        const result = readFacility(JSON.stringify(document));
        if (!result.ok) {
          refused++;
          expect(result.error.every((issue) => issueWords(issue).length > 0)).toBe(true);
          continue;
        }
        read++;
        const compiled = compileFacility(result.value.facility);
        linesOf(compiled, noEvents, findAll(judgedOf(horizonOf(compiled))).findings);
      }
    }),
    { numRuns: 200 },
  );
  expect(Math.min(refused, read)).toBeGreaterThan(20);
});

it("an empty text is no id, no moment and no zone: each is refused at its place, all at once", () => {
  const site = { id: "", name: "", timeZone: "" };
  const draft = facilityDraft({ sites: [site], schedules: [{ id: "s", name: "", week: { mon: [["", ""]] }, from: "" }] });
  const result = readFacility(JSON.stringify({ ...draft, asOf: "", timeZone: "" }));
  const paths = result.ok ? [] : result.error.map(({ path }) => path);
  for (const path of ["asOf", "timeZone", "sites[0].id", "sites[0].timeZone", "schedules[0].from", "schedules[0].week.mon[0][0]"])
    expect(paths).toContain(path);
  expect(paths).not.toContain("sites[0].name");
});

import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { verraneInstitute } from "~/demo/institute";
import { arbitraryFacility } from "~/tests/judge/arbitrary-facility";
import { facilitySchema } from "./facility-schema";
import { withoutPlainLists } from "./plainly-valid";

const lists = ["memberships", "cardholders", "credentials", "grants"] as const;
const accepted = (document: unknown): boolean => facilitySchema.validate(document, { convert: false }).error === undefined;

/** Values that are wrong, or right, in many places of a document. */
const oddValue = fc.oneof(
  fc.constantFrom(
    null,
    "",
    "x",
    "a".repeat(128),
    "a".repeat(129),
    "\u{1F600}".repeat(100),
    "2026-02-30",
    "2026-03-01",
    "2026-03-01T00:00:00Z",
    "2026-03-01T00:00:60Z",
    true,
    false,
    0,
    1,
    -1,
    1.5,
    1e300,
    [],
    {},
    ["x"],
    [null],
    "active",
    "card",
    "allow",
  ),
  fc.record({ level: fc.constant("l1"), door: fc.constant("d1") }, { requiredKeys: [] }),
);

/** A document in which one key of one object is set to something else, added, or taken away. */
const spoiled = fc
  .tuple(
    arbitraryFacility,
    fc.constantFrom(...lists),
    fc.nat(),
    fc.nat(),
    fc.constantFrom("set", "add", "remove", "deeper"),
    oddValue,
    fc.constantFrom(
      "from",
      "until",
      "colour",
      "schedule",
      "effect",
      "authorised",
      "expiry",
      "override",
      "sites",
      "requirements",
      "hasPin",
      "note",
      "__proto__",
      "constructor",
    ),
  )
  .map(([draft, list, at, keyAt, what, value, newKey]) => {
    const document = structuredClone(draft) as unknown as Record<string, Record<string, unknown>[]>;
    const objects = document[list] ?? [];
    const object = objects[at % Math.max(1, objects.length)];
    if (!object) return document;
    const key = Object.keys(object)[keyAt % Object.keys(object).length] ?? "id";
    if (what === "set") object[key] = value;
    else if (what === "add") Object.defineProperty(object, newKey, { value, enumerable: true, configurable: true, writable: true });
    else if (what === "remove") Reflect.deleteProperty(object, key);
    else if (typeof object[key] === "object" && object[key] !== null && !Array.isArray(object[key]))
      Object.defineProperty(object[key], newKey, { value, enumerable: true, configurable: true, writable: true });
    return document;
  });

describe("the quick look", () => {
  it("passes nothing that the schema refuses", () => {
    fc.assert(
      fc.property(spoiled, (document) => {
        const rest = withoutPlainLists(document);
        expect([accepted(rest), JSON.stringify(document)]).toEqual([accepted(document), JSON.stringify(document)]);
      }),
      { numRuns: 1500 },
    );
  });

  it("passes the large lists of an ordinary document, so that the schema has little to do", () => {
    const rest = withoutPlainLists(verraneInstitute({ cardholders: 2000, doors: 200, seed: 5 }) as unknown as Record<string, unknown>);
    expect(lists.filter((list) => list in rest)).toEqual([]);
  });
});

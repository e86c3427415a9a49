import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { cardKey } from "@/core/events/told-card";
import type { CivilDay } from "@/core/time/civil-day";
import type { AskedEvents } from "@/operations/events/list-events";
import { eventColumns, eventsHref, eventsOfAddress, usualColumns } from "./events-address";
import type { EventColumn } from "./events-address";

const read = (href: string) => eventsOfAddress(Object.fromEntries(new URL(href, "http://nomade").searchParams));

describe("the address of events", () => {
  const text = fc.string({ unit: "grapheme", maxLength: 40 });
  const maybe = <T>(values: fc.Arbitrary<T>) => fc.option(values, { nil: undefined });
  const date = maybe(fc.integer({ min: -719_162, max: 2_932_896 }).map((day) => day as CivilDay));
  const asked: fc.Arbitrary<AskedEvents> = fc.record({
    text,
    about: maybe(fc.record({ kind: fc.constantFrom("door" as const, "cardholder" as const, "credential" as const), id: text })),
    card: maybe(
      fc.oneof(
        text.map((credential) => cardKey({ credential })),
        fc.tuple(text, maybe(text)).map(([number, facilityCode]) => cardKey({ number, facilityCode })),
      ),
    ),
    granted: maybe(fc.boolean()),
    reason: maybe(text),
    from: date,
    to: date,
    by: maybe(fc.constantFrom("door" as const, "person" as const, "card" as const, "hour" as const)),
    behind: maybe(fc.record({ second: fc.integer(), file: fc.nat(), line: fc.nat() })),
  });

  it("holds all that is asked, whatever ids and numbers are called", () => {
    const columns = fc.subarray(Object.keys(eventColumns) as EventColumn[], { minLength: 1 });
    fc.assert(
      fc.property(asked, columns, (one, shown) => {
        expect(read(eventsHref(one))).toEqual({ asked: one, columns: usualColumns, notUnderstood: [] });
        expect(read(eventsHref(one, shown))).toEqual({ asked: one, columns: shown, notUnderstood: [] });
      }),
    );
  });

  it("names what is not understood in it, and never fails", () => {
    for (const wrong of [
      "card=group",
      "columns=door.nowhere",
      "card=[]",
      "card=[1]",
      'card=["a",2]',
      "card=2026-11-20",
      "by=week",
      "from=2026-02-30",
      "toString=1",
      `text=${"a".repeat(201)}`,
    ])
      expect(read(`/register/events?${wrong}`).notUnderstood).toEqual([wrong]);
    fc.assert(
      fc.property(
        fc.dictionary(fc.oneof(fc.constantFrom("card", "behind", "about", "__proto__"), fc.string()), fc.oneof(fc.string(), fc.json(), fc.array(fc.string()))),
        (query) => {
          eventsOfAddress(query);
        },
      ),
    );
  });
});

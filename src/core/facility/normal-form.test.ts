import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { readFacility } from "@/intake/formats/facility/read-facility";
import { arbitraryFacility } from "~/tests/judge/arbitrary-facility";
import { facilityDraft } from "~/tests/builders";
import type { FacilityDocument } from "./document";
import { normalFacility, normalText } from "./normal-form";

const normal = (draft: unknown): string => {
  const read = readFacility(JSON.stringify(draft));
  if (!read.ok) throw new Error(JSON.stringify(read.error));
  return normalText(normalFacility(read.value.facility));
};

/** The same document with the objects of every list in another order, which means nothing. */
const reversed = (draft: FacilityDocument): FacilityDocument =>
  Object.fromEntries(
    Object.entries(draft).map(([key, value]) => [key, Array.isArray(value) ? [...(value as unknown[])].reverse() : (value as unknown)]),
  ) as unknown as FacilityDocument;

describe("the normal form", () => {
  it("is the same however the lists are ordered, and its own normal form", () => {
    fc.assert(
      fc.property(arbitraryFacility, (draft) => {
        const text = normal(draft);
        expect(normal(reversed(draft))).toBe(text);
        expect(normal(JSON.parse(text))).toBe(text);
      }),
      { numRuns: 100 },
    );
  });

  it("leaves out defaults and empty lists that say nothing", () => {
    const plain = facilityDraft({ groups: [{ id: "g", name: "G" }] });
    const spelled = facilityDraft({
      groups: [{ id: "g", name: "G", kind: "group" }],
      areas: [],
      doors: [{ id: "gate", name: "Gate", site: "garden", kind: "door", entry: "card", unlockNeedsFirstIn: false, entryRows: [] }],
    });
    expect(normal(spelled)).toBe(normal(plain));
  });

  it("keeps an empty list of sites and an empty row of a holiday, which do mean something", () => {
    const text = normal(
      facilityDraft({
        cardholders: [{ id: "iris", name: "Iris", status: "active", sites: [] }],
        schedules: [{ id: "s", name: "S", week: { mon: [] }, holidays: { public: [] } }],
      }),
    );
    expect(text).toContain('"sites":[]');
    expect(text).toContain('"holidays":{"public":[]},"id":"s","name":"S","week":{}');
  });

  it("writes instants in UTC with their seconds, and sorts the intervals of a row", () => {
    const text = normal(
      facilityDraft({
        asOf: "2026-03-01T01:00+01:00",
        schedules: [
          {
            id: "s",
            name: "S",
            week: {
              mon: [
                ["14:00", "18:00"],
                ["08:00", "12:00"],
              ],
            },
          },
        ],
        credentials: [{ id: "c1", kind: "card", status: "active", from: "2026-03-01T00:00:00.500Z", until: "2026-04-01" }],
      }),
    );
    expect(text).toContain('"asOf":"2026-03-01T00:00:00Z"');
    expect(text).toContain('"mon":[["08:00","12:00"],["14:00","18:00"]]');
    expect(text).toContain('"from":"2026-03-01T00:00:00.5Z"');
    expect(text).toContain('"until":"2026-04-01"');
  });

  it("takes lists of ids as sets, and leaves the order of a level's rows and a calendar's days", () => {
    const rows = [
      { door: "gate", schedule: "office" },
      { door: "gate", schedule: "always" },
    ];
    const text = normal(facilityDraft({ doorGroups: [{ id: "dg", name: "Dg", doors: ["gate", "gate"] }], levels: [{ id: "l", name: "L", rows }] }));
    expect(text).toContain('"doors":["gate"]');
    expect(text).toContain('"rows":[{"door":"gate","schedule":"office"},{"door":"gate","schedule":"always"}]');
  });

  it("tells a door's `from`, which is an area, from a moment", () => {
    const text = normal(
      facilityDraft({
        areas: [{ id: "2026-01-01T00:00Z", name: "Oddly named", site: "garden" }],
        doors: [{ id: "gate", name: "Gate", site: "garden", from: "2026-01-01T00:00Z" }],
      }),
    );
    expect(text).toContain('"from":"2026-01-01T00:00Z"');
  });

  it("orders ids by code points, not by UTF-16 units", () => {
    const text = normal(
      facilityDraft({
        groups: [
          { id: "\ud83d\ude00", name: "emoji" },
          { id: "\uffff", name: "last of the plane" },
        ],
      }),
    );
    expect(text.indexOf("last of the plane")).toBeLessThan(text.indexOf("emoji"));
  });
});

import { describe, expect, it } from "@jest/globals";
import { facilityDraft } from "~/tests/builders";
import { issueWords } from "./issue-words";
import { readFacility } from "./read-facility";

const errorsOf = (document: unknown): Record<string, string> => {
  const read = readFacility(typeof document === "string" ? document : JSON.stringify(document));
  if (read.ok) throw new Error("accepted");
  return Object.fromEntries(read.error.map((issue) => [issue.path, issueWords(issue)]));
};
const notesOf = (document: unknown): string[] => {
  const read = readFacility(JSON.stringify(document));
  if (!read.ok) throw new Error(JSON.stringify(read.error));
  return read.value.notes.map(({ path, code }) => `${path} ${code}`);
};

describe("a document that is refused", () => {
  it("names every error at once, each with its place, the value and what was expected", () => {
    const errors = errorsOf({
      ...facilityDraft(),
      timeZone: "Europe/Atlantis",
      doors: [
        { id: "gate", name: "Gate", site: "nowhere", colour: "red" },
        { id: "gate", name: "Again", site: "garden" },
      ],
      cardholders: [{ id: "iris", name: "Iris", status: "active", until: "2026-02-30", department: null }],
      schedules: [{ id: "s", name: "S", week: { mon: [["25:00", "26:00"]] } }],
      grants: [
        { id: "g", to: { cardholder: "iris" }, open: { door: "gate" } },
        { id: "h", to: { cardholder: "iris", group: "x" }, open: { level: "none" } },
      ],
    });
    expect(Object.keys(errors)).toEqual(
      expect.arrayContaining([
        "timeZone",
        "doors[0].site",
        "doors[0].colour",
        "doors[1].id",
        "cardholders[0].until",
        "cardholders[0].department",
        "schedules[0].week.mon[0][0]",
        "schedules[0].week.mon[0][1]",
        "grants[0].schedule",
        "grants[1].to",
        "grants[1].open.level",
      ]),
    );
    expect(errors["cardholders[0].until"]).toContain("2026-02-30");
    expect(errors["doors[0].site"]).toBe('"nowhere" is not an id in sites; expected one that is there.');
    expect(errors["doors[1].id"]).toContain("doors[0].id");
  });

  it("refuses half a million brackets wherever they stand, and keys of every name", () => {
    const deep = `${"[".repeat(500_000)}${"]".repeat(500_000)}`;
    const rest = JSON.stringify(facilityDraft()).slice(1);
    expect(Object.keys(errorsOf(deep))).toEqual([""]);
    expect(Object.keys(errorsOf("[".repeat(500_000)))).toEqual([""]);
    expect(errorsOf(`{"extra":${deep},${rest}`)).toEqual({ extra: expect.stringContaining("nested too deeply") });
    expect(Object.keys(errorsOf(`{${rest.replace('"id":"iris"', `"id":${deep}`)}`))).toEqual(expect.arrayContaining(["cardholders[0].id"]));
    expect(Object.keys(errorsOf(`{${rest.replace('"id":"iris"', `"attributes":${deep},"id":"iris"`)}`))).toEqual(
      expect.arrayContaining([expect.stringMatching(/^cardholders\[0\]/)]),
    );
    expect(Object.keys(errorsOf(`{"__proto__":{"x":1},${rest}`))).toEqual([""]);
    expect(Object.keys(errorsOf(`{${rest.replace('"id":"iris"', `"\\u005f_proto__":{},"id":"iris"`)}`))).toEqual([""]);
    expect(readFacility(`{${rest.replace('"name":"Iris Almond"', '"name":"__proto__"')}`).ok).toBe(true);
    // A day type may be called anything.
    const odd = { id: "odd", name: "Odd", week: {}, holidays: { ["__proto__"]: [["08:00", "10:00"]] } };
    expect(readFacility(JSON.stringify({ ...facilityDraft(), schedules: [...(facilityDraft().schedules ?? []), odd] })).ok).toBe(true);
  });

  it("names a missing key itself", () => {
    const { name: _name, ...rest } = facilityDraft();
    expect(Object.keys(errorsOf(rest))).toEqual(["name"]);
    expect(Object.keys(errorsOf({ ...facilityDraft(), sites: [{ id: "x", name: "X" }], doors: [] }))).toEqual(["sites[0].timeZone"]);
  });

  it("names a loop at one of its members: areas, groups, door groups and doors", () => {
    const loops = errorsOf(
      facilityDraft({
        areas: [
          { id: "a", name: "A", site: "garden", parent: "b" },
          { id: "b", name: "B", site: "garden", parent: "a" },
        ],
        groups: [{ id: "g", name: "G", parent: "g" }],
        doorGroups: [
          { id: "d", name: "D", groups: ["e"] },
          { id: "e", name: "E", groups: ["d"] },
        ],
        doors: [{ id: "gate", name: "Gate", site: "garden", via: "gate" }],
      }),
    );
    expect(Object.keys(loops).sort()).toEqual(["areas[1].parent", "doorGroups[1].groups[0]", "doors[0].via", "groups[0].parent"]);
  });

  it("has an empty path where it is no JSON", () => {
    expect(Object.keys(errorsOf("{"))).toEqual([""]);
    expect(Object.keys(errorsOf("[]"))).toEqual([""]);
  });

  it("takes 24:00 as an end and not as a start", () => {
    const at = (start: string, end: string) => ({ ...facilityDraft(), schedules: [{ id: "s", name: "S", week: { mon: [[start, end]] } }] });
    expect(readFacility(JSON.stringify(at("00:00", "24:00"))).ok).toBe(true);
    expect(Object.keys(errorsOf(at("24:00", "24:00")))).toEqual(["schedules[0].week.mon[0][0]"]);
  });
});

describe("a document that is odd", () => {
  it("is accepted with notes on empty windows, ties, backward ranges, empty intervals and repeated ids", () => {
    const notes = notesOf(
      facilityDraft({
        calendars: [
          {
            id: "k",
            name: "K",
            days: [
              { name: "A", dayType: "public", on: "2026-05-01" },
              { name: "B", dayType: "company", yearly: "05-01" },
              { name: "C", dayType: "x", from: "2026-06-02", to: "2026-06-01" },
            ],
          },
        ],
        schedules: [{ id: "s", name: "S", week: { mon: [["08:00", "08:00"]] } }],
        credentials: [{ id: "c1", kind: "card", status: "active", from: "2026-02-01", until: "2026-01-01" }],
        doorGroups: [{ id: "d", name: "D", doors: ["gate", "gate"] }],
      }),
    );
    expect(notes).toEqual(
      expect.arrayContaining([
        "calendars[0].days[1] priority-tie",
        "calendars[0].days[2] backward-range",
        "schedules[0].week.mon[0] empty-interval",
        "credentials[0] empty-window",
        "doorGroups[0].doors[1] repeated-reference",
      ]),
    );
  });

  it("judges whether a window is empty after rounding: outward for an allow, inward for a block", () => {
    const window = { from: "2026-03-02T08:00:20Z", until: "2026-03-02T08:00:40Z" };
    const grant = (effect: "allow" | "block") =>
      facilityDraft({ grants: [{ id: "g", to: { cardholder: "iris" }, open: { door: "gate" }, schedule: "always", effect, ...window }] });
    expect(notesOf(grant("allow"))).toEqual([]);
    expect(notesOf(grant("block"))).toEqual(["grants[0] empty-window"]);
  });
});

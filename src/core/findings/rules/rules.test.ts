import { describe, expect, it } from "@jest/globals";
import { horizonOf } from "../../table/horizon";
import { compiledFrom, minute } from "~/tests/builders";
import type { FacilityDocument } from "../../facility/document";
import { allRules } from "../catalogue";
import { findingSentence } from "@/features/words/findings";
import { findAll } from "../find";
import type { Findings } from "../finding";
import type { CivilDay } from "../../time/civil-day";
import type { UseRecord } from "../use";
import { noEvents } from "../use";
import { judgedOf } from "~/tests/judged";

const vault = {
  areas: [{ id: "vault", name: "Seed vault", site: "garden", sensitivity: 3 as const }],
  doors: [{ id: "gate", name: "Gate", site: "garden", area: "vault" }],
};
const open = (schedule: string) => ({ grants: [{ id: "g", to: { cardholder: "iris" }, open: { door: "gate" }, schedule }] });
const find = (given: Partial<FacilityDocument>, use: UseRecord = noEvents): Findings =>
  findAll(judgedOf(horizonOf(compiledFrom({ ...vault, ...given })), { use }));
const untold = (found: Findings, rule: string) => found.cannotTell.find((one) => one.rule === rule);
const of = (found: Findings, rule: string) => found.findings.filter((finding) => finding.rule === rule);

/** Events that cover the whole year before the export, with the uses given by credential. */
const events = (lastUse: Readonly<Record<string, string>>, from = "2025-03-01T00:00Z"): UseRecord => ({
  lastUse: (credential) => (lastUse[credential] === undefined ? undefined : minute(lastUse[credential])),
  useOfDoor: () => undefined,
  eventDates: () =>
    Array.from({ length: Math.floor((minute("2026-02-28T23:00Z") - minute(from)) / 1440) + 1 }, (_, i) => (Math.floor(minute(from) / 1440) + i) as CivilDay),
});

describe("leaver-live", () => {
  const leaver = (more: object, card: object = {}) => ({
    cardholders: [{ id: "iris", name: "Iris", status: "left" as const, ...more }],
    credentials: [{ id: "c1", cardholder: "iris", kind: "card" as const, status: "active" as const, ...card }],
  });

  it("flags who has left, by status or by the end of their window, while a credential is active", () => {
    expect(of(find(leaver({ statusSince: "2026-01-01T00:00:00Z" })), "leaver-live")[0]).toMatchObject({
      subject: { kind: "cardholder", id: "iris" },
      proof: { left: "2026-01-01T00:00Z", credentials: ["c1"] },
    });
    expect(of(find(leaver({ status: "active", until: "2026-01-31" })), "leaver-live")).toHaveLength(1);
  });

  it("says the date that the facility's clock showed, and of what ends its last day", () => {
    const sentence = (more: object, timeZone: string) => {
      const [finding] = of(find({ timeZone, ...leaver(more) }), "leaver-live");
      return finding && findingSentence(finding, { timeZone, name: (_, id) => id });
    };
    expect(sentence({ statusSince: "2026-01-14T20:00:00Z" }, "Pacific/Auckland")).toMatch(/^Left on 15 Jan 2026;/);
    expect(sentence({ statusSince: "2026-01-15T03:00:00Z" }, "America/Vancouver")).toMatch(/^Left on 14 Jan 2026;/);
    for (const timeZone of ["Pacific/Auckland", "Europe/Vienna", "America/Vancouver"])
      expect([timeZone, sentence({ status: "active", until: "2026-01-31" }, timeZone)]).toEqual([timeZone, expect.stringMatching(/^Left on 31 Jan 2026;/)]);
  });

  it("does not flag whose credentials are all inactive, nor who leaves only later", () => {
    expect(of(find(leaver({}, { status: "returned" })), "leaver-live")).toEqual([]);
    expect(of(find(leaver({ statusSince: "2026-04-01T00:00:00Z" })), "leaver-live")).toEqual([]);
  });
});

describe("expired-active", () => {
  const card = (more: object) => ({ credentials: [{ id: "c1", cardholder: "iris", kind: "card" as const, status: "active" as const, ...more }] });

  it("flags a credential that is past its end, or past its expiry by use, and still marked active", () => {
    expect(of(find(card({ until: "2026-01-31" })), "expired-active")[0]).toMatchObject({ proof: { end: "2026-01-31T23:00Z", by: "until" } });
    expect(of(find(card({ expiry: { after: "first-use", days: 10 }, firstUse: "2026-01-01T12:00:00Z" })), "expired-active")[0]).toMatchObject({
      proof: { end: "2026-01-11T12:00Z" },
    });
  });

  it("does not flag one that ends later, or that is marked as ended", () => {
    expect(of(find(card({ until: "2026-03-31" })), "expired-active")).toEqual([]);
    expect(of(find(card({ until: "2026-01-31", status: "returned" })), "expired-active")).toEqual([]);
  });
});

describe("unused", () => {
  const card = { ...open("always"), credentials: [{ id: "c1", cardholder: "iris", kind: "card" as const, status: "active" as const, from: "2025-01-01" }] };

  it("flags a live credential without a use in 90 days (PCI DSS 8.2.6; from memory)", () => {
    expect(of(find(card, events({ c1: "2025-11-30T10:00Z" })), "unused")[0]).toMatchObject({ subject: { id: "c1" }, proof: { lastUse: "2025-11-30T10:00Z" } });
    expect(of(find(card, events({})), "unused")).toHaveLength(1);
    expect(of(find(card, events({ c1: "2025-12-01T10:00Z" })), "unused")).toEqual([]);
  });

  it("says that it cannot tell where the events cover less, instead of flagging", () => {
    const found = find(card, events({}, "2026-01-19T00:00Z"));
    expect(of(found, "unused")).toEqual([]);
    expect(untold(found, "unused")).toMatchObject({ covered: 41, days: 90, concerned: 1, subjects: ["c1"] });
  });

  it("takes a stray event of a reset clock for what it is: it covers its own date, and nothing else", () => {
    const stray = { ...events({}), eventDates: () => [0 as CivilDay, Math.floor(minute("2026-02-20T10:00Z") / 1440) as CivilDay] };
    expect(of(find(card, stray), "unused")).toEqual([]);
    expect(untold(find(card, stray), "unused")).toMatchObject({ covered: 1, days: 90, concerned: 1, subjects: ["c1"] });
  });

  it("needs events at every site where there are doors, of a card that opens none", () => {
    const closed = { credentials: card.credentials };
    expect(of(find(closed, events({})), "unused")).toHaveLength(1);
    expect(untold(find(closed, noEvents), "unused")).toMatchObject({ covered: 0, days: 90, concerned: 1 });
  });

  it("believes the source's own last use without events", () => {
    const stated = {
      ...card,
      credentials: [{ ...card.credentials[0], id: "c1", kind: "card" as const, status: "active" as const, lastUse: "2025-06-01T00:00:00Z" }],
    };
    expect(of(find(stated), "unused")).toHaveLength(1);
  });

  it("does not flag a credential that was given out within the 90 days, or is not live", () => {
    const given = (more: object) => ({
      ...open("always"),
      credentials: [{ id: "c1", cardholder: "iris", kind: "card" as const, status: "active" as const, ...more }],
    });
    expect(of(find(given({ issuedAt: "2026-02-01T00:00:00Z" }), events({})), "unused")).toEqual([]);
    expect(of(find(given({ until: "2026-01-01" }), events({})), "unused")).toEqual([]);
  });
});

describe("around-the-clock", () => {
  it("flags who opens a sensitive area in every minute of a week, and names the week", () => {
    expect(of(find(open("always")), "around-the-clock")[0]).toMatchObject({
      cardholder: "iris",
      distinct: ["vault"],
      proof: { week: "2026-03-02", doors: ["gate"] },
    });
  });

  it("adds up the doors and credentials of one person", () => {
    const halves = {
      schedules: [
        {
          id: "first",
          name: "First",
          week: Object.fromEntries(["mon", "tue", "wed", "thu", "fri", "sat", "sun"].map((day) => [day, [["00:00", "12:00"]]])),
          onHoliday: "weekday" as const,
        },
        {
          id: "second",
          name: "Second",
          week: Object.fromEntries(["mon", "tue", "wed", "thu", "fri", "sat", "sun"].map((day) => [day, [["12:00", "24:00"]]])),
          onHoliday: "weekday" as const,
        },
      ],
      doors: [...vault.doors, { id: "hatch", name: "Hatch", site: "garden", area: "vault" }],
      grants: [
        { id: "g", to: { cardholder: "iris" }, open: { door: "gate" }, schedule: "first" },
        { id: "h", to: { cardholder: "iris" }, open: { door: "hatch" }, schedule: "second" },
      ],
    } as unknown as Partial<FacilityDocument>;
    expect(of(find(halves), "around-the-clock")).toHaveLength(1);
  });

  it("does not flag office hours, nor an area that is not sensitive", () => {
    expect(of(find(open("office")), "around-the-clock")).toEqual([]);
    expect(of(find({ ...open("always"), areas: [{ id: "vault", name: "Shed", site: "garden", sensitivity: 1 }] }), "around-the-clock")).toEqual([]);
  });
});

describe("every finding", () => {
  const everything = find({
    ...open("always"),
    cardholders: [
      { id: "iris", name: "Iris", status: "active" },
      { id: "leif", name: "Leif", status: "left" },
    ],
    credentials: [
      { id: "c1", cardholder: "iris", kind: "card", status: "active", lastUse: "2025-01-01T00:00:00Z" },
      { id: "c2", cardholder: "leif", kind: "card", status: "active", until: "2025-12-31" },
    ],
  });

  it("comes of some rule, each of which has its source and says whether it is from memory", () => {
    for (const rule of ["leaver-live", "expired-active", "unused", "around-the-clock"]) expect([rule, of(everything, rule).length]).toEqual([rule, 1]);
    for (const { source } of allRules) expect(source).toMatch(/from memory|no source/);
  });

  it("has a risk that is the sum of its parts, no more than 100, the riskiest first", () => {
    for (const { risk, terms } of everything.findings)
      expect(risk).toBe(
        Math.min(
          100,
          terms.reduce((sum, { points }) => sum + points, 0),
        ),
      );
    expect(everything.findings.map(({ risk }) => risk)).toEqual(everything.findings.map(({ risk }) => risk).sort((a, b) => b - a));
  });

  it("bears a fingerprint of its own, the same when the facility is read again", () => {
    const prints = everything.findings.map(({ fingerprint }) => fingerprint);
    expect(new Set(prints).size).toBe(prints.length);
  });
});

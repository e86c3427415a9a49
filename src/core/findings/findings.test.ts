import { describe, expect, it } from "@jest/globals";
import { horizonOf } from "../table/horizon";
import fc from "fast-check";
import { compiledFrom, minute } from "~/tests/builders";
import { arbitraryFacility } from "~/tests/judge/arbitrary-facility";
import { exactTimeframe } from "../paths/timeframe";
import { ordinary } from "../paths/paths";
import { cardholderOpenIn, openIn } from "../paths/timetable";
import type { IntervalSet } from "../time/intervals";
import { union } from "../time/intervals";
import { findAll } from "./find";
import type { Finding } from "./finding";
import { Weeks } from "./weeks";
import type { CivilDay } from "../time/civil-day";
import { noEvents } from "./use";
import { judgedOf } from "~/tests/judged";
import { monthsAhead } from "../time/horizon";

/** Both areas are sensitive, so that whatever opens at all hours is found. */
const sensitive = arbitraryFacility.map((draft) => ({
  ...draft,
  areas: (draft.areas ?? []).map((area) => ({ ...area, sensitivity: 2 as const })),
  grants: [...(draft.grants ?? []), { id: "round", to: { cardholder: "h2" }, open: { door: "d1" }, schedule: "always" }],
}));

/** Whom a finding about an area is about, which area, which week and which doors. */
const told = (finding: Finding): string =>
  finding.rule === "around-the-clock"
    ? `${finding.subject.kind} ${finding.subject.id} ${finding.distinct.join()} ${finding.proof.week} ${finding.proof.doors.join()}`
    : finding.rule;

describe("findings", () => {
  it("that a sensitive area opens at all hours are just those that each person's own timetables give", () => {
    let seen = 0;
    fc.assert(
      fc.property(sensitive, (draft) => {
        const compiled = compiledFrom(draft);
        const asOf = minute("2026-03-01T00:00:00Z");
        const timeframe = exactTimeframe(compiled, asOf, monthsAhead(asOf, compiled.vocabulary.zone), ordinary);
        const expected = new Set<string>();
        const look = (subject: string, openAt: (door: number) => IntervalSet): void => {
          for (const area of compiled.facility.areas) {
            const into = compiled.doors
              .filter(({ areas }) => areas.some((one) => compiled.facility.areas[one]?.id === area.id))
              .map((door) => ({ door, open: openAt(door.position) }))
              .filter(({ open }) => open.length > 0);
            const zone = into[0]?.door.zone;
            const week =
              zone &&
              new Weeks(zone, asOf, monthsAhead(asOf, compiled.vocabulary.zone)).firstWhole(into.reduce<IntervalSet>((set, { open }) => union(set, open), []));
            if (week !== undefined) expected.add(`${subject} ${area.id} ${week} ${into.map(({ door }) => door.door.id).join()}`);
          }
        };
        compiled.facility.cardholders.forEach(({ id }, position) => look(`cardholder ${id}`, (door) => cardholderOpenIn(compiled, timeframe, position, door)));
        for (const credential of compiled.credentials)
          if (!credential.holder) look(`credential ${credential.credential.id}`, (door) => openIn(compiled, timeframe, credential, door));
        const found = findAll(judgedOf(horizonOf(compiled)), ["around-the-clock"]).findings;
        seen += found.length;
        expect(new Set(found.map(told))).toEqual(expected);
      }),
      { numRuns: 60 },
    );
    expect(seen).toBeGreaterThan(0);
  });

  it("of unused cards cannot be told where the events of a site that they open are missing", () => {
    const card = { id: "c1", cardholder: "iris", kind: "card" as const, status: "active" as const, from: "2025-01-01" };
    const compiled = compiledFrom({
      sites: [
        { id: "garden", name: "Garden", timeZone: "Europe/Vienna" },
        { id: "island", name: "Island", timeZone: "Atlantic/Azores" },
      ],
      doors: [
        { id: "gate", name: "Gate", site: "garden" },
        { id: "pier", name: "Pier", site: "island" },
      ],
      cardholders: [
        { id: "iris", name: "Iris", status: "active" },
        { id: "otto", name: "Otto", status: "active" },
      ],
      credentials: [card, { ...card, id: "c2", cardholder: "otto" }, { ...card, id: "c3", cardholder: "otto" }],
      grants: [
        { id: "g1", to: { cardholder: "iris" }, open: { door: "gate" }, schedule: "always" },
        { id: "g2", to: { cardholder: "otto" }, open: { door: "pier" }, schedule: "always" },
      ],
    });
    const lastYear = Array.from({ length: 365 }, (_, i) => (Math.floor(minute("2026-02-28T23:00:00Z") / 1440) - i) as CivilDay).reverse();
    const use = { ...noEvents, eventDates: (site: string) => (site === "garden" ? lastYear : []) };
    const { findings, cannotTell } = findAll(judgedOf(horizonOf(compiled), { use }), ["unused"]);
    expect(findings.map(({ subject }) => subject.id)).toEqual(["c1"]);
    expect(cannotTell).toEqual([{ rule: "unused", covered: 0, days: 90, concerned: 2, sites: ["island"], subjects: ["c2", "c3"] }]);
  });
});

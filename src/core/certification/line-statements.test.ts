import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { compiledFrom } from "~/tests/builders";
import { arbitraryFacility } from "~/tests/judge/arbitrary-facility";
import { Judge } from "~/tests/judge/judge";
import { germanInEnglish, readHoursBack } from "~/tests/judge/read-hours";
import { aheadOf } from "../facility/ahead";
import type { FacilityDocument } from "../facility/document";
import { noEvents } from "../findings/use";
import { required } from "../kernel/invariant";
import type { EpochMinute } from "../time/instant";
import { contains } from "../time/intervals";
import { localTime, zoneOf } from "../time/zone";
import { endOfMinutesThrough, firstMinuteFrom, minuteAtWallClock } from "../time/zone";
import { holderOfLine } from "./holder-of-line";
import { linesOf } from "./lines-of-register";
import type { LifeBound, Line } from "./line";

/**
 * A line is signed: each kind of statement in it is held against the point-wise judge, which reads the document by itself, minute by minute.
 */
const ordinary = { lockdown: false, asIfLive: false };
const asIfLive = { lockdown: false, asIfLive: true };
const notLive = ["credential-inactive", "cardholder-inactive", "not-yet-valid", "expired"];

/** Cards and people of which some begin or end within the 13 months, cards and people with one id, a fourth card for the first of them. */
const documents = fc.tuple(arbitraryFacility, fc.boolean()).map(([draft, same]): FacilityDocument => ({
  ...draft,
  asOf: "2026-04-01T10:20:30Z",
  credentials: (draft.credentials ?? [])
    .map((one) => (one.id === "c3" && same ? { ...one, id: "h1" } : one))
    .concat([{ id: "c4", cardholder: "h1", kind: "card", status: "active", from: "2026-09-05" }]),
  grants: (draft.grants ?? []).map((grant) => (grant.to.credential === "c3" && same ? { ...grant, to: { credential: "h1" } } : grant)),
}));

class Statements {
  readonly judge: Judge;
  readonly compiled;
  readonly from: EpochMinute;
  readonly to: EpochMinute;
  readonly lines: readonly Line[];
  /** Minutes at which statements are held against the judge: all over the 13 months, both ends among them. */
  readonly minutes: readonly EpochMinute[];

  constructor(readonly draft: FacilityDocument) {
    this.judge = new Judge(draft);
    this.compiled = compiledFrom(draft);
    ({ from: this.from, to: this.to } = aheadOf(draft));
    this.lines = linesOf(
      this.compiled,
      noEvents,
      draft.credentials?.map(({ id, cardholder }) => ({
        rule: "unused" as const,
        fingerprint: id,
        risk: 1,
        distinct: [],
        terms: [],
        proof: { days: 90, coveredDays: 90 },
        subject: { kind: "credential" as const, id },
        ...(cardholder !== undefined && { cardholder }),
      })) ?? [],
    );
    const step = Math.floor((this.to - this.from) / 37);
    this.minutes = [...Array.from({ length: 37 }, (_, i) => (this.from + i * step) as EpochMinute), (this.to - 1) as EpochMinute];
  }

  isLive(credential: string, minute: number): boolean {
    return !notLive.includes(this.judge.reason(credential, this.draft.doors?.[0]?.id ?? "", BigInt(minute), ordinary));
  }

  credentialsOf(line: Line): string[] {
    const { kind, id } = holderOfLine(line);
    return (this.draft.credentials ?? [])
      .filter((one) => (kind === "cardholder" ? one.cardholder === id : one.id === id && one.cardholder === undefined))
      .map((one) => one.id);
  }

  opens(line: Line, door: string, minute: number): boolean {
    return this.credentialsOf(line).some((credential) => this.judge.reason(credential, door, BigInt(minute), ordinary) === "open");
  }
}

const zoneOfDocument = (draft: FacilityDocument) => zoneOf(draft.timeZone);
const startsAt = (draft: FacilityDocument, { date, minuteOfDay }: LifeBound): number =>
  minuteOfDay === undefined ? firstMinuteFrom(zoneOfDocument(draft), date) : minuteAtWallClock(zoneOfDocument(draft), date, minuteOfDay);
const endsAt = (draft: FacilityDocument, { date, minuteOfDay }: LifeBound): number =>
  minuteOfDay === undefined ? endOfMinutesThrough(zoneOfDocument(draft), date) : minuteAtWallClock(zoneOfDocument(draft), date, minuteOfDay);

describe("every statement of a line holds:", () => {
  it("live throughout, ends on, begins on, asleep, and what an asleep card would open besides", () => {
    const seen = new Set<string>();
    fc.assert(
      fc.property(documents, (draft) => {
        const statements = new Statements(draft);
        const { lines, from, to, minutes, judge } = statements;
        for (const line of lines) {
          const { life, subject } = line;
          if (subject.kind !== "credential" || !life) continue;
          seen.add(life.kind);
          const live = (minute: number) => statements.isLive(subject.id, minute);
          const said = [subject.id, life.kind];
          if (life.kind === "live") expect([...said, ...minutes.filter((minute) => !live(minute))]).toEqual(said);
          if (life.kind === "ends")
            expect([...said, live(from), live(endsAt(draft, life.last) - 1), live(endsAt(draft, life.last)), live(to - 1)]).toEqual([
              ...said,
              true,
              true,
              false,
              false,
            ]);
          if (life.kind === "begins")
            expect([...said, live(from), live(startsAt(draft, life.first) - 1), live(startsAt(draft, life.first))]).toEqual([...said, false, false, true]);
          if (life.kind !== "asleep") continue;
          expect([...said, ...minutes.filter(live)]).toEqual(said);
          // What it would open besides is said where there is something: where nothing is said, it opens nothing more.
          if (life.places !== undefined) continue;
          const besides = (doorId: string) => (minute: number) =>
            judge.reason(subject.id, doorId, BigInt(minute), asIfLive) === "open" && !statements.opens(line, doorId, minute);
          for (const { id } of draft.doors ?? []) expect([...said, id, ...minutes.filter(besides(id))]).toEqual([...said, id]);
        }
      }),
      { numRuns: 40 },
    );
    expect([...seen].sort()).toEqual(["asleep", "begins", "ends", "live"]);
  });

  it("doors, hours in words and the override, of each holder by kind and id", () => {
    fc.assert(
      fc.property(documents, (draft) => {
        const statements = new Statements(draft);
        const { lines, compiled, from, to, minutes } = statements;
        for (const line of lines.filter(({ subject }) => subject.kind !== "credential"))
          for (const { doors, words, german = "" } of line.hours)
            for (const { id } of doors) {
              const { zone, calendar } = required(compiled.doors[compiled.doorById.get(id) ?? -1], "the door is there");
              const own = line.cardholder === undefined ? undefined : compiled.cardholders.at(compiled.cardholderById.get(line.cardholder) ?? -1)?.calendar;
              const days = compiled.calendars[own ?? calendar ?? -1];
              // Dates that are only counted cannot be read back; they are in the test of hours in full.
              const isCounted = /on \d+ (dates|of \d+)|and \d+ more dates/.test(words);
              if (!isCounted) expect([german, germanInEnglish(german)]).toEqual([german, words]);
              const [first, last] = [localTime(zone, from).date, localTime(zone, (to - 1) as EpochMinute).date];
              const read = isCounted ? undefined : readHoursBack(words, first, last, (date) => days?.read(date)?.winner.dayType);
              for (const minute of minutes) {
                const { date, minuteOfDay } = localTime(zone, minute);
                if (!read || date === first || date === last) continue;
                expect([holderOfLine(line), id, words, minute, contains(read.get(date) ?? [], minuteOfDay)]).toEqual([
                  holderOfLine(line),
                  id,
                  words,
                  minute,
                  statements.opens(line, id, minute),
                ]);
              }
            }
        // Who passes by an override needs no grant: without any, it is never said that one is missing.
        const bare = new Judge({ ...draft, grants: (draft.grants ?? []).filter(({ effect }) => effect === "block") });
        for (const line of lines.filter(({ override }) => override))
          for (const { doors } of line.hours)
            for (const { id } of doors)
              for (const credential of statements.credentialsOf(line))
                expect(["no-grant", "grant-not-in-force"]).not.toContain(bare.reason(credential, id, BigInt(from), asIfLive));
      }),
      { numRuns: 25 },
    );
  });
});

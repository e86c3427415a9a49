import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { Temporal } from "temporal-polyfill";
import { compiledFrom, minute } from "~/tests/builders";
import { arbitraryFacility, askedDays } from "~/tests/judge/arbitrary-facility";
import { Judge } from "~/tests/judge/judge";
import type { FacilityDocument } from "@/core/facility/document";
import type { HolderId } from "@/core/facility/holder-id";
import { usualRuleSettings } from "~/tests/settings";
import { memoryEvents } from "~/tests/contract/memory-events";
import { required } from "@/core/kernel/invariant";
import type { When } from "@/core/questions/when";
import { minutesADay } from "@/core/time/civil-day";
import type { CivilDay } from "@/core/time/civil-day";
import type { EpochMinute } from "@/core/time/instant";
import { zoneOf } from "@/core/time/zone";
import { answerInquiry } from "./answer-inquiry";
import type { Answer, Inquiry, AnswerRow } from "./inquiry";
import { readTimes } from "./read-question";
import type { OpenRegister } from "../register/open-register";
import type { Account } from "../ports/accounts";
import type { Services } from "../services";
import { traceInquiry } from "./trace-inquiry";

const tessa: Account = { id: 1, signIn: "tessa", name: "Tessa", role: "reviewer", cardholder: undefined };

/** No events and no findings: what opens is told by the register alone. */
const servicesAt = (now: string): Services =>
  ({
    now: () => now,
    findings: { page: () => Promise.resolve([]), risks: () => Promise.resolve(new Map()) },
    events: memoryEvents(),
    ruleSettings: usualRuleSettings,
  }) as unknown as Services;

const registerOf = (draft: Partial<FacilityDocument>): OpenRegister =>
  ({ snapshot: { id: 1, hash: "made for a test" }, compiled: compiledFrom(draft) }) as unknown as OpenRegister;

const dateOf = (day: string): CivilDay => (minute(`${day}T00:00:00Z`) / minutesADay) as CivilDay;
const any: When = { kind: "any" };
const asked = (given: Partial<Inquiry>): Inquiry => ({ who: undefined, where: undefined, when: any, lockdown: false, ...given });

/** What somebody would call a row: who, how many doors more than one, and, where it is one, which. */
const rowWords = ({
  holder,
  door,
  furtherDoors,
}: Pick<AnswerRow, "furtherDoors"> & { readonly holder: { readonly id: string }; readonly door: { readonly id: string } }): string =>
  `${holder.id} ${furtherDoors === 0 ? door.id : "several"} +${furtherDoors}`;

describe("what opens, asked by who, where and when", () => {
  const whos = fc.constantFrom<HolderId>(
    { kind: "cardholder", id: "h1" },
    { kind: "cardholder", id: "h2" },
    { kind: "credential", id: "c1" },
    { kind: "credential", id: "c3" },
  );
  const wheres = fc.constantFrom<{ readonly kind: "door" | "area"; readonly id: string }>(
    { kind: "door", id: "d1" },
    { kind: "door", id: "d3" },
    { kind: "area", id: "a1" },
    { kind: "area", id: "a2" },
  );
  const questions = fc.oneof(
    fc.record({ who: whos, where: fc.constant(undefined) }),
    fc.record({ who: fc.constant(undefined), where: wheres }),
    fc.record({ who: whos, where: wheres }),
  );
  // Before the export, within the thirteen months for which everything is laid out, and after them.
  const dates = fc.constantFrom("2026-01-31", ...askedDays, "2027-06-30");
  const documents = fc
    .tuple(arbitraryFacility, fc.boolean())
    .map(([draft, two]) =>
      two ? { ...draft, credentials: (draft.credentials ?? []).map((one) => (one.id === "c3" ? { ...one, cardholder: "h1" } : one)) } : draft,
    );

  it("is at a moment just what the judge says of each pair: what opens, and what would if cards were live", async () => {
    await fc.assert(
      fc.asyncProperty(
        documents,
        questions,
        dates,
        fc.nat(1439),
        fc.boolean(),
        fc.boolean(),
        async (draft, { who, where }, date, minuteOfDay, isNow, lockdown) => {
          const clock = `${String(Math.floor(minuteOfDay / 60)).padStart(2, "0")}:${String(minuteOfDay % 60).padStart(2, "0")}`;
          const when: When = isNow ? { kind: "now" } : { kind: "moment", at: { date: dateOf(date), minuteOfDay } };
          const answer = await answerInquiry(servicesAt(`${date}T${clock}:30.000Z`), tessa, registerOf(draft), asked({ who, where, when, lockdown }));

          const judge = new Judge(draft);
          const doors = (draft.doors ?? []).filter(
            ({ id, area }) => !where || (where.kind === "door" ? id === where.id : area === where.id || (area === "a2" && where.id === "a1")),
          );
          // A time that the clock skips never comes; one that it shows twice comes twice.
          const atDoor = (site: string): EpochMinute[] => {
            const zone = zoneOf(
              required(
                draft.sites?.find(({ id }) => id === site),
                "sites are there",
              ).timeZone,
            );
            if (isNow) return [minute(`${date}T${clock}:00Z`)];
            const local = Temporal.PlainDateTime.from(`${date}T${clock}`);
            const both = (["earlier", "later"] as const).map((disambiguation) => local.toZonedDateTime(zone.name, { disambiguation }));
            return [...new Set(both.filter((one) => one.toPlainDateTime().equals(local)).map((one) => one.epochMilliseconds / 60_000))] as EpochMinute[];
          };
          const holders = new Map<string, string[]>();
          for (const { id, cardholder } of draft.credentials ?? []) {
            if (who && (who.kind === "credential" ? id !== who.id : cardholder !== who.id)) continue;
            const holder = who?.kind === "credential" ? id : (cardholder ?? id);
            holders.set(holder, [...(holders.get(holder) ?? []), id]);
          }
          const expected = { awake: [] as string[], asleep: [] as string[] };
          for (const [holder, cards] of holders) {
            const opening = (asIfLive: boolean) =>
              doors.filter(({ id, site }) =>
                cards.some((card) => atDoor(site).some((at) => judge.reason(card, id, BigInt(at), { lockdown, asIfLive }) === "open")),
              );
            const [open, woken] = [opening(false), opening(true)];
            const tell = (list: string[], found: readonly { readonly id: string }[]): void => {
              // Asked of one holder each door is a row, else each holder.
              if (who) list.push(...found.map((door) => rowWords({ holder: { id: holder }, door, furtherDoors: 0 })));
              else if (found[0]) list.push(rowWords({ holder: { id: holder }, door: found[0], furtherDoors: found.length - 1 }));
            };
            tell(expected.awake, open);
            if (who)
              tell(
                expected.asleep,
                woken.filter((door) => !open.includes(door)),
              );
            else if (open.length === 0) tell(expected.asleep, woken);
          }
          expect({ awake: answer.rows.map(rowWords).sort(), asleep: answer.asleep.map(rowWords).sort() }).toEqual({
            awake: expected.awake.sort(),
            asleep: expected.asleep.sort(),
          });
          expect([answer.total, answer.asleepTotal]).toEqual([expected.awake.length, expected.asleep.length]);
        },
      ),
      { numRuns: 40 },
    );
  });

  it("is explained by the judge's reason, of the card that opens if one does", async () => {
    await fc.assert(
      fc.asyncProperty(
        documents,
        whos,
        fc.constantFrom("d1", "d2", "d3"),
        dates,
        fc.nat(1439),
        fc.boolean(),
        async (draft, who, door, date, minuteOfDay, lockdown) => {
          const trace = await traceInquiry(
            servicesAt("2026-03-01T06:00:00Z"),
            tessa,
            registerOf(draft),
            asked({ who, where: { kind: "door", id: door }, when: { kind: "moment", at: { date: dateOf(date), minuteOfDay } }, lockdown }),
          );
          const judge = new Judge(draft);
          const reasonOf = (card: string, at: EpochMinute): string => judge.reason(card, door, BigInt(at), { lockdown, asIfLive: false });
          const { at, credential, verdict, others, nextChange, previousChange } = required(trace, "somebody and a door were asked about");
          const cards = (draft.credentials ?? [])
            .filter(({ id, cardholder }) => (who?.kind === "credential" ? id === who.id : cardholder === who?.id))
            .map(({ id }) => id);
          expect([...others.map((other) => [other.credential.id, other.reason]), [credential?.id, verdict.reason]].sort()).toEqual(
            cards.map((card) => [card, reasonOf(card, at)]).sort(),
          );
          if (cards.some((card) => reasonOf(card, at) === "open")) expect(verdict.reason).toBe("open");
          // A next change is one: the door opens just before it and not after, or the other way about.
          const opens = (minute: number): boolean => cards.some((card) => reasonOf(card, minute as EpochMinute) === "open");
          if (nextChange !== undefined) expect(opens(nextChange)).not.toBe(opens(nextChange - 1));
          if (previousChange !== undefined) expect(opens(previousChange)).not.toBe(opens(previousChange - 1));
          // Between the two nothing changes.
          const state = opens(at);
          for (const minute of [previousChange ?? at, at - 1, at + 1, (nextChange ?? at + 1) - 1])
            if (minute >= (previousChange ?? at) && minute < (nextChange ?? at + 1)) expect([minute, opens(minute)]).toEqual([minute, state]);
        },
      ),
      { numRuns: 40 },
    );
  });

  it("names as the next change neither the day of the export nor the end of what is looked at", async () => {
    const changeAt = async (day: string, schedule: string) => {
      const register = registerOf({ grants: [{ id: "g", to: { cardholder: "iris" }, open: { door: "gate" }, schedule }] });
      const trace = await traceInquiry(
        servicesAt("2026-03-02T06:00:00Z"),
        tessa,
        register,
        asked({
          who: { kind: "cardholder", id: "iris" },
          where: { kind: "door", id: "gate" },
          when: { kind: "moment", at: { date: dateOf(day), minuteOfDay: 600 } },
        }),
      );
      return trace?.nextChange;
    };
    // The export is of 1 March 2026, in Vienna one hour ahead of UTC; 26 February is a Thursday, 7 June 2030 a Friday.
    expect(await changeAt("2026-02-26", "always")).toBeUndefined();
    expect(await changeAt("2026-03-02", "always")).toBeUndefined();
    expect(await changeAt("2026-02-26", "office")).toBe(minute("2026-02-26T17:00:00Z"));
    expect(await changeAt("2030-06-07", "office")).toBe(minute("2030-06-07T16:00:00Z"));
    expect(await changeAt("2030-06-08", "office")).toBe(minute("2030-06-10T06:00:00Z"));
  });
});

describe("a time that recurs", () => {
  const at = (id: string, week: object, more: object = {}) => ({ id, name: id, week, ...more });
  const draft: Partial<FacilityDocument> = {
    sites: [{ id: "garden", name: "Garden", timeZone: "Europe/Vienna", calendar: "days" }],
    calendars: [
      {
        id: "days",
        name: "Days",
        days: [
          { name: "Labour Day", dayType: "public", yearly: "05-01" },
          { name: "Stocktaking", dayType: "company", on: "2026-06-02" },
        ],
      },
    ],
    schedules: [
      at("early", { mon: [["05:30", "06:30"]] }),
      at("day", { mon: [["08:00", "18:00"]] }),
      at("until-eight", { tue: [["12:00", "20:00"]] }),
      at("saturdays", { sat: [["10:00", "11:00"]] }),
      // Labour Day of 2026 is a Friday, and the day of the stocktaking a Tuesday.
      at("labour-day", { fri: [] }, { holidays: { public: [["09:00", "10:00"]] } }),
      at("stocktaking", { tue: [] }, { holidays: { company: [["09:00", "10:00"]] } }),
    ] as FacilityDocument["schedules"],
    cardholders: ["early", "day", "until-eight", "saturdays", "labour-day", "stocktaking"].map((id) => ({ id, name: id, status: "active" })),
    credentials: ["early", "day", "until-eight", "saturdays", "labour-day", "stocktaking"].map((id) => ({
      id: `c-${id}`,
      cardholder: id,
      kind: "card",
      status: "active",
    })),
    grants: ["early", "day", "until-eight", "saturdays", "labour-day", "stocktaking"].map((id) => ({
      id,
      to: { cardholder: id },
      open: { door: "gate" },
      schedule: id,
    })),
  };
  const whoOpens = async (typed: string): Promise<string[]> => {
    const [services, register] = [servicesAt("2026-03-02T06:00:00Z"), registerOf(draft)];
    const read = readTimes(services, tessa, register, typed).read;
    const answer: Answer = await answerInquiry(services, tessa, register, asked({ where: { kind: "door", id: "gate" }, when: required(read, typed).when }));
    return answer.rows.map(({ holder }) => holder.id).sort();
  };

  it("stands beside how long a door opens in an ordinary week, and how much of that is out of hours", async () => {
    const answer = await answerInquiry(servicesAt("2026-03-02T06:00:00Z"), tessa, registerOf(draft), asked({ where: { kind: "door", id: "gate" } }));
    expect(answer.rows.map(({ holder, weekMinutes, outOfHoursMinutes }) => [holder.id, weekMinutes, outOfHoursMinutes]).sort()).toEqual([
      ["day", 600, 0],
      ["early", 60, 60],
      // Only on days that no ordinary week has.
      ["labour-day", 0, 0],
      ["saturdays", 60, 60],
      ["stocktaking", 0, 0],
      ["until-eight", 480, 60],
    ]);
  });

  it("finds who opens at night, from ten in the evening to six", async () => {
    expect(await whoOpens("nights")).toEqual(["early"]);
  });

  it("finds who opens on days of a day type, by its own words, and on a holiday by its name", async () => {
    expect(await whoOpens("public holidays")).toEqual(["labour-day"]);
    expect(await whoOpens("company days from 9 to 12")).toEqual(["stocktaking"]);
    expect(await whoOpens("Labour Day 9:30")).toEqual(["labour-day"]);
  });

  it("finds who opens on Saturdays or Sundays", async () => {
    expect(await whoOpens("weekends")).toEqual(["saturdays"]);
  });

  it("finds who opens out of hours: before seven, after seven in the evening, at weekends and on public holidays, not on a company's own day", async () => {
    expect(await whoOpens("out of hours")).toEqual(["early", "labour-day", "saturdays", "until-eight"]);
  });
});

describe("a question about what is not there", () => {
  it("has an empty answer that names nobody and nothing, and no trace", async () => {
    const register = registerOf({});
    const services = servicesAt("2026-03-02T06:00:00Z");
    const nobody = asked({ who: { kind: "cardholder", id: "nobody" }, where: { kind: "door", id: "gate" } });
    const nowhere = asked({ who: { kind: "cardholder", id: "iris" }, where: { kind: "door", id: "nowhere" } });
    const [first, second] = [await answerInquiry(services, tessa, register, nobody), await answerInquiry(services, tessa, register, nowhere)];
    expect([first.askedHolders, first.total, first.asleepTotal]).toEqual([0, 0, 0]);
    expect([second.askedDoors, second.total, second.names.who]).toEqual([0, 0, "Iris Almond"]);
    expect([await traceInquiry(services, tessa, register, nobody), await traceInquiry(services, tessa, register, nowhere)]).toEqual([undefined, undefined]);
  });

  it("tells an area without a door and a person without a card from ones that are not there", async () => {
    const register = registerOf({
      areas: [{ id: "attic", name: "Attic", site: "garden" }],
      cardholders: [
        { id: "iris", name: "Iris Almond", status: "active" },
        { id: "nora", name: "Nora Moss", status: "active" },
      ],
    });
    const answer = await answerInquiry(
      servicesAt("2026-03-02T06:00:00Z"),
      tessa,
      register,
      asked({ who: { kind: "cardholder", id: "nora" }, where: { kind: "area", id: "attic" } }),
    );
    expect([answer.names.who, answer.names.where, answer.total]).toEqual(["Nora Moss", "Attic", 0]);
  });
});

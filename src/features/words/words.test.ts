import { describe, expect, it } from "@jest/globals";
import { civilDay } from "@/core/time/civil-day";
import type { EpochMinute } from "@/core/time/instant";
import { minute } from "~/tests/builders";
import type { When } from "@/core/questions/when";
import { refusalText, whenFull, whenShort } from "./when";
import type { Need } from "@/core/paths/needs";
import { changesWords, effectsWords } from "./changes";
import type { Names } from "./changes";
import type { DescribedChange } from "@/core/certification/withdrawal/described-change";
import type { WithdrawalEffects } from "@/core/certification/withdrawal/withdrawal-effects";
import type { ChangedObject } from "@/core/facility/facility-change";
import type { Plain } from "@/core/facility/object-key";
import { needsWords, removalWords } from "./needs";
import { hoursWords, listWords, plural, shareWords, someWords, timesWords } from "./numbers";
import { agoText, clockText, localMomentText, offsetText } from "./times";
import { wordsOfUse } from "./use";

describe("a time in words", () => {
  const at = (year: number, month: number, day: number, minuteOfDay: number) => ({ date: civilDay(year, month, day), minuteOfDay });

  it("is said in full before it is taken, and in few words in the question", () => {
    const night: When = { kind: "span", from: at(2026, 11, 28, 1320), to: at(2026, 11, 29, 360) };
    expect(whenFull(night)).toBe("Sat 28 Nov 2026, 22:00 – Sun 29 Nov 2026, 06:00, at any minute of it");
    expect(whenFull({ kind: "moment", at: at(2026, 12, 4, 1320) })).toBe("Fri 4 Dec 2026, 22:00, on each door's own clock");
    const weekends: When = {
      kind: "recurring",
      days: { kind: "weekend" },
      hours: { kind: "between", start: 1320, end: 240 },
      within: { kind: "dates", from: civilDay(2026, 12, 1), to: civilDay(2026, 12, 31) },
    };
    expect([whenShort(weekends), whenFull(weekends)]).toEqual([
      "weekends 22:00–04:00",
      "weekends 22:00–04:00 from 1 Dec 2026 to 31 Dec 2026, at any minute of it",
    ]);
    const holidays: When = {
      kind: "recurring",
      days: { kind: "day-type", dayType: "public" },
      hours: { kind: "clock", minuteOfDay: 600 },
      within: { kind: "instants", from: minute("2026-11-27T13:10:00Z"), to: minute("2027-12-27T13:10:00Z") },
    };
    expect(whenFull(holidays)).toBe("public holidays at 10:00 from 27 Nov 2026, 13:10 UTC to 27 Dec 2027, 13:10 UTC, at any minute of it");
    expect(whenFull({ kind: "by-site", sites: [{ site: "apia", when: { kind: "dates", from: civilDay(2026, 11, 28), to: civilDay(2026, 11, 28) } }] })).toBe(
      "apia: Sat 28 Nov 2026, at any minute of it",
    );
  });

  it("is refused with what was understood, what was not, both readings, and three examples", () => {
    expect(refusalText({ understood: ["sunday"], notUnderstood: ["nite"] })).toBe(
      "“nite” is not understood beside “sunday”, which is. For example: “next Friday 22:00”, “Saturday night”, “public holidays at 10:00”.",
    );
    expect(
      refusalText({ understood: [], notUnderstood: [], obstacle: { why: "two-readings", text: "03/04/2026", readings: ["3 April 2026", "4 March 2026"] } }),
    ).toMatch(/^“03\/04\/2026” can be read in two ways: 3 April 2026, or 4 March 2026\. Write the one you mean\./);
  });
});

describe("words", () => {
  it("count small numbers out and write large ones in figures", () => {
    expect([plural(1, "door", "doors"), plural(12, "door", "doors"), plural(1200, "door", "doors")]).toEqual(["one door", "twelve doors", "1,200 doors"]);
    expect([timesWords(1), timesWords(2), timesWords(3)]).toEqual(["once", "twice", "three times"]);
    expect([hoursWords(7200), hoursWords(7230), shareWords(1, 3), shareWords(0, 0)]).toEqual(["120 h", "120.5 h", "33 %", "–"]);
  });

  it("join lists, and say how many more there are", () => {
    expect([listWords([]), listWords(["a"]), listWords(["a", "b", "c"])]).toEqual(["", "a", "a, b and c"]);
    expect([someWords(["a", "b", "c", "d"], 3), someWords(["a", "b", "c", "d", "e"], 3)]).toEqual(["a, b, c and d", "a, b, c and 2 more"]);
  });

  it("tell times on the wall clock of a zone, with the offset where it is not whole", () => {
    expect(localMomentText((Date.parse("2026-11-28T20:30Z") / 60_000) as EpochMinute, "Europe/Helsinki")).toBe("Sat 28 Nov 2026, 22:30");
    expect([offsetText(120), offsetText(-60), offsetText(345), offsetText(0)]).toEqual(["UTC+2", "UTC−1", "UTC+5:45", "UTC+0"]);
    expect(clockText("2026-11-24T06:10:59.123Z")).toBe("24 Nov 2026, 06:10 UTC");
  });

  it("tell use from never used, and never used from not knowing", () => {
    const now = 3_000_000 as EpochMinute;
    expect(agoText((now - 10) as EpochMinute, now)).toBe("today");
    expect(wordsOfUse({ count: 3, last: (now - 3 * 1440) as EpochMinute, coveredDays: 0 }, now)).toBe("3 days ago");
    const unseen = (coveredDays: number) => wordsOfUse({ count: 0, last: undefined, coveredDays }, now);
    // Nine tenths of the 90 days are enough.
    expect([unseen(90), unseen(81), unseen(80), unseen(0)]).toEqual(["not in 90 days", "not in 90 days", "cannot tell", "cannot tell"]);
  });

  it("say what must change and what else is lost, by names", () => {
    const names = { "grant g": "Night rounds", "group w": "Frost watch", "door d": "Palm house", "schedule s": "Nights", "door lift": "Tower lift" };
    const removed = (target: ChangedObject): DescribedChange => ({ change: { do: "remove", ...target }, fields: [] });
    expect(changesWords([removed({ list: "grants", id: "g" }), removed({ list: "memberships", membership: { group: "w", cardholder: "h" } })], names)).toBe(
      "end the grant of Night rounds and take them out of Frost watch",
    );
    const narrowed: DescribedChange = {
      change: { do: "alter", list: "grants", id: "g", object: { id: "g", schedule: "s", until: "2027-03-31" } },
      fields: [
        { field: "schedule", before: "always", after: "s" },
        { field: "until", before: undefined, after: "2027-03-31" },
      ],
    };
    expect(changesWords([narrowed], names)).toBe("narrow the grant of Night rounds to Nights and to end with 31 Mar 2027");
    const added = (object: Plain): DescribedChange => ({ change: { do: "add", list: "grants", id: "withdrawal-1", object }, fields: [] });
    expect(
      changesWords([added({ open: { door: "d" }, effect: "block", from: "2027-03-31T22:00:00Z" }), added({ open: { door: "lift" }, schedule: "s" })], names),
    ).toBe("block Palm house for them from 31 Mar 2027, 22:00 UTC on and give Tower lift by itself during Nights");
    const none: WithdrawalEffects = { lost: [], narrowed: [], staysLess: [], others: [] };
    expect(effectsWords({ ...none, lost: ["d"] }, names)).toBe("Also lost: Palm house. Nobody else is touched.");
    expect(effectsWords(none, names)).toBe("Nothing else is lost. Nobody else is touched.");
    expect(effectsWords({ ...none, others: [{ holder: { kind: "cardholder", id: "h" }, door: "d", minutesLess: 3 }] }, names)).toBe(
      "Nothing else is lost. One other loses access too.",
    );
    expect(
      needsWords(
        [
          { need: "credential-active" },
          { need: "schedule-open", schedule: "s", holiday: true },
          { need: "door-before", door: "lift", needs: [{ need: "a-pin" }] },
        ],
        names,
      ),
    ).toBe("the credential were active, Nights were open then, which the holiday shuts and Tower lift before it opened too (there were a PIN)");
    expect(removalWords([{ grant: "g", group: "w", others: 1 }], names)).toBe("ending what Frost watch has of Night rounds would take access from one other");
  });

  it("say of every need what would have to be otherwise, as a clause that begins after an if", () => {
    const names: Names = {
      "site garden": "Verrane garden",
      "grant g1": "Glasshouses by day",
      "schedule day": "By day",
      "schedule own": "Mornings",
      "door porch": "Porch",
    };
    const said = (need: Need): string => needsWords([need], names);
    expect(said({ need: "credential-active" })).toBe("the credential were active");
    expect(said({ need: "cardholder-active" })).toBe("the cardholder were active");
    expect(said({ need: "valid-earlier", bound: "2026-03-01T08:00Z" })).toBe("it were valid before 2026-03-01 08:00 UTC");
    expect(said({ need: "valid-longer", bound: "2026-03-01T08:00Z" })).toBe("it did not end on 2026-03-01 08:00 UTC");
    expect(said({ need: "known-at-site", site: "garden" })).toBe("they were known at Verrane garden");
    expect(said({ need: "without-block", grant: "g1" })).toBe("the block of Glasshouses by day were lifted");
    expect(said({ need: "a-grant" })).toBe("some grant led here");
    expect(said({ need: "grant-in-force", grant: "g1" })).toBe("the grant of Glasshouses by day were in force then");
    expect(said({ need: "schedule-open", schedule: "day", holiday: false })).toBe("By day were open then");
    expect(said({ need: "schedule-open", schedule: "day", holiday: true })).toBe("By day were open then, which the holiday shuts");
    expect(said({ need: "hours-open", schedule: "own" })).toBe("their own hours (Mornings) were open then");
    expect(said({ need: "lockdown-pass" })).toBe("the grant or the person counted in a lockdown");
    expect(said({ need: "a-card" })).toBe("a card were shown");
    expect(said({ need: "a-pin" })).toBe("there were a PIN");
    expect(said({ need: "door-before", door: "porch", needs: [{ need: "a-grant" }, { need: "a-pin" }] })).toBe(
      "Porch before it opened too (some grant led here and there were a PIN)",
    );
    // What has no name any more is told by its id.
    expect(said({ need: "without-block", grant: "g9" })).toBe("the block of g9 were lifted");
  });
});

import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { weekdays } from "../time/civil-day";
import type { CivilDay } from "../time/civil-day";
import type { EpochMinute } from "../time/instant";
import { formsOf } from "./answer-form";
import { cardholderTypes, sheetFolds } from "./question";
import type { Question, Where, Who } from "./question";
import { readQuestion, readWhere, readWho, writeQuestion } from "./question-address";
import { whenOfAddress, writeWhen } from "./when-address";
import type { LocalTime, SiteWhen, When } from "./when";

const id = fc.oneof(
  fc.string({ minLength: 1, maxLength: 40, unit: "grapheme" }).filter((text) => [...text].length <= 128),
  fc.constantFrom("__proto__", "a:b", "a,b=c", "x/y", "%41", "in ", "everybody"),
);
const day = fc.integer({ min: -719_162, max: 2_932_896 }).map((date) => date as CivilDay);
const time = fc.record({ date: day, minuteOfDay: fc.nat(1439) });
const after = (from: LocalTime, more: number): LocalTime => ({ date: Math.min(from.date + more, 2_932_896) as CivilDay, minuteOfDay: from.minuteOfDay });
const siteWhen: fc.Arbitrary<SiteWhen> = fc.oneof(
  fc.constantFrom<SiteWhen>({ kind: "any" }, { kind: "now" }),
  time.map((at): SiteWhen => ({ kind: "moment", at })),
  fc.tuple(day, fc.nat(400)).map(([from, more]): SiteWhen => ({ kind: "dates", from, to: Math.min(from + more, 2_932_896) as CivilDay })),
  fc
    .tuple(time, fc.integer({ min: 1, max: 400 }))
    .filter(([{ date }]) => date < 2_932_000)
    .map(([from, more]): SiteWhen => ({ kind: "span", from, to: after(from, more) })),
  fc
    .tuple(
      fc.oneof(
        fc.constantFrom<Extract<SiteWhen, { kind: "recurring" }>["days"]>({ kind: "every-day" }, { kind: "weekend" }),
        fc.subarray([...weekdays], { minLength: 1 }).map((list) => ({ kind: "weekdays" as const, weekdays: list })),
        id.map((dayType) => ({ kind: "day-type" as const, dayType })),
        id.map((name) => ({ kind: "holiday" as const, name })),
      ),
      fc.oneof(
        fc.constantFrom<Extract<SiteWhen, { kind: "recurring" }>["hours"]>({ kind: "all-day" }, { kind: "business" }, { kind: "out-of-hours" }),
        fc.nat(1439).map((minuteOfDay) => ({ kind: "clock" as const, minuteOfDay })),
        fc.tuple(fc.nat(1439), fc.integer({ min: 1, max: 1440 })).map(([start, end]) => ({ kind: "between" as const, start, end })),
      ),
      fc.oneof(
        fc.tuple(day, fc.nat(400)).map(([from, more]) => ({ kind: "dates" as const, from, to: Math.min(from + more, 2_932_896) as CivilDay })),
        fc
          .integer({ min: -1_000_000_000, max: 4_000_000_000 })
          .map((from) => ({ kind: "instants" as const, from: from as EpochMinute, to: (from + 500_000) as EpochMinute })),
      ),
    )
    .map(([days, hours, within]): SiteWhen => ({ kind: "recurring", days, hours, within })),
);
const when: fc.Arbitrary<When> = fc.oneof(
  { weight: 5, arbitrary: siteWhen },
  {
    weight: 1,
    arbitrary: fc.array(fc.record({ site: id, when: siteWhen }), { minLength: 1, maxLength: 3 }).map((sites): When => ({ kind: "by-site", sites })),
  },
);
const who: fc.Arbitrary<Who> = fc.oneof(
  fc.record({ kind: fc.constantFrom("cardholder" as const, "credential" as const, "group" as const, "level" as const, "bundle" as const), id }),
  fc.constantFrom(...cardholderTypes).map((type): Who => ({ kind: "type", type })),
  fc.constant<Who>({ kind: "everybody" }),
);
const where: fc.Arbitrary<Where> = fc.oneof(
  fc.record({ kind: fc.constantFrom("door" as const, "doorGroup" as const, "level" as const, "area" as const, "site" as const), id }),
  fc.constantFrom<Where>({ kind: "sensitivity", from: 1 }, { kind: "sensitivity", from: 3 }, { kind: "anywhere" }),
);
const number = fc.integer({ min: 1, max: 999_999_999 });
const question: fc.Arbitrary<Question> = fc
  .record({
    who: fc.option(who, { nil: undefined }),
    where: fc.option(where, { nil: undefined }),
    when,
    lockdown: fc.boolean(),
    asIfLive: fc.constantFrom(undefined, true as const),
    // Of the latest register, of a snapshot, or of a draft.
    of: fc.oneof(
      fc.constant({}),
      number.map((snapshot) => ({ snapshot })),
      number.map((draft) => ({ draft })),
    ),
  })
  .map(({ of, ...asked }): Question => ({ ...asked, ...of }));

/** The same with a form among those that it can have, where that is not the one that it has anyway, and of a sheet what is taken together. */
const questionInAForm = question.chain((asked) =>
  fc
    .constantFrom(undefined, ...formsOf(asked).slice(1))
    .chain((form) =>
      fc
        .constantFrom(undefined, ...(form === "sheet" ? sheetFolds : []))
        .map((fold): Question => ({ ...asked, form: form === "verdict" ? undefined : form, fold })),
    ),
);

const throughAddress = (asked: Question) => readQuestion(Object.fromEntries(new URLSearchParams(writeQuestion(asked).map(([key, text]) => [key, text]))));

describe("the address of a question", () => {
  it("holds the whole question, every kind of who, where and when, whatever characters its ids have", () => {
    fc.assert(
      fc.property(questionInAForm, (asked) => expect(throughAddress(asked)).toEqual({ ok: true, value: asked })),
      { numRuns: 500 },
    );
  });

  it("is refused part by part where it says nothing known: nothing is dropped, and no other question is answered", () => {
    const unknown = (parts: Parameters<typeof readQuestion>[0]) => {
      const read = readQuestion(parts);
      return read.ok ? "read" : read.error.map(({ key, text }) => `${key}=${text}`);
    };
    expect(unknown({ who: "robot:7", where: "door", when: "2026-02-30T10:00", lockdown: "yes", snapshot: "0" })).toEqual([
      "who=robot:7",
      "where=door",
      "when=2026-02-30T10:00",
      "lockdown=yes",
      "snapshot=0",
    ]);
    expect(unknown({ who: "group:press", wher: "door:gate" })).toEqual(["wher=door:gate"]);
    expect(unknown({ who: ["cardholder:a", "cardholder:b"] })).toEqual(["who=cardholder:a and cardholder:b"]);
    expect(unknown({ who: "", where: "type:contractor", when: "" })).toEqual(["who=", "where=type:contractor", "when="]);
    expect(unknown({ who: "type:robot", where: "sensitivity:0" })).toEqual(["who=type:robot", "where=sensitivity:0"]);
    expect(unknown({ form: "table", fold: "stairs" })).toEqual(["form=table", "fold=stairs"]);
    // A form in which the question cannot be answered, and a fold of what is no sheet.
    expect(unknown({ who: "cardholder:a", form: "sheet" })).toEqual(["form=sheet"]);
    expect(unknown({ who: "group:a", fold: "both" })).toEqual(["fold=both"]);
    expect(unknown({ who: "group:a", form: "sheet", fold: "both" })).toBe("read");
    // A draft is of the present register, never of a snapshot.
    expect(unknown({ asIfLive: "0", draft: "0" })).toEqual(["asIfLive=0", "draft=0"]);
    expect(unknown({ draft: "2", snapshot: "1" })).toEqual(["draft=2"]);
    expect(unknown({})).toBe("read");
  });

  it("never reads a text that is not written as it would be written", () => {
    fc.assert(
      fc.property(
        fc.oneof(
          fc.string({ maxLength: 40 }),
          when.map((one) => writeWhen(one) ?? "").chain((text) => fc.nat(Math.max(0, text.length - 1)).map((at) => text.slice(0, at) + text.slice(at + 1))),
        ),
        (text) => {
          const read = whenOfAddress(text);
          // What a changed text still says must be what it is then written as, but for percent-encoding.
          if (read && !text.includes("%") && !/[^ -~]/.test(text) && read.kind !== "any" && !text.includes("="))
            expect(whenOfAddress(writeWhen(read) ?? "")).toEqual(read);
          expect([readWho(text), readWhere(text)].every((part) => part === undefined || typeof part === "object")).toBe(true);
        },
      ),
      { numRuns: 500 },
    );
  });

  it("refuses spans that would take for ever to work out", () => {
    expect(whenOfAddress("0001-01-01/9999-12-31")).toBeUndefined();
    expect(whenOfAddress("daily in 0001-01-01/9999-12-31")).toBeUndefined();
    expect(whenOfAddress("9999-12-31T10:00")).toEqual({ kind: "moment", at: { date: 2_932_896, minuteOfDay: 600 } });
  });
});

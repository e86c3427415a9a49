import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { Temporal } from "temporal-polyfill";
import { compiledFrom, minute } from "~/tests/builders";
import { arbitraryFacility } from "~/tests/judge/arbitrary-facility";
import { Judge } from "~/tests/judge/judge";
import { usualRuleSettings } from "~/tests/settings";
import type { FacilityDocument } from "@/core/facility/document";
import type { Who } from "@/core/questions/question";
import type { When } from "@/core/questions/when";
import type { OpenRegister } from "../register/open-register";
import type { Account } from "../ports/accounts";
import type { Services } from "../services";
import type { Inquiry } from "./inquiry";
import { answerPast, timesOfInquiry } from "./past-inquiry";

const tessa: Account = { id: 1, signIn: "tessa", name: "Tessa", role: "reviewer", cardholder: undefined };

/** Snapshots 1, 2, … with these documents, the last one the present. */
function registersOf(documents: readonly Partial<FacilityDocument>[]): { readonly services: Services; readonly present: OpenRegister } {
  const registers = documents.map((document, i) => ({
    snapshot: { id: i + 1, hash: `made ${i}`, asOf: document.asOf ?? "" },
    compiled: compiledFrom(document),
  }));
  const byId = (id: number) => registers.find(({ snapshot }) => snapshot.id === id);
  const services = {
    now: () => "2026-12-01T06:00:00Z",
    layOut: () => Promise.resolve(),
    ruleSettings: usualRuleSettings,
    compiled: ({ id }: { readonly id: number }) => Promise.resolve(byId(id)?.compiled),
    snapshots: {
      list: () => Promise.resolve(registers.map(({ snapshot }) => snapshot).reverse()),
      byId: (id: number) => Promise.resolve(byId(id)?.snapshot),
      latest: () => Promise.resolve(registers.at(-1)?.snapshot),
    },
  } as unknown as Services;
  return { services, present: registers.at(-1) as unknown as OpenRegister };
}

const between = (from: string, to: string): When => ({
  kind: "recurring",
  days: { kind: "every-day" },
  hours: { kind: "all-day" },
  within: { kind: "instants", from: minute(from), to: minute(to) },
});
const question = (more: Partial<Inquiry>): Inquiry => ({ who: undefined, where: undefined, when: { kind: "any" }, lockdown: false, ...more });

/** The minute at which something ends that lasts until a moment; a date lasts to its end on the facility's clock. */
const endOf = (until: string, timeZone: string): number =>
  Math.ceil((until.length > 10 ? Date.parse(until) : Temporal.PlainDate.from(until).add({ days: 1 }).toZonedDateTime({ timeZone }).epochMilliseconds) / 60_000);

describe("a past time", () => {
  const two = [{ asOf: "2026-03-01T00:00:00Z" }, { asOf: "2026-03-29T00:30:00Z" }];

  it("is told by the snapshot that stood then, over several by each of its own part; what is open, now, or of a numbered snapshot is not the past", async () => {
    const { services, present } = registersOf(two);
    const times = (more: Partial<Inquiry>) => timesOfInquiry(services, tessa, present, question(more));
    const at = (date: string): When => ({ kind: "moment", at: { date: Math.floor(minute(`${date}T00:00:00Z`) / 1440) as never, minuteOfDay: 600 } });
    expect(await times({ when: at("2026-03-10") })).toMatchObject({ outcome: "past", parts: [{ snapshot: 1, isBeforeAll: false }] });
    expect(await times({ when: at("2026-01-10") })).toMatchObject({ outcome: "past", parts: [{ snapshot: 1, isBeforeAll: true }] });
    expect(await times({ when: between("2026-02-01T00:00:00Z", "2026-04-02T00:00:00Z") })).toEqual({
      outcome: "past",
      parts: [
        { snapshot: 1, from: minute("2026-02-01T00:00:00Z"), to: minute("2026-03-01T00:00:00Z"), isBeforeAll: true },
        { snapshot: 1, from: minute("2026-03-01T00:00:00Z"), to: minute("2026-03-29T00:30:00Z"), isBeforeAll: false },
        { snapshot: 2, from: minute("2026-03-29T00:30:00Z"), to: minute("2026-04-02T00:00:00Z"), isBeforeAll: false },
      ],
    });
    for (const more of [{}, { when: { kind: "now" } as const }, { when: at("2026-03-30") }, { when: at("2026-03-10"), snapshot: 2 }])
      expect(await times(more)).toEqual({ outcome: "present" });
  });

  it("is refused by name where it lies over too many snapshots", async () => {
    const many = Array.from({ length: 30 }, (_, i) => ({ asOf: `2026-03-01T00:${String(i).padStart(2, "0")}:00Z` }));
    const { services, present } = registersOf(many);
    expect(await timesOfInquiry(services, tessa, present, question({ when: between("2026-03-01T00:00:00Z", "2026-03-02T00:00:00Z") }))).toEqual({
      outcome: "too-many",
      count: 30,
    });
  });

  it("is answered with whoever opens at any minute of it by the snapshot that stood at that minute: all of them, and by which", async () => {
    const whos = fc.constantFrom<Who | undefined>(undefined, { kind: "group", id: "g1" }, { kind: "cardholder", id: "h1" });
    await fc.assert(
      fc.asyncProperty(arbitraryFacility, arbitraryFacility, whos, fc.boolean(), async (first, second, who, lockdown) => {
        const documents = [first, { ...second, asOf: "2026-03-29T00:30:00Z" }];
        const { services, present } = registersOf(documents);
        const asked = question({ who, when: between("2026-03-29T00:10:00Z", "2026-03-29T00:50:00Z"), lockdown });
        const times = await timesOfInquiry(services, tessa, present, asked);
        if (times.outcome !== "past") throw new Error("The time begins before the present snapshot.");
        const answer = await answerPast(services, tessa, asked, times.parts);
        const expected = new Map<string, number[]>();
        documents.forEach((document, i) => {
          const judge = new Judge(document);
          const [from, to] = i === 0 ? [10, 30] : [30, 50];
          const isAsked = (holder: string | undefined): boolean => {
            if (who?.kind === "cardholder") return holder === who.id;
            if (who?.kind !== "group") return true;
            const since = minute(document.asOf);
            const inGroup = ["g1", "g2", "g3"];
            const person = document.cardholders?.find(({ id }) => id === holder);
            return (
              (person?.department !== undefined && inGroup.includes(person.department)) ||
              (document.memberships ?? []).some((one) => one.cardholder === holder && (one.until === undefined || endOf(one.until, document.timeZone) > since))
            );
          };
          for (const { id: card, cardholder } of document.credentials ?? [])
            for (const { id: door } of document.doors ?? [])
              for (let at = from; at < to; at++) {
                if (!isAsked(cardholder)) continue;
                const key = who?.kind === "cardholder" || who?.kind === "group" ? door : `${cardholder ?? card}`;
                const known = expected.get(key) ?? [];
                if (known.includes(i + 1)) break;
                if (judge.reason(card, door, BigInt(minute("2026-03-29T00:00:00Z") + at), { lockdown, asIfLive: false }) === "open")
                  expected.set(key, [...known, i + 1]);
              }
        });
        // A group is asked with nowhere in particular, so that its doors are told.
        expect(answer.by).toBe(who === undefined ? "people" : "doors");
        expect(new Map(answer.rows.map(({ subject, snapshots }) => [subject.id, snapshots]))).toEqual(new Map([...expected].sort()));
        expect(answer.total).toBe(expected.size);
      }),
      { numRuns: 25 },
    );
  });
});

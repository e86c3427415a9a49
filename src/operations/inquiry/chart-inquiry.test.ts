import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { compiledFrom, minute } from "~/tests/builders";
import { memoryEvents } from "~/tests/contract/memory-events";
import { arbitraryFacility } from "~/tests/judge/arbitrary-facility";
import { usualRuleSettings } from "~/tests/settings";
import type { FacilityDocument } from "@/core/facility/document";
import { doorSensitivity } from "@/core/compile/door-sensitivity";
import { usualBusinessWeek } from "@/core/findings/business-hours";
import { ordinary } from "@/core/paths/paths";
import { exactTimeframe, ordinaryWeekTimeframe } from "@/core/paths/timeframe";
import { openIn } from "@/core/paths/timetable";
import { aheadOf } from "@/core/facility/ahead";
import { contains, subtract, totalMinutes, union } from "@/core/time/intervals";
import type { IntervalSet } from "@/core/time/intervals";
import { zoneOf } from "@/core/time/zone";
import type { OpenRegister } from "../register/open-register";
import type { Account } from "../ports/accounts";
import { unwatched } from "../ports/progress";
import type { Services } from "../services";
import { chartInquiry, sensitivityOfReach } from "./chart-inquiry";
import type { Inquiry } from "./inquiry";

const tessa: Account = { id: 1, signIn: "tessa", name: "Tessa", role: "reviewer", cardholder: undefined };
const events = memoryEvents();
const services = { now: () => "2026-03-02T06:00:00Z", events, ruleSettings: usualRuleSettings } as unknown as Services;
const registerOf = (draft: Partial<FacilityDocument>): OpenRegister =>
  ({ snapshot: { id: 1, hash: "made for a test", asOf: "2026-03-01T00:00:00Z" }, compiled: compiledFrom(draft) }) as unknown as OpenRegister;
const everybody: Inquiry = { who: { kind: "everybody" }, where: { kind: "anywhere" }, when: { kind: "any" }, lockdown: false };

describe("charts of a question", () => {
  it("count by hour, by department and by sensitivity just what each card opens at each door, looked at one by one", async () => {
    await fc.assert(
      fc.asyncProperty(arbitraryFacility, async (draft) => {
        const register = registerOf(draft);
        const { compiled } = register;
        const { from, to } = aheadOf(compiled.facility);
        const [week, ahead] = [ordinaryWeekTimeframe(compiled, from, ordinary), exactTimeframe(compiled, from, to, ordinary)];
        const holders = [
          ...compiled.cardholders.all().map(({ credentials, cardholder }) => ({ credentials, department: cardholder.department })),
          ...compiled.credentials
            .all()
            .filter(({ holder }) => !holder)
            .map(({ position }) => ({ credentials: [position], department: undefined })),
        ].map(({ credentials, department }) => {
          let [open, outside]: [IntervalSet, IntervalSet] = [[], []];
          const sensitivities = new Set<number>();
          for (const position of credentials)
            for (const { position: door } of compiled.doors) {
              const credential = compiled.credentials.at(position);
              if (!credential) continue;
              const opens = openIn(compiled, week, credential, door);
              open = union(open, opens);
              outside = union(outside, subtract(opens, usualBusinessWeek));
              if (openIn(compiled, ahead, credential, door).length > 0) sensitivities.add(doorSensitivity(compiled, door));
            }
          return { department, open, outside, sensitivities };
        });
        const charts = await chartInquiry(services, tessa, register, everybody);
        const hourly = Array.from(
          { length: 168 },
          (_, hour) => holders.filter(({ open }) => Array.from({ length: 60 }, (_m, one) => hour * 60 + one).some((at) => contains(open, at))).length,
        );
        expect([charts.askedHolders, charts.byHour]).toEqual([holders.length, hourly]);
        for (const { id, people, opening, outOfHours, minutes, outsideMinutes } of charts.departments) {
          const own = holders.filter(({ department }) => department === id);
          expect([people, opening, outOfHours]).toEqual([
            own.length,
            own.filter(({ open }) => open.length > 0).length,
            own.filter(({ outside }) => outside.length > 0).length,
          ]);
          const sum = (of: readonly IntervalSet[]): number => of.reduce((total, set) => total + totalMinutes(set), 0);
          expect([minutes, outsideMinutes]).toEqual([sum(own.map(({ open }) => open)), sum(own.map(({ outside }) => outside))]);
        }
        expect(sensitivityOfReach(services, tessa, register).holders).toEqual(
          [0, 1, 2, 3].map((sensitivity) => holders.filter(({ sensitivities }) => sensitivities.has(sensitivity)).length),
        );
      }),
      { numRuns: 40 },
    );
  });

  it("hold use of the last 90 days against what is granted, each person once however many cards they came with", async () => {
    const register = registerOf({
      cardholders: ["iris", "nora", "otto"].map((id) => ({ id, name: id, status: "active" as const })),
      credentials: [
        { id: "c1", cardholder: "iris", kind: "card", status: "active" },
        { id: "c2", cardholder: "iris", kind: "fob", status: "active" },
        { id: "c3", cardholder: "nora", kind: "card", status: "active" },
        { id: "c4", cardholder: "otto", kind: "card", status: "active" },
      ],
      grants: ["iris", "nora", "otto"].map((id) => ({ id, to: { cardholder: id }, open: { door: "gate" }, schedule: "always" })),
    });
    const before = await chartInquiry(services, tessa, register, everybody);
    expect(before.use.map(({ door, open, used, isTold }) => [door.id, open, used, isTold])).toEqual([["gate", 3, 0, false]]);
    const at = (text: string): number => minute(text) * 60;
    const rows = [
      { second: at("2026-02-01T08:00:00Z"), door: "gate", credential: "c1", granted: true },
      { second: at("2026-02-02T08:00:00Z"), door: "gate", credential: "c2", granted: true },
      { second: at("2026-02-03T08:00:00Z"), door: "gate", credential: "c3", granted: false },
      // Longer ago than 90 days before "now".
      { second: at("2025-11-01T08:00:00Z"), door: "gate", credential: "c4", granted: true },
    ];
    const file = { name: "events.csv", hash: "made for a test", source: "doors" };
    const place = { site: "garden", zone: zoneOf("Europe/Vienna"), isBusiness: () => true };
    const told = (async function* () {
      await Promise.resolve();
      yield* rows;
    })();
    await events.store(file, told as Parameters<typeof events.store>[1], (() => place) as never, { signIn: "test" }, "2026-03-01T00:00:00Z", unwatched);
    const after = await chartInquiry(services, tessa, register, everybody);
    expect(after.use.map(({ door, open, used, isTold }) => [door.id, open, used, isTold])).toEqual([["gate", 3, 1, true]]);
  });
});

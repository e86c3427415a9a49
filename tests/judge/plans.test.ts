import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { answerOnPlan } from "@/operations/inquiry/answer-on-plan";
import type { Inquiry } from "@/operations/inquiry/inquiry";
import type { Account } from "@/operations/ports/accounts";
import type { Plan } from "@/operations/ports/plans";
import type { OpenRegister } from "@/operations/register/open-register";
import type { Services } from "@/operations/services";
import type { FacilityDocument, Grant } from "@/core/facility/document";
import { required } from "@/core/kernel/invariant";
import type { EpochMinute } from "@/core/time/instant";
import { localTime } from "@/core/time/zone";
import { compiledFrom, minute } from "../builders";
import { usualRuleSettings } from "../settings";
import { arbitraryFacility, askedDays } from "./arbitrary-facility";
import { Judge } from "./judge";

const tessa: Account = { id: 1, signIn: "tessa", name: "Tessa", role: "reviewer", cardholder: undefined };
const head = { name: "p", storey: 0, mediaType: "image/png", width: 4, height: 3, sha256: "", version: 1, changedBy: "", changedAt: "" } as const;
const places = fc.uniqueArray(fc.record({ door: fc.constantFrom("d1", "d2", "d3", "gone"), x: fc.nat(10_000), y: fc.nat(10_000) }), {
  selector: ({ door }) => door,
  maxLength: 4,
});

/**
 * Documents on one clock, so that a moment is one minute whatever the site, of which the first door stands free, and opens for somebody as well, more often
 * than chance would have it.
 */
const arbitraryUnlocked = fc.tuple(arbitraryFacility, fc.boolean()).map(([drawn, isUnlocked]): FacilityDocument => {
  const sites = drawn.sites?.map((site) => ({ ...site, timeZone: drawn.sites?.[0]?.timeZone ?? drawn.timeZone }));
  if (!isUnlocked) return { ...drawn, sites };
  const doors = (drawn.doors ?? []).map((door, i) => (i === 0 ? { ...door, unlock: "always" } : door));
  const card = { id: "live", kind: "card" as const, status: "active" as const };
  const grant: Grant = { id: "to-live", to: { credential: "live" }, open: { door: "d1" }, schedule: "always" };
  return { ...drawn, sites, doors, credentials: [...(drawn.credentials ?? []), card], grants: [...(drawn.grants ?? []), grant] };
});

describe("an answer on plans against the slow program", () => {
  it("says of each door how many open it at the minute, whether it stands free, and which open doors stand on no plan", async () => {
    const met = { open: 0, free: 0, openAndFree: 0, asleep: 0, shut: 0, gone: 0, unplaced: 0 };
    await fc.assert(
      fc.asyncProperty(
        arbitraryUnlocked,
        fc.constantFrom(...askedDays),
        fc.nat(1439),
        fc.array(places, { minLength: 1, maxLength: 2 }),
        fc.constantFrom(undefined, "h1", "h2"),
        fc.record({ lockdown: fc.boolean(), asIfLive: fc.boolean() }),
        async (document, day, minuteOfDay, drawn, who, { lockdown, asIfLive: isAskedAsIfLive }) => {
          const compiled = compiledFrom(document);
          const judge = new Judge(document);
          const plans = drawn.map((doors, i): Plan => ({ ...head, id: i + 1, site: document.sites?.[0]?.id ?? "", doors }));
          const services = {
            now: () => `${day}T00:00:00Z`,
            ruleSettings: usualRuleSettings,
            plans: { all: () => Promise.resolve(plans) },
          } as unknown as Services;
          const register = { snapshot: { id: 1 }, compiled } as unknown as OpenRegister;
          const instant = minute(`${day}T00:00:00Z`) + minuteOfDay;
          const zone = required(compiled.doors[0], "a door is drawn").zone;
          const inquiry: Inquiry = {
            who: who === undefined ? undefined : { kind: "cardholder", id: who },
            where: undefined,
            when: { kind: "moment", at: localTime(zone, instant as EpochMinute) },
            lockdown,
            ...(isAskedAsIfLive && { asIfLive: true as const }),
          };
          if (who !== undefined && !compiled.cardholderById.has(who)) return;
          const answer = await answerOnPlan(services, tessa, register, inquiry, 1);
          const cards = compiled.facility.credentials;
          const holders =
            who === undefined ? [...compiled.facility.cardholders.map(({ id }) => id), ...cards.filter((card) => card.cardholder === undefined)] : [who];
          const opens = (holder: (typeof holders)[number], door: string, asIfLive: boolean): boolean =>
            (typeof holder === "string" ? cards.filter(({ cardholder }) => cardholder === holder) : [holder]).some(
              ({ id }) => judge.reason(id, door, BigInt(instant), { lockdown, asIfLive }) === "open",
            );
          const countOf = (door: string, asIfLive: boolean): number => holders.filter((holder) => opens(holder, door, asIfLive)).length;
          for (const mark of answer?.shown?.marks ?? []) {
            met[mark.state === "not-asked" ? "gone" : mark.state]++;
            const door = document.doors?.find(({ id }) => id === mark.door);
            if (!door) {
              expect(mark.state).toBe("gone");
              continue;
            }
            const [opening, all] = [countOf(door.id, false), countOf(door.id, true)];
            const isFree = judge.free(door, BigInt(instant), { lockdown, asIfLive: false });
            const state = opening > 0 ? "open" : all > 0 ? "asleep" : "shut";
            if (isFree) met[opening > 0 ? "openAndFree" : "free"]++;
            expect([mark.door, mark.state, mark.isFree, mark.opening, mark.asleep]).toEqual([mark.door, state, isFree, opening, Math.max(0, all - opening)]);
          }
          const placed = new Set(plans.flatMap(({ doors }) => doors.map(({ door }) => door)));
          const open = (document.doors ?? []).filter(({ id }) => countOf(id, isAskedAsIfLive) > 0).map(({ id }) => id);
          expect(answer?.openingDoors).toBe(open.length);
          expect(answer?.unplaced.map(({ id }) => id)).toEqual(open.filter((id) => !placed.has(id)));
          met.unplaced += answer?.unplacedCount ?? 0;
          expect(answer?.choices.map(({ opening }) => opening)).toEqual(plans.map(({ doors }) => doors.filter(({ door }) => open.includes(door)).length));
        },
      ),
      { numRuns: 150 },
    );
    // The check says something only where each of these came up.
    for (const [what, count] of Object.entries(met)) expect([what, count > 0]).toEqual([what, true]);
  });
});

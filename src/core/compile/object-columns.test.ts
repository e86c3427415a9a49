import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { arbitraryFacility, arbitraryGrant } from "~/tests/judge/arbitrary-facility";
import { withAllLists } from "../facility/facility";
import { objectWindow } from "../facility/time-rules";
import { zoneOf } from "../time/zone";
import { compileFacility } from "./compile-facility";
import { GrantKinds } from "./grant-kinds";
import { credentialLife, inactiveFrom } from "./lives";
import { WrittenWindows } from "./written-windows";

describe("the columns of what objects say", () => {
  it("say what the objects say when each is asked for every key by its name", () => {
    fc.assert(
      fc.property(arbitraryFacility, (draft) => {
        const facility = withAllLists(draft);
        const { objects, vocabulary } = compileFacility(facility);
        const at = (list: readonly { readonly id: string }[], id: string | undefined) => (id === undefined ? -1 : list.findIndex((one) => one.id === id));
        facility.cardholders.forEach((cardholder, i) => {
          const window = objectWindow(cardholder, vocabulary.zone, "outward");
          expect(objects.holders.department[i]).toBe(at(facility.groups, cardholder.department));
          expect(objects.holders.from[i]).toBe(window.from);
          expect(objects.holders.until[i]).toBe(Math.min(window.until, inactiveFrom(cardholder)));
          const { calendar, hours, sites, override, lockdownPass, pinExempt } = cardholder;
          expect(objects.holders.personalRules[i] !== 0).toBe(
            calendar !== undefined || hours !== undefined || sites !== undefined || !!override || !!lockdownPass || !!pinExempt,
          );
        });
        facility.credentials.forEach((credential, i) => {
          const life = credentialLife(credential, vocabulary);
          expect(objects.cards.holderOf[i]).toBe(at(facility.cardholders, credential.cardholder));
          expect(objects.cards.from[i]).toBe(life.window.from);
          expect(objects.cards.until[i]).toBe(Math.min(life.window.until, life.inactiveFrom));
          const hasPin = credential.hasPin === true || credential.duressPin === true || credential.pinTag !== undefined;
          expect(objects.cards.presents[i]).toBe(credential.kind === "pin" ? 2 : hasPin ? 1 : 0);
        });
        facility.memberships.forEach((membership, m) => {
          expect([objects.memberships.memberOf[m], objects.memberships.groupOf[m]]).toEqual([
            at(facility.cardholders, membership.cardholder),
            at(facility.groups, membership.group),
          ]);
          const written = vocabulary.windows.at(objects.memberships.window[m] as number);
          expect([written.outward, written.inward]).toEqual([
            objectWindow(membership, vocabulary.zone, "outward"),
            objectWindow(membership, vocabulary.zone, "inward"),
          ]);
        });
        facility.grants.forEach(({ to }, g) => {
          const told = [objects.grants.toCardholder[g], objects.grants.toGroup[g], objects.grants.toCredential[g]];
          expect(told).toEqual([at(facility.cardholders, to.cardholder), at(facility.groups, to.group), at(facility.credentials, to.credential)]);
        });
      }),
      { numRuns: 300 },
    );
  });
});

describe("kinds of grants", () => {
  it("are the same for grants that say the same but for whom they are given to, and for no others", () => {
    fc.assert(
      fc.property(arbitraryGrant("p1"), arbitraryGrant("p2"), fc.nat({ max: 63 }), (one, other, alike) => {
        // Two grants drawn alone hardly ever agree: the second takes over some of what the first says.
        const second = {
          ...other,
          ...Object.fromEntries(
            (["open", "schedule", "effect", "inLockdown", "from", "until"] as const).filter((_, i) => (alike >> i) & 1).map((key) => [key, one[key]]),
          ),
        };
        const kinds = new GrantKinds(new WrittenWindows(zoneOf("Europe/Vienna")));
        const said = ({ open, schedule, effect, inLockdown, from, until }: typeof one) =>
          JSON.stringify([open, schedule ?? "", effect === "block", !!inLockdown, from ?? "", until ?? ""]);
        expect(kinds.number(one) === kinds.number(second)).toBe(said(one) === said(second));
        const { open, blocks, inLockdown, schedule, window } = kinds.at(kinds.number(second));
        expect({ open, blocks, inLockdown, schedule, window }).toEqual({
          open: second.open,
          blocks: second.effect === "block",
          inLockdown: !!second.inLockdown,
          schedule: second.schedule,
          window: objectWindow(second, zoneOf("Europe/Vienna"), second.effect === "block" ? "inward" : "outward"),
        });
      }),
      { numRuns: 1000 },
    );
  });
});

describe("windows as they are written", () => {
  it("are one object for equal texts, and the number 0 for none", () => {
    const windows = new WrittenWindows(zoneOf("Europe/Vienna"));
    const march = { from: "2026-03-01", until: "2026-03-31" };
    expect(windows.of(march)).toBe(windows.of({ ...march }));
    expect(windows.of({ from: march.from })).not.toBe(windows.of({ until: march.from }));
    expect([windows.of({}).number, windows.of({}).outward, windows.of({}).inward]).toEqual([
      0,
      { from: -Infinity, until: Infinity },
      { from: -Infinity, until: Infinity },
    ]);
    expect(windows.at(windows.of(march).number)).toBe(windows.of(march));
  });

  it("open more, where they are written to the second: earlier and longer for an allow, later and shorter for a block", () => {
    const written = new WrittenWindows(zoneOf("UTC")).of({ from: "2026-03-01T08:00:30Z", until: "2026-03-01T17:00:30Z" });
    const minutes = (hour: number, minute: number): number => Date.UTC(2026, 2, 1, hour, minute) / 60_000;
    expect(written.outward).toEqual({ from: minutes(8, 0), until: minutes(17, 1) });
    expect(written.inward).toEqual({ from: minutes(8, 1), until: minutes(17, 0) });
  });
});

import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { compiledFrom, minute } from "~/tests/builders";
import { arbitraryFacility, arbitraryQuestion } from "~/tests/judge/arbitrary-facility";
import { Judge } from "~/tests/judge/judge";
import { required } from "../kernel/invariant";
import { horizonOf } from "../table/horizon";
import { openOf } from "../table/table-questions";
import { contains } from "../time/intervals";
import { withLaterUses } from "./later-uses";

describe("uses since the export", () => {
  const facility = compiledFrom({
    credentials: [
      { id: "c-1", cardholder: "iris", kind: "card", status: "active", lastUse: "2025-12-15T09:00:00Z", expiry: { after: "last-use", days: 90 } },
      { id: "c-2", cardholder: "iris", kind: "card", status: "active", firstUse: "2026-01-01T09:00:00Z", expiry: { after: "first-use", days: 90 } },
    ],
    grants: [{ id: "g", to: { cardholder: "iris" }, open: { door: "gate" }, schedule: "always" }],
  });
  const opensAt = (compiled: typeof facility, card: number, at: string): boolean =>
    contains(openOf(horizonOf(compiled).table({ lockdown: false, asIfLive: false }), card, required(compiled.doorById.get("gate"), "it is there")), minute(at));

  it("move the end of a card that ends by not being used, and the register as it is stays so", () => {
    // 90 days after 15 December 2025, 09:00, is 15 March 2026, 09:00; used once more on 1 March, the card ends on 30 May.
    const { compiled, prolonged } = withLaterUses(facility, () => "2026-03-01T09:00:00Z");
    expect([...prolonged]).toEqual([0]);
    expect([opensAt(facility, 0, "2026-03-15T08:59:00Z"), opensAt(facility, 0, "2026-03-15T09:00:00Z")]).toEqual([true, false]);
    expect([opensAt(compiled, 0, "2026-05-30T08:59:00Z"), opensAt(compiled, 0, "2026-05-30T09:00:00Z")]).toEqual([true, false]);
    // What ends after its first use ends all the same.
    expect(opensAt(compiled, 1, "2026-04-02T09:00:00Z")).toBe(opensAt(facility, 1, "2026-04-02T09:00:00Z"));
  });

  it("change nothing, not even the register at hand, where no card ends so or none was used later", () => {
    expect(withLaterUses(facility, (card) => facility.facility.credentials[card]?.lastUse)).toEqual({ compiled: facility, prolonged: new Set() });
    expect(withLaterUses(facility, () => undefined).compiled).toBe(facility);
  });

  it("shorten nothing: neither what counts from a later moment, nor what does not count yet, nor what ends on a date anyway", () => {
    const card = (more: object) => ({
      id: "c",
      cardholder: "iris",
      kind: "card" as const,
      status: "active" as const,
      expiry: { after: "last-use" as const, days: 90 },
      ...more,
    });
    for (const more of [{ from: "2026-02-20" }, {}, { lastUse: "2026-02-28T09:00:00Z", until: "2026-03-05" }, { lastUse: "2026-02-28T09:00:00.5Z" }]) {
      const register = compiledFrom({ credentials: [card(more)] });
      // An event of June 2025, of the same number on an earlier card perhaps; and one of the day before the export, after which a date comes first.
      for (const use of ["2025-06-01T09:00:00Z", "2026-02-28T09:00:00Z"]) {
        if (use > "2026" && "from" in more) continue;
        expect([more, withLaterUses(register, () => use).compiled === register]).toEqual([more, true]);
      }
    }
  });

  it("make of any document what the judge says of it, or of one that tells these uses itself, whichever opens", () => {
    fc.assert(
      fc.property(
        arbitraryFacility,
        arbitraryQuestion,
        fc.constantFrom("2025-12-01T00:00:00Z", "2026-03-02T10:00:00Z", "2026-10-01T00:00:30Z", undefined),
        (draft, asked, use) => {
          const before = compiledFrom(draft);
          const { compiled } = withLaterUses(before, (card) => use ?? before.facility.credentials[card]?.lastUse);
          const credentials = (draft.credentials ?? []).map((one) => (use !== undefined && one.expiry?.after === "last-use" ? { ...one, lastUse: use } : one));
          const at = minute(`${asked.day}T00:00:00Z`) + asked.minuteOfDay;
          const { lockdown, asIfLive } = asked;
          const [credential, door] = [required(compiled.credentialById.get(asked.credential), "drawn"), required(compiled.doorById.get(asked.door), "drawn")];
          const open = contains(openOf(horizonOf(compiled).table({ lockdown, asIfLive }), credential, door), at);
          const opens = (document: typeof draft): boolean =>
            new Judge(document).reason(asked.credential, asked.door, BigInt(at), { lockdown, asIfLive }) === "open";
          expect(open).toBe(opens(draft) || opens({ ...draft, credentials }));
        },
      ),
      { numRuns: 60 },
    );
  });
});

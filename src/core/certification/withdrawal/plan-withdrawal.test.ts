import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { compiledFrom } from "~/tests/builders";
import { arbitraryFacility } from "~/tests/judge/arbitrary-facility";
import { Judge } from "~/tests/judge/judge";
import { judgeWithdrawal } from "~/tests/judge/withdrawal-judge";
import { compileFacility } from "../../compile/compile-facility";
import type { CompiledFacility } from "../../compile/compiled-facility";
import { aheadOf } from "../../facility/ahead";
import type { FacilityDocument } from "../../facility/document";
import type { Facility } from "../../facility/facility";
import { withChanges } from "../../facility/facility-change";
import type { HolderId } from "../../facility/holder-id";
import { normalFacility } from "../../facility/normal-form";
import { planReturn, planWithdrawal } from "./plan-withdrawal";
import type { WithdrawalPlan } from "./plan-withdrawal";
import { Horizon } from "../../table/horizon";
import { withdrawalEffects } from "./withdrawal-effects";
import type { DoorsWish, MayStay } from "./wish";

const normal = (draft: Partial<FacilityDocument>): CompiledFacility => compileFacility(normalFacility(compiledFrom(draft).facility));
const iris: HolderId = { kind: "cardholder", id: "iris" };

function planned(given: Partial<FacilityDocument>, wish: Partial<DoorsWish> = {}, withBlocks = true) {
  const compiled = normal(given);
  const of = { holder: iris, doors: ["gate"], stays: {}, ...wish };
  const ahead = aheadOf(compiled.facility, 30);
  const plan = planWithdrawal(compiled, ahead, of, { withBlocks });
  return { ...plan, effects: withdrawalEffects(new Horizon(compiled, ahead), plan.changes, of) };
}

/** Changes in few words. */
const told = ({ changes }: Pick<WithdrawalPlan, "changes">): string[] =>
  changes.map((change) => `${change.do} ${change.list} ${change.list === "memberships" ? change.membership.group : change.id}`);

describe("a withdrawal", () => {
  const groups = [{ id: "watch", name: "Watch" }];
  const levels = [
    {
      id: "l",
      name: "L",
      rows: [
        { door: "gate", schedule: "always" },
        { door: "shed", schedule: "always" },
      ],
    },
  ];
  const doors = [
    { id: "gate", name: "Gate", site: "garden" },
    { id: "shed", name: "Shed", site: "garden" },
  ];
  const straight = { id: "straight", to: { cardholder: "iris" }, open: { door: "gate" }, schedule: "office" };

  it("splits a level rather than taking a door away that nobody asked for", () => {
    const plan = planned({ levels, doors, grants: [{ id: "g", to: { cardholder: "iris" }, open: { level: "l" } }] });
    expect(plan.changes).toEqual([
      { do: "add", list: "grants", id: "withdrawal-1", object: { id: "withdrawal-1", to: { cardholder: "iris" }, open: { door: "shed" }, schedule: "always" } },
      { do: "remove", list: "grants", id: "g" },
    ]);
    expect(plan.effects).toEqual({ lost: [], narrowed: [], staysLess: [], others: [] });
  });

  it("blocks one person where the door comes with the department, so that nobody else loses it", () => {
    const press = {
      groups: [{ id: "press", name: "Press", kind: "department" as const }],
      cardholders: ["iris", "nora"].map((id) => ({ id, name: id, status: "active" as const, department: "press" })),
      credentials: [
        { id: "c1", cardholder: "iris", kind: "card" as const, status: "active" as const },
        { id: "c2", cardholder: "nora", kind: "card" as const, status: "active" as const },
      ],
      grants: [{ id: "press-gate", to: { group: "press" }, open: { door: "gate" }, schedule: "always" }],
    };
    expect(told(planned(press))).toEqual(["add grants withdrawal-1"]);
    expect(planned(press, {}, false)).toMatchObject({ changes: [], searched: "none" });
  });

  it("takes an override and says every door that is lost with it", () => {
    const plan = planned({ doors, cardholders: [{ id: "iris", name: "Iris", status: "active", override: true }] }, {}, false);
    expect(told(plan)).toEqual(["alter cardholders iris"]);
    expect(plan.effects.lost).toEqual(["shed"]);
  });

  it("reckons the doors that lie behind one that is shut", () => {
    const behind = [
      { id: "gate", name: "Gate", site: "garden" },
      { id: "shed", name: "Shed", site: "garden", via: "gate" },
    ];
    const plan = planned({ doors: behind, grants: [straight, { id: "s", to: { cardholder: "iris" }, open: { door: "shed" }, schedule: "always" }] });
    expect(plan.effects.lost).toEqual(["shed"]);
  });

  it("shuts a door by what lies before it, where that costs less", () => {
    const behind = [
      { id: "gate", name: "Gate", site: "garden", via: "lift" },
      { id: "lift", name: "Lift", site: "garden" },
    ];
    const both = [
      { ...straight, schedule: "always" },
      { id: "lift-grant", to: { cardholder: "iris" }, open: { door: "lift" }, schedule: "always" },
    ];
    expect(told(planned({ doors: behind, grants: both }))).toEqual(["remove grants straight"]);
    expect(told(planned({ doors: behind, grants: both }, { doors: ["lift", "gate"] }))).toEqual(["remove grants lift-grant"]);
  });

  it("leaves what may stay: a schedule, and up to a date", () => {
    const always = { ...straight, schedule: "always" };
    expect(planned({ grants: [always] }, { stays: { schedule: "office" } }).changes).toEqual([
      { do: "alter", list: "grants", id: "straight", object: { ...always, schedule: "office" } },
    ]);
    expect(planned({ grants: [always] }, { stays: { until: "2026-03-05" } }).changes).toEqual([
      { do: "alter", list: "grants", id: "straight", object: { ...always, until: "2026-03-05" } },
    ]);
    // A last date that is over: nothing may stay.
    expect(told(planned({ grants: [always] }, { stays: { schedule: "office", until: "2026-02-27" } }))).toEqual(["remove grants straight"]);
    // It stays longer than is looked at: nothing to do.
    expect(planned({ grants: [always] }, { stays: { until: "9999-12-31" } }).changes).toEqual([]);
  });

  it("opens nothing by leaving a group that carries a block", () => {
    const given = {
      doors,
      groups,
      memberships: [{ group: "watch", cardholder: "iris" }],
      grants: [
        { id: "watch-gate", to: { group: "watch" }, open: { door: "gate" }, schedule: "always" },
        { id: "watch-no-shed", to: { group: "watch" }, open: { door: "shed" }, effect: "block" as const },
        { id: "shed", to: { cardholder: "iris" }, open: { door: "shed" }, schedule: "always" },
      ],
    };
    expect(told(planned(given))).toEqual(["add grants withdrawal-1"]);
    expect(planned(given, {}, false).searched).toBe("none");
  });

  it("takes ids for new objects that no object has, and tells a person and a card of one id apart", () => {
    const given: Partial<FacilityDocument> = {
      groups: [{ id: "withdrawal-1", name: "Odd" }],
      cardholders: [{ id: "1001", name: "Iris", status: "active", department: "withdrawal-1" }],
      credentials: [
        { id: "1001", kind: "card", status: "active" },
        { id: "c", cardholder: "1001", kind: "card", status: "active" },
      ],
      grants: [
        { id: "g", to: { group: "withdrawal-1" }, open: { door: "gate" }, schedule: "always" },
        { id: "own", to: { credential: "1001" }, open: { door: "gate" }, schedule: "always" },
      ],
    };
    expect(told(planned(given, { holder: { kind: "cardholder", id: "1001" } }))).toEqual(["add grants withdrawal-2"]);
    expect(told(planned(given, { holder: { kind: "credential", id: "1001" } }))).toEqual(["remove grants own"]);
  });

  it("finds a plan of which nothing can be left out, where there are too many to try all", () => {
    const many = Array.from({ length: 14 }, (_, i) => ({
      id: `g${i}`,
      to: { cardholder: "iris" },
      open: { doorGroup: "all" },
      schedule: i % 2 === 0 ? "always" : "office",
    }));
    const plan = planned({ doors, doorGroups: [{ id: "all", name: "All", doors: ["gate", "shed"] }], grants: many }, {}, false);
    expect(plan.searched).toBe("greedily");
    expect(plan.changes.filter((change) => change.do === "remove")).toHaveLength(14);
    expect(plan.effects.lost).toEqual([]);
  });

  it("ends a card at the export, and says which doors nothing else of its holder opens", () => {
    const compiled = normal({
      doors,
      credentials: [
        { id: "c1", cardholder: "iris", kind: "card", status: "active" },
        { id: "c2", cardholder: "iris", kind: "fob", status: "active" },
      ],
      grants: [
        { id: "a", to: { cardholder: "iris" }, open: { door: "gate" }, schedule: "always" },
        { id: "b", to: { credential: "c1" }, open: { door: "shed" }, schedule: "always" },
      ],
    });
    const ahead = aheadOf(compiled.facility, 30);
    const { changes } = planReturn(compiled, ahead, "c1");
    expect(changes).toEqual([
      { do: "alter", list: "credentials", id: "c1", object: { id: "c1", cardholder: "iris", kind: "card", status: "active", until: "2026-03-01T00:00:00Z" } },
    ]);
    expect(withdrawalEffects(new Horizon(compiled, ahead), changes, { holder: iris, doors: [], stays: {} }).lost).toEqual(["shed"]);
  });
});

const horizonDays = 4;
type Object = Readonly<Record<string, unknown>>;
const without = (object: object, ...keys: string[]): Object => Object.fromEntries(Object.entries(object).filter(([key]) => !keys.includes(key)));
const day = {
  id: "day",
  name: "Day",
  week: Object.fromEntries(["mon", "tue", "wed", "thu", "fri", "sat", "sun"].map((one) => [one, [["08:00", "18:00"]]])),
  holidays: { public: [] },
};

/**
 * Documents read a day and a half before the clocks go forward. Most of their people are in, their cards live and half of their grants without
 * an end, so that there is something to withdraw; every feature of the format still comes.
 */
const documents = fc.tuple(arbitraryFacility, fc.infiniteStream(fc.boolean())).map(([draft, coins]): FacilityDocument => {
  const toss = (): boolean => coins.next().value as boolean;
  const often = (object: object, ...keys: string[]): Object => (toss() || toss() ? without(object, ...keys) : { ...object });
  const life = ["from", "until", "status", "statusSince", "expiry", "sites", "hours", "override"];
  const lists = {
    schedules: [...(draft.schedules ?? []), day],
    credentials: (draft.credentials ?? []).map((credential) => ({ ...often(credential, ...life), status: "active" })),
    cardholders: (draft.cardholders ?? []).map((cardholder) => ({
      ...often(cardholder, ...life),
      status: "active",
      ...(toss() && toss() && { override: toss() ? true : ["x"] }),
    })),
    doors: (draft.doors ?? []).map((door) => often(door, "entry", "entryRows")),
    memberships: (draft.memberships ?? []).map((membership) => often({ ...membership, ...(toss() && { cardholder: "h1" }) }, "from", "until")),
    grants: (draft.grants ?? []).map((grant) => {
      const { to, ...rest } = often(
        { ...grant, ...(grant.schedule !== undefined && toss() && { schedule: toss() ? "day" : "always" }) },
        "from",
        "until",
        ...(toss() ? ["effect"] : []),
      );
      return {
        ...rest,
        to: toss() && toss() ? { cardholder: "h1" } : to,
        schedule: "level" in (grant.open as object) || "bundle" in (grant.open as object) ? rest.schedule : (rest.schedule ?? "day"),
      };
    }),
  };
  return JSON.parse(JSON.stringify({ ...draft, ...lists, asOf: "2026-03-27T12:00:30Z" })) as FacilityDocument;
});
const wishes = fc.record({
  holder: fc.constantFrom<HolderId>(
    { kind: "cardholder", id: "h1" },
    { kind: "cardholder", id: "h1" },
    { kind: "cardholder", id: "h2" },
    { kind: "credential", id: "c3" },
  ),
  doors: fc.subarray(["d1", "d2", "d3"], { minLength: 1 }),
  stays: fc.record<MayStay>(
    {
      schedule: fc.constantFrom("always", "day", "day", "s1", "s2"),
      until: fc.constantFrom("2026-03-26", "2026-03-28", "2026-03-29", "2026-04-05", "9999-12-31"),
    },
    { requiredKeys: [] },
  ),
  withBlocks: fc.boolean(),
});

describe("of all plans that the text allows", () => {
  it("no right one is better than the planned one, judged by writing each into a document of its own", () => {
    let judged = 0;
    fc.assert(
      fc.property(documents, wishes, (draft, { withBlocks, ...wish }) => {
        const judge = judgeWithdrawal(draft, { ...wish, ...wish.stays, withBlocks, horizonDays });
        if (judge.plans > 60) return;
        if (judge.plans > 1) judged++;
        const compiled = compileFacility(normalFacility(draft as Facility));
        const { changes, searched } = planWithdrawal(compiled, aheadOf(draft, horizonDays), wish, { withBlocks });
        const best = judge.best();
        expect({ changes, searched }).toEqual({ changes: best ?? [], searched: best ? "all" : "none" });
      }),
      { numRuns: 150 },
    );
    expect(judged).toBeGreaterThan(12);
  });

  it("the stated effects are the difference of the point-wise judge's verdicts before and after, for everybody at every door", () => {
    fc.assert(
      fc.property(documents, wishes, (draft, { withBlocks, ...wish }) => {
        const compiled = compileFacility(normalFacility(draft as Facility));
        const ahead = aheadOf(draft, horizonDays);
        const { changes } = planWithdrawal(compiled, ahead, wish, { withBlocks });
        const effects = withdrawalEffects(new Horizon(compiled, ahead), changes, wish);
        const [before, after] = [new Judge(compiled.facility), new Judge(withChanges(compiled.facility, changes))];
        const step = 97;
        const fewer = new Map<string, { was: number; is: number }>();
        for (const { id, cardholder } of compiled.facility.credentials)
          for (const { id: door } of compiled.facility.doors)
            for (let t: number = ahead.from; t < ahead.to; t += step) {
              const [was, is] = [before, after].map((judge) => judge.reason(id, door, BigInt(t), { lockdown: false, asIfLive: false }) === "open");
              // Nothing opens that did not open.
              expect([id, door, t, is && !was]).toEqual([id, door, t, false]);
              const key = `${cardholder === undefined ? `credential ${id}` : `cardholder ${cardholder}`} ${door}`;
              const counts = fewer.get(key) ?? { was: 0, is: 0 };
              fewer.set(key, { was: counts.was + Number(was), is: counts.is + Number(is) });
            }
        for (const [key, { was, is }] of fewer) {
          const [kind, id, door] = key.split(" ") as [HolderId["kind"], string, string];
          if (kind !== wish.holder.kind || id !== wish.holder.id) expect([key, was]).toEqual([key, is]);
          else if (!wish.doors.includes(door)) {
            const statedLoss = effects.lost.includes(door);
            const statedLess = effects.narrowed.find((one) => one.door === door)?.minutesLess ?? 0;
            if (statedLoss) expect([key, is]).toEqual([key, 0]);
            if (is < was) expect([key, statedLoss || statedLess > 0]).toEqual([key, true]);
            // Every 97th minute was looked at.
            if (!statedLoss) expect(Math.abs(statedLess / step - (was - is))).toBeLessThan(20);
          }
        }
        expect(effects.others).toEqual([]);
      }),
      { numRuns: 12 },
    );
  });
});

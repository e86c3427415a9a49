import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { equalKinds, levelCounts } from "@/core/drafting/levels/level-proposal";
import { candidateProposals, proved } from "@/core/drafting/levels/propose-levels";
import { useOfLevels } from "@/core/drafting/levels/use-of-levels";
import { withChanges } from "@/core/facility/facility-change";
import type { FacilityDocument, Grant } from "@/core/facility/document";
import { compileFacility } from "@/core/compile/compile-facility";
import { EventBook, eachOnce } from "@/core/events/event-book";
import { Horizon } from "@/core/table/horizon";
import { judgedOf } from "../judged";
import { normalFacility, normalText } from "@/core/facility/normal-form";
import type { EpochMinute } from "@/core/time/instant";
import { compiledFrom } from "../builders";
import { arbitraryCase } from "./arbitrary-findings";
import { FindingsJudge } from "./findings-judge";
import { judgedOfCase } from "./judged-case";

const judgeOf = (document: FacilityDocument, horizonDays: number): FindingsJudge =>
  new FindingsJudge(compiledFrom(document), { format: "nomade.rules/1", horizonDays }, [], [], undefined);

/** A register with more that can be put right: exceptions that recur, levels that say the same, grants that are given twice. */
function untidy(document: FacilityDocument, recur: boolean, doubled: boolean): FacilityDocument {
  const people = (document.cardholders ?? []).map(({ id }) => id).slice(0, 3);
  const exceptions = people.flatMap((cardholder, i): Grant[] => [
    { id: `e${i}a`, to: { cardholder }, open: { door: "d1" }, schedule: "s1" },
    { id: `e${i}b`, to: { cardholder }, open: { area: "a1" }, schedule: "always" },
  ]);
  const [first] = document.levels ?? [];
  const twin = first && { ...first, id: "twin", name: "twin" };
  const twice: Grant[] = [
    { id: "t1", to: { group: "g1" }, open: { level: "twin" } },
    { id: "t2", to: { group: "g1" }, open: { level: "twin" } },
    { id: "t3", to: { group: "g2" }, open: { level: "twin" } },
  ];
  return {
    ...document,
    levels: [...(document.levels ?? []), ...(doubled && twin ? [twin] : [])],
    grants: [...(document.grants ?? []), ...(recur ? exceptions : []), ...(doubled && twin ? twice : [])],
  };
}

describe("levels put right", () => {
  it("leave everybody just what they open, or less, as the slow resolver reads it; and each says what it saves", () => {
    const met: Record<string, number> = { "merge-equal": 0, "exceptions-to-level": 0, "drop-needless": 0, "drop-unused": 0, opened: 0 };
    fc.assert(
      fc.property(arbitraryCase, fc.boolean(), fc.boolean(), (drawn, recur, doubled) => {
        const facility = untidy(drawn.facility, recur, doubled);
        const { judged, compiled } = judgedOfCase({ ...drawn, facility });
        const days = drawn.settings.horizonDays;
        const horizon = new Horizon(compiled, { from: judged.asOf, to: (judged.asOf + days * 1440) as EpochMinute });
        const before = judgeOf(facility, days);
        for (const proposal of candidateProposals(judged)) {
          const sound = proved(horizon, proposal);
          // What costs nobody anything is always so; what a block speaks of as well may not be.
          if (equalKinds.has(proposal.kind)) expect([proposal.kind, sound !== undefined]).toEqual([proposal.kind, true]);
          if (!sound) continue;
          met[proposal.kind] = (met[proposal.kind] ?? 0) + 1;
          const changed = withChanges(compiled.facility, proposal.changes);
          // What comes of it is a document that is read again without an error.
          const after = judgeOf(JSON.parse(normalText(normalFacility(changed))) as FacilityDocument, days);
          expect([sound.before, sound.after]).toEqual([levelCounts(compiled.facility), levelCounts(changed)]);
          let holders = 0;
          for (const s of before.holders().filter(({ cards }) => cards.length > 0)) {
            let isLess = false;
            for (const door of before.f().doors) {
              const was = before.or(s.cards.map((card) => before.O(card, door)));
              const is = after.or(s.cards.map((card) => after.O(card, door)));
              if (was.includes(1)) met["opened"] = (met["opened"] ?? 0) + 1;
              const more = is.some((bit, i) => bit > (was[i] as number));
              const less = is.some((bit, i) => bit < (was[i] as number));
              expect([proposal.kind, s.id, door.id, more, less && equalKinds.has(proposal.kind)]).toEqual([proposal.kind, s.id, door.id, false, false]);
              isLess ||= less;
            }
            if (isLess) holders++;
          }
          expect([proposal.kind, sound.holders]).toEqual([proposal.kind, holders]);
        }
      }),
      { numRuns: 30 },
    );
    expect(Object.entries(met).filter(([, count]) => count === 0)).toEqual([]);
  }, 240_000);

  it("are told with what their holders use of them, counted event by event", () => {
    const met = { told: 0, untold: 0, used: 0, unused: 0, nobody: 0 };
    fc.assert(
      fc.property(arbitraryCase, (drawn) => {
        const { judged, compiled, documents } = judgedOfCase(drawn);
        const judge = new FindingsJudge(compiled, drawn.settings, drawn.events, documents, drawn.decisions);
        const isUsedBy = (cards: readonly { readonly id: string }[], door: string): boolean =>
          cards.some(({ id }) => judge.eventsOf(id).some((e) => e.door === door && e.result === "granted" && e.minute >= judge.ago(180)));
        for (const { level, doors, holders, isTold, using, usedPairs, unused } of useOfLevels(judged)) {
          const { id = "" } = compiled.facility.levels[level] ?? {};
          const covered = judge.coveredBy({ level: id }).filter(({ kind }) => kind !== "floor");
          const held = judge.holders().filter((s) => judge.holdsLevel(s, id));
          const pairs = held.flatMap((s) => covered.filter((door) => isUsedBy(s.cards, door.id)).map((door) => ({ s, door })));
          const sites = judge.concerned(covered);
          expect([doors, holders, using, usedPairs]).toEqual([covered.length, held.length, new Set(pairs.map(({ s }) => s.id)).size, pairs.length]);
          expect(unused.map((door) => compiled.facility.doors[door]?.id).sort()).toEqual(
            covered
              .map((door) => door.id)
              .filter((door) => !pairs.some((pair) => pair.door.id === door))
              .sort(),
          );
          expect(isTold).toBe(sites.every((site) => judge.isCovered(site, 180)));
          met[isTold ? "told" : "untold"]++;
          if (usedPairs > 0) met.used++;
          if (unused.length > 0) met.unused++;
          if (holders === 0) met.nobody++;
        }
      }),
      { numRuns: 150 },
    );
    expect(Object.entries(met).filter(([, count]) => count === 0)).toEqual([]);
  }, 120_000);

  it("give groups that use different doors of a level one each, with what they use", () => {
    const compiled = compiledFrom({
      doors: ["d1", "d2", "d3"].map((id) => ({ id, name: id, site: "garden" })),
      groups: [
        { id: "north", name: "North" },
        { id: "south", name: "South" },
      ],
      cardholders: ["ada", "bo"].map((id) => ({ id, name: id, status: "active" as const })),
      credentials: ["ada", "bo"].map((id) => ({ id: `c-${id}`, cardholder: id, kind: "card" as const, status: "active" as const })),
      memberships: [
        { group: "north", cardholder: "ada" },
        { group: "south", cardholder: "bo" },
      ],
      doorGroups: [{ id: "all", name: "All", doors: ["d1", "d2", "d3"] }],
      levels: [{ id: "l", name: "Wide", rows: [{ doorGroup: "all", schedule: "always" }] }],
      grants: ["north", "south"].map((group) => ({ id: `to-${group}`, to: { group }, open: { level: "l" } })),
    });
    const horizon = new Horizon(compiled);
    const events = Array.from({ length: 200 }, (_, day) =>
      ["ada", "bo"].map((who, i) => ({ second: (horizon.asOf - day * 1440) * 60, door: `d${i + 1}`, credential: `c-${who}`, granted: true })),
    ).flat();
    const judged = judgedOf(horizon, { events: new EventBook(compiled, eachOnce(events), horizon.asOf) });
    const split = candidateProposals(judged).find(({ kind }) => kind === "split-by-use");
    const sound = split && proved(horizon, split);
    // Each loses the two doors that their group does not use.
    expect(sound).toMatchObject({
      levels: ["l"],
      about: ["north", "south"],
      holders: 2,
      lost: 4,
      fewerMinutes: 0,
      before: { levels: 1 },
      after: { levels: 2 },
    });
    const after = compileFacility(withChanges(compiled.facility, split?.changes ?? []));
    expect(after.facility.levels.map(({ name, rows }) => [name, rows?.map(({ door }) => door)])).toEqual([
      ["Wide for North", ["d1"]],
      ["Wide for South", ["d2"]],
    ]);
    // Where events do not go back so far, nothing is proposed by use.
    const short = judgedOf(horizon, { events: new EventBook(compiled, eachOnce(events.slice(0, 100)), horizon.asOf) });
    expect(candidateProposals(short)).toEqual([]);
  });
});

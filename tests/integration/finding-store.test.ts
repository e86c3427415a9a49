import { afterAll, beforeAll, describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import type { CannotTell, Finding, Findings, RuleKey } from "@/core/findings/finding";
import { addDays, addMonths, formatCivilDay, parseCivilDay } from "@/core/time/civil-day";
import { required } from "@/core/kernel/invariant";
import { fingerprintOf } from "@/core/findings/judge";
import { waiveFinding } from "@/operations/findings/triage";
import type { Account } from "@/operations/ports/accounts";
import { ownDatabase } from "./own-database";
import type { OwnDatabase } from "./own-database";

let own: OwnDatabase;
beforeAll(async () => {
  own = await ownDatabase("nomade_findings");
});
afterAll(() => own.close());

const rules: readonly RuleKey[] = ["unused", "no-certifier", "not-certified"];
const subjects = ["a", "A", "a ", "é", "x".repeat(128)];

const finding = (rule: RuleKey, id: string, risk: number, distinct: readonly string[] = []): Finding =>
  ({
    rule,
    subject: { kind: "area", id },
    distinct,
    proof: { holders: 1 },
    fingerprint: fingerprintOf(rule, { kind: "area", id }, distinct),
    risk,
    terms: [],
  }) as unknown as Finding;

/** What a snapshot had: of each rule the subjects that were found, and those of which it could not tell. */
interface Look {
  readonly judged: readonly RuleKey[];
  readonly found: readonly (readonly [RuleKey, string])[];
  readonly untold: readonly (readonly [RuleKey, string])[];
}

const look: fc.Arbitrary<Look> = fc.record({
  judged: fc.subarray([...rules], { minLength: 1 }),
  found: fc.uniqueArray(fc.tuple(fc.constantFrom(...rules), fc.constantFrom(...subjects)), { selector: (one) => JSON.stringify(one), maxLength: 8 }),
  untold: fc.uniqueArray(fc.tuple(fc.constantFrom(...rules), fc.constantFrom(...subjects)), { selector: (one) => JSON.stringify(one), maxLength: 4 }),
});

/** As rules tell: what is found was told of, and only of rules that were judged. */
const settled = ({ judged, found, untold }: Look): Look => {
  const ofJudged = found.filter(([rule]) => judged.includes(rule));
  const isFound = new Set(ofJudged.map((one) => JSON.stringify(one)));
  return { judged, found: ofJudged, untold: untold.filter((one) => judged.includes(one[0]) && !isFound.has(JSON.stringify(one))) };
};

const findingsOf = ({ judged, found, untold }: Look): Findings => ({
  findings: found.map(([rule, id], i) => finding(rule, id, 90 - i)),
  cannotTell: judged.flatMap((rule): CannotTell[] => {
    const ids = untold.filter(([of]) => of === rule).map(([, id]) => id);
    return ids.length === 0 ? [] : [{ rule, concerned: ids.length, covered: 0, days: 90, sites: [], subjects: ids }];
  }),
  totals: new Map(judged.map((rule) => [rule, found.filter(([of]) => of === rule).length])),
});

/** The text read aloud: still there if the last that could tell has it, back if only an earlier one has, else new. */
function lifeIn(looks: readonly Look[], at: number, [rule, id]: readonly [RuleKey, string]): string {
  const has = (one: Look): boolean => one.found.some(([of, subject]) => of === rule && subject === id);
  const couldTell = (one: Look): boolean => one.judged.includes(rule) && !one.untold.some(([of, subject]) => of === rule && subject === id);
  const told = looks.slice(0, at).filter(couldTell);
  const last = told.at(-1);
  if (last && has(last)) return "still";
  return told.some(has) ? "back" : "new";
}

describe("findings over snapshots", () => {
  let snapshots = 0;

  it("are new, still there, or come back as the text says, also where a rule could not tell or was not judged", async () => {
    const seen = new Set<string>();
    await fc.assert(
      fc.asyncProperty(fc.array(look.map(settled), { minLength: 1, maxLength: 5 }), async (looks) => {
        await own.asOwner("DELETE FROM findings", "DELETE FROM finding_runs");
        const first = ++snapshots;
        snapshots += looks.length;
        for (const [at, one] of looks.entries()) {
          const put = () =>
            own.services.findings.put(first + at, findingsOf(one), () => ({ area: undefined, department: undefined, manager: undefined }), [], "now");
          await put();
          // Looked for again, they replace themselves.
          await put();
          const kept = await own.services.findings.page(first + at, {}, "2026-03-01", 100);
          const lives = Object.fromEntries(kept.map(({ fingerprint, life }) => [fingerprint, life]));
          expect(lives).toEqual(Object.fromEntries(one.found.map((of) => [fingerprintOf(of[0], { kind: "area", id: of[1] }), lifeIn(looks, at, of)])));
          for (const life of Object.values(lives)) seen.add(life ?? "none");
          const before = looks[at - 1];
          const couldTell = ([rule, id]: readonly [RuleKey, string]): boolean =>
            one.judged.includes(rule) && !one.untold.some(([of, subject]) => of === rule && subject === id);
          const gone = (before?.found ?? []).filter((of) => couldTell(of) && !one.found.some(([rule, id]) => rule === of[0] && id === of[1]));
          expect((await own.services.findings.gone(first + at, 100)).map(({ fingerprint }) => fingerprint).sort()).toEqual(
            gone.map(([rule, id]) => fingerprintOf(rule, { kind: "area", id })).sort(),
          );
          expect((await own.services.findings.counts(first + at, "2026-03-01")).gone).toBe(gone.length);
        }
      }),
      { numRuns: 25 },
    );
    expect(seen).toEqual(new Set(["new", "still", "back"]));
  });

  it("that are waived are hidden while the waiver holds, and not before a second person confirms one that weighs much", async () => {
    const { services } = own;
    const [tessa, viggo] = [await own.account("tessa", "reviewer"), await own.account("viggo", "administrator")];
    const agnes: Account = { ...tessa, signIn: "agnes", role: "auditor" };
    const snapshot = ++snapshots;
    const [heavy, light] = [finding("unused", "heavy", 80), finding("unused", "light", 20)];
    await services.findings.put(
      snapshot,
      { findings: [heavy, light], cannotTell: [], totals: new Map([["unused", 2]]) },
      () => ({ area: "a", department: undefined, manager: undefined }),
      [],
      "now",
    );
    const today = services.now().slice(0, 10);
    const later = (days: number): string => new Date(Date.parse(today) + days * 86_400_000).toISOString().slice(0, 10);
    const listed = async (at = today) => (await services.findings.page(snapshot, {}, at, 10)).map(({ subject }) => subject.id);
    const waive = (fingerprint: string, reason: string, until: string, by = tessa) => waiveFinding(services, by, { snapshot, fingerprint, reason, until });
    const refused = async (...asked: Parameters<typeof waive>): Promise<string> => {
      const done = await waive(...asked);
      return done.outcome === "refused" ? done.why : done.outcome;
    };
    const dayAfterAYear = formatCivilDay(addDays(addMonths(required(parseCivilDay(today), "a date"), 12), 1));
    const good = "Needed for the harvest.";
    await expect(waive(light.fingerprint, good, later(9), agnes)).rejects.toThrow("may not");
    expect(
      await Promise.all([
        refused(light.fingerprint, "too short", later(9)),
        refused(light.fingerprint, "x".repeat(2001), later(9)),
        refused(light.fingerprint, good, "soon"),
        refused(light.fingerprint, good, "2026-02-30"),
        refused(light.fingerprint, good, later(-1)),
        refused(light.fingerprint, good, dayAfterAYear),
        refused("[]", good, later(9)),
      ]),
    ).toEqual(["reason-too-short", "reason-too-long", "no-date", "no-date", "date-past", "date-too-far", "no-finding"]);
    expect((await waive(light.fingerprint, good, later(9))).outcome).toBe("waived");
    expect(await refused(light.fingerprint, good, later(9))).toBe("waived-already");
    expect([await listed(), await listed(later(9)), await listed(later(10))]).toEqual([["heavy"], ["heavy"], ["heavy", "light"]]);
    // Two who ask at once make one waiver.
    const both = await Promise.all([waive(heavy.fingerprint, good, later(9)), waive(heavy.fingerprint, good, later(9), viggo)]);
    expect(both.map(({ outcome }) => outcome).sort()).toEqual(["refused", "waits"]);
    const [waiting] = await services.triage.waiting(today);
    const maker = waiting?.madeBy === "tessa" ? tessa : viggo;
    const other = maker === tessa ? viggo : tessa;
    expect(await listed()).toEqual(["heavy"]);
    const confirm = (by: Account, on = today) => services.triage.confirm(waiting?.id ?? -1, on, { signIn: by.signIn }, services.now());
    expect(await confirm(maker)).toBe(false);
    // Of one that has run out nothing is left to confirm.
    expect(await confirm(other, later(10))).toBe(false);
    expect(await confirm(other)).toBe(true);
    expect(await confirm(other)).toBe(false);
    expect(await listed()).toEqual([]);
    expect((await services.findings.page(snapshot, { waived: "only" }, today, 10)).map(({ subject }) => subject.id)).toEqual(["heavy", "light"]);
    expect(await services.findings.counts(snapshot, today)).toMatchObject({ total: 0, waived: 2 });
    expect(await services.triage.end(waiting?.id ?? -1, { signIn: "tessa" }, services.now())).toBe(true);
    expect(await services.triage.end(waiting?.id ?? -1, { signIn: "tessa" }, services.now())).toBe(false);
    expect(await listed()).toEqual(["heavy"]);
    const entries = (await services.record.page({}, 20)).map(({ what }) => what);
    expect(entries.slice(0, 4)).toEqual(["finding.waiver-ended", "finding.waiver-confirmed", "finding.waiver-asked", "finding.waived"]);
    expect(await services.record.verify()).toMatchObject({ sound: true });
  });

  it("are put together by what they are about, and narrowed to a group, a task and an object", async () => {
    const { services } = own;
    const snapshot = ++snapshots;
    const all = subjects.map((id, i) => finding("unused", id, 60 - i));
    const places = (one: Finding) => ({ area: one.subject.id === "é" ? undefined : one.subject.id, department: "d", manager: undefined });
    await services.findings.put(snapshot, { findings: all, cannotTell: [], totals: new Map([["unused", all.length]]) }, places, [1], "now");
    const today = "2026-03-01";
    const groups = await services.findings.groups(snapshot, {}, today, "area");
    // Ids are told apart by case, accents and blanks at their ends.
    expect(groups).toEqual(["a", "A", "a ", "", "x".repeat(128)].map((key, i) => ({ key, findings: 1, risk: 60 - i })));
    expect(await services.findings.groups(snapshot, {}, today, "department")).toEqual([{ key: "d", findings: 5, risk: 60 }]);
    const ids = async (filter: Parameters<typeof services.findings.page>[1]) =>
      (await services.findings.page(snapshot, filter, today, 10)).map(({ subject }) => subject.id);
    expect(await ids({ group: { by: "area", key: "A" } })).toEqual(["A"]);
    expect(await ids({ group: { by: "area", key: "" } })).toEqual(["é"]);
    expect(await ids({ subject: { kind: "area", id: "a " } })).toEqual(["a "]);
    await services.triage.assign(all[2]?.fingerprint ?? "", "tessa", { signIn: "viggo" }, services.now());
    expect(await ids({ assignee: "tessa" })).toEqual(["a "]);
    await services.triage.assign(all[2]?.fingerprint ?? "", undefined, { signIn: "viggo" }, services.now());
    expect(await ids({ assignee: "tessa" })).toEqual([]);
    expect((await services.findings.counts(snapshot, today)).earlier).toEqual([1]);
  });
});

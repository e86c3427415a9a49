import { expect, it } from "@jest/globals";
import fc from "fast-check";
import { factsOf, kindInProof, nameOfSpoken, spokenKey, spokenOf } from "@/core/findings/about";
import { allRules } from "@/core/findings/catalogue";
import { findAll } from "@/core/findings/find";
import type { Finding, RuleKey } from "@/core/findings/finding";
import { addDays, civilDay } from "@/core/time/civil-day";
import { cannotTellWords, findingProof, findingRemedy, findingSentence, riskWords } from "@/features/words/findings";
import type { FindingNames } from "@/features/words/findings";
import { arbitraryCase } from "./arbitrary-findings";
import { judgedOfCase } from "./judged-case";

/** What no sentence may have in it: a value that is not there, a gap where one should stand, or a word of the program's own. */
const gap = /undefined|null|NaN|\[object|\{|\}| {2}| [,.;:]|“”|\(\)|: \.|[a-z][A-Z]/;

/** Every day is a public holiday of every country: what is said of one is to be seen, whatever dates are drawn. */
const everyDay = (_: string, year: number) => Array.from({ length: 365 }, (__, i) => ({ date: addDays(civilDay(year, 1, 1), i), name: "Founders’ day" }));

/** Names that a sentence is told with; which of them it asks for is written down. */
function namesOf(finding: Finding, known: (kind: Parameters<FindingNames["name"]>[0], id: string) => string | undefined, timeZone: string) {
  const asked = new Set<string>();
  const loaded = new Set([finding.subject, ...spokenOf(factsOf(finding))].map(spokenKey));
  const names: FindingNames = {
    timeZone,
    name: (kind, id) => {
      asked.add(spokenKey({ kind, id }));
      return known(kind, id) === undefined ? "Unknown" : "Known";
    },
  };
  return { names, unloaded: () => [...asked].filter((key) => !loaded.has(key)) };
}

it("every finding and every remedy is a whole sentence, and speaks of nothing whose name is not looked up with it", () => {
  const told = new Map<RuleKey, number>();
  fc.assert(
    fc.property(arbitraryCase, (drawn) => {
      const sites = Object.fromEntries((drawn.facility.sites ?? []).map(({ id }) => [id, { ...drawn.settings.sites?.[id], country: "AT" }]));
      const { judged, compiled } = judgedOfCase({ ...drawn, settings: { ...drawn.settings, sites } }, everyDay);
      const { findings, cannotTell } = findAll(judged);
      for (const untold of cannotTell) expect(cannotTellWords(untold)).not.toMatch(gap);
      for (const finding of findings) {
        const { names, unloaded } = namesOf(finding, (kind, id) => nameOfSpoken(compiled, { kind, id }), compiled.facility.timeZone);
        const texts = [findingSentence(finding, names), findingRemedy(finding, names)];
        const proof = findingProof(finding, names, (term) => kindInProof(finding.rule, term));
        for (const text of texts) {
          expect([finding.rule, text]).toEqual([finding.rule, expect.stringMatching(/^[A-Z0-9“].*[^.]\.$/s)]);
          expect([finding.rule, text]).toEqual([finding.rule, expect.not.stringMatching(gap)]);
        }
        for (const [term, items] of proof) for (const { text } of items) expect([finding.rule, term, text]).not.toContain("");
        for (const term of finding.terms) expect(riskWords(term)).not.toMatch(gap);
        expect([finding.rule, unloaded()]).toEqual([finding.rule, []]);
        told.set(finding.rule, (told.get(finding.rule) ?? 0) + 1);
      }
    }),
    { numRuns: 80, endOnFailure: true },
  );

  // What is drawn with one seed or another leaves few rules out; these are told word by word beside their words.
  expect(told.size).toBeGreaterThan(allRules.length - 8);
});

import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { allRules } from "@/core/findings/catalogue";
import { judgeBy } from "@/core/findings/judge";
import { RiskScale } from "@/core/findings/risk";
import type { JudgedCase } from "./arbitrary-findings";
import { arbitraryCase } from "./arbitrary-findings";
import { FindingsJudge } from "./findings-judge";
import { judgedOfCase } from "./judged-case";

/** Two rules are checked by themselves: one whose holidays come from a library, and one that asks units, which are judged minute by minute beside it. */
const checkedElsewhere: readonly string[] = ["holiday-missing", "not-at-door"];
const judgedRules = allRules.filter(({ key }) => !checkedElsewhere.includes(key));

function judgedOf(drawn: JudgedCase) {
  const { judged, compiled, documents } = judgedOfCase(drawn);
  return { judged, judge: new FindingsJudge(compiled, drawn.settings, drawn.events, documents, drawn.decisions, drawn.peopleSources, drawn.houseRules) };
}

const byText = (a: object, b: object): number => (JSON.stringify(a) < JSON.stringify(b) ? -1 : 1);

describe("findings", () => {
  it("are just those of the catalogue read aloud, rule by rule, with the risk that their sum is", () => {
    const flagged = new Set<string>();
    fc.assert(
      fc.property(arbitraryCase, (drawn) => {
        const { judged, judge } = judgedOf(drawn);
        const scale = new RiskScale(judged);
        for (const rule of judgedRules) {
          const found = judgeBy(judged, rule, scale);
          const [findings, untold] = [[...found.findings], found.untold];
          const expected = judge.judge(rule.key);
          expect({
            rule: rule.key,
            findings: findings.map(({ subject, distinct = [], proof, risk }) => ({ subject, distinct, proof, risk })).sort(byText),
            cannotTell: untold?.cannotTell ?? [],
            covered: Object.fromEntries(untold?.covered ?? []),
          }).toEqual({
            rule: rule.key,
            findings: expected.lines
              .map(({ subject, distinct, proof }) => ({ subject, distinct, proof, risk: judge.risk({ rule: rule.key, subject, distinct, proof }, rule.base) }))
              .sort(byText),
            cannotTell: expected.cannotTell,
            covered: expected.covered,
          });
          const key = findings.map((finding) => JSON.stringify([finding.subject, finding.distinct ?? []]));
          expect(new Set(key).size).toBe(key.length);
          if (findings.length > 0) flagged.add(rule.key);
        }
      }),
      { numRuns: 8 },
    );
    // Each drawing comes to most of the rules; all of them come in some.
    expect(flagged.size).toBeGreaterThan(30);
  }, 240_000);
});

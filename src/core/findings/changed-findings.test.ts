import { describe, expect, it } from "@jest/globals";
import { changedFindings } from "./changed-findings";
import { mostOfARule } from "./find";
import type { Finding, Findings, RuleKey } from "./finding";

const found = (ids: Readonly<Partial<Record<RuleKey, readonly string[]>>>, totals: Readonly<Partial<Record<RuleKey, number>>> = {}): Findings => ({
  findings: Object.entries(ids).flatMap(([rule, of]) => of.map((id) => ({ rule, fingerprint: `${rule} ${id}` }) as unknown as Finding)),
  cannotTell: [],
  totals: new Map(Object.entries({ ...Object.fromEntries(Object.entries(ids).map(([rule, of]) => [rule, of.length])), ...totals }) as [RuleKey, number][]),
});
const names = (findings: readonly Finding[]): string[] => findings.map(({ fingerprint }) => fingerprint);

describe("what comes and goes among findings", () => {
  it("is told apart by fingerprint", () => {
    const changed = changedFindings(found({ unused: ["a", "b"], "never-used": ["a"] }), found({ unused: ["b", "c"], "never-used": ["a"] }));
    expect([names(changed.come), names(changed.gone), changed.beyond]).toEqual([["unused c"], ["unused a"], []]);
  });

  it("is not said of a rule of which not all is kept, but how much it finds is", () => {
    const [most, more] = [mostOfARule, mostOfARule + 1];
    const was = found({ unused: ["a"], "never-used": ["x"] }, { unused: more });
    const is = found({ unused: ["b"], "never-used": ["y"] }, { unused: most });
    for (const [one, other, beyond] of [
      [was, is, { rule: "unused", was: more, is: most }],
      [is, was, { rule: "unused", was: most, is: more }],
    ] as const) {
      const changed = changedFindings(one, other);
      expect([changed.come.length, changed.gone.length, changed.beyond]).toEqual([1, 1, [beyond]]);
      expect([...names(changed.come), ...names(changed.gone)].every((name) => name.startsWith("never-used"))).toBe(true);
    }
  });
});

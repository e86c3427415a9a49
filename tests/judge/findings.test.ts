import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { EventBook } from "@/core/events/event-book";
import type { ToldEvent } from "@/core/events/event-book";
import { allRules } from "@/core/findings/catalogue";
import { judgeBy } from "@/core/findings/judge";
import { Judged } from "@/core/findings/judged";
import { RiskScale } from "@/core/findings/risk";
import { instantOf } from "@/core/facility/time-rules";
import { aheadOf } from "@/core/facility/ahead";
import { Horizon } from "@/core/table/horizon";
import { minuteDown, parseInstant } from "@/core/time/instant";
import { compiledFrom } from "~/tests/builders";
import type { JudgedCase } from "./arbitrary-findings";
import { arbitraryCase } from "./arbitrary-findings";
import type { RawEvent } from "./findings/terms";
import { FindingsJudge } from "./findings-judge";

/** The one rule whose holidays come from a library; it is checked by itself. */
const judgedRules = allRules.filter(({ key }) => key !== "holiday-missing");

const told = ({ at, result, ...event }: RawEvent): ToldEvent => ({
  ...(Object.fromEntries(Object.entries(event).filter(([, text]) => text !== "")) as Omit<RawEvent, "at" | "result">),
  second: parseInstant(at)?.seconds ?? 0,
  granted: result === "granted",
});

function judgedOf({ facility, settings, events, earlier, decisions }: JudgedCase) {
  const compiled = compiledFrom(facility);
  const ahead = aheadOf(compiled.facility, settings.horizonDays);
  const documents = earlier.map((document) => compiledFrom(document));
  return {
    judged: new Judged({
      horizon: new Horizon(compiled, ahead),
      settings,
      events: new EventBook(compiled, events.map(told), ahead.from),
      earlier: documents.map((document) => ({ compiled: document, asOf: minuteDown(instantOf(document.facility.asOf)) })),
      decisions: decisions?.map(({ at, cardholder, credential, area, decision }) => ({
        at: minuteDown(instantOf(at)),
        holder: cardholder === undefined ? { kind: "credential", id: credential ?? "" } : { kind: "cardholder", id: cardholder },
        area,
        decision,
      })),
      publicHolidays: () => [],
    }),
    judge: new FindingsJudge(compiled, settings, events, documents, decisions),
  };
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

"use client";

import { UnstyledButton } from "@mantine/core";
import Link from "next/link";
import { useEffect, useRef } from "react";
import type { RuleKey } from "@/core/findings/proofs";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { useRowSelection } from "@/ui/use-row-selection";
import { nothingAsked, QuestionLine } from "../inquiry/question-line";
import { kindInProof } from "@/core/findings/about";
import type { NamedFinding } from "@/operations/findings/list-findings";
import { useFetched } from "@/ui/fetched";
import { namesOfFinding, sentenceOfFinding } from "../words/finding-names";
import { findingProof, riskWords } from "../words/findings";
import { capital, countWords, plural, someWords } from "../words/numbers";
import { findingHref } from "./findings-address";
import { flagsWords, ruleGroups, ruleWords } from "../words/rules/rule-words";

/** A rule as its page tells it. */
export interface ShownRule {
  readonly key: RuleKey;
  readonly base: number;
  readonly source: string;
  readonly parameters: Readonly<Record<string, number>>;
  /** How many the present register has. */
  readonly found: number;
}

/** The name of a parameter as words: `lookBackDays` is “look back days”. */
const parameterWords = (name: string): string => name.replace(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`);

/** The riskiest finding of a rule, told as it is in the list, with what it rests on. */
function Example({ rule, timeZone }: { readonly rule: RuleKey; readonly timeZone: string }) {
  const example = useFetched<NamedFinding | null>(`/findings/example?rule=${rule}`);
  if (example.state !== "there" || example.value === null) return null;
  const finding = example.value;
  const proof = findingProof(finding, namesOfFinding(finding, timeZone), (term) => kindInProof(rule, term));
  return (
    <div className={sheet.notes}>
      <h2>For example</h2>
      <p style={{ paddingLeft: 0 }}>
        <Link href={findingHref(finding.fingerprint, undefined)}>{finding.about}</Link>: {sentenceOfFinding(finding, timeZone)}
      </p>
      <p style={{ paddingLeft: 0 }} className={sheet.sub}>
        {proof
          .map(
            ([term, items]) =>
              `${term}: ${someWords(
                items.map(({ text }) => text),
                4,
              )}`,
          )
          .join("; ")}
        {proof.length > 0 && ". "}Risk {finding.risk} = {finding.terms.map((term) => `${term.points} (${riskWords(term)})`).join(" + ")}
      </p>
    </div>
  );
}

function RuleMargin({ rule, timeZone }: { readonly rule: ShownRule; readonly timeZone: string | undefined }) {
  const { title, why, needs, isSilentWithout, blind } = ruleWords[rule.key];
  const parameters = Object.entries(rule.parameters);
  return (
    <>
      <h2>{title}</h2>
      <p>{flagsWords(rule.key, rule.parameters)}</p>
      <p className={sheet.sub}>{why}</p>
      <dl className={sheet.facts}>
        <dt>Key</dt>
        <dd>{rule.key}</dd>
        <dt>Base of risk</dt>
        <dd>{rule.base}</dd>
        {parameters.map(([name, value]) => (
          <div key={name} style={{ display: "contents" }}>
            <dt>{capital(parameterWords(name))}</dt>
            <dd>{value.toLocaleString("en-GB")}</dd>
          </div>
        ))}
        {needs && (
          <>
            <dt>Needs</dt>
            <dd>
              {needs}; without them it {isSilentWithout ? "finds nothing" : "says that it cannot tell"}
            </dd>
          </>
        )}
        <dt>By</dt>
        <dd>{rule.source}</dd>
      </dl>
      <p className={sheet.sub}>
        <b>What it cannot see.</b> {blind}
      </p>
      <div className={sheet.must}>
        {rule.found === 0 ? (
          "It finds nothing in the present register."
        ) : (
          <Link href={`/findings?rule=${rule.key}`}>{capital(plural(rule.found, "finding", "findings"))} in the present register</Link>
        )}
      </div>
      {rule.found > 0 && timeZone !== undefined && <Example key={rule.key} rule={rule.key} timeZone={timeZone} />}
    </>
  );
}

/** Every rule: what it flags, by which standard, how it counts, and what it cannot see. */
export function RulesView({
  rules,
  asked,
  timeZone,
}: {
  readonly rules: readonly ShownRule[];
  readonly asked: RuleKey | undefined;
  /** Of the present register; undefined where there is none. */
  readonly timeZone: string | undefined;
}) {
  const byKey = new Map(rules.map((rule) => [rule.key, rule]));
  const ordered = ruleGroups.flatMap(({ rules: keys }) => keys);
  const { selected, select, onKeyDown } = useRowSelection(ordered.length, Math.max(0, asked === undefined ? 0 : ordered.indexOf(asked)));
  const chosen = byKey.get(ordered[selected] ?? "leaver-live");
  const list = useRef<HTMLDivElement>(null);
  // The rule that the address asks for may stand far down.
  useEffect(() => {
    if (asked !== undefined) list.current?.querySelector("[aria-pressed=true]")?.scrollIntoView({ block: "center" });
  }, [asked]);
  const silent = rules.filter(({ found }) => found === 0).length;
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />} margin={chosen && <RuleMargin rule={chosen} timeZone={timeZone} />}>
      <Heading
        result={`${capital(countWords(rules.length))} rules`}
        reference={
          <>
            <Link href="/findings/settings">How they judge</Link> · <Link href="/findings">Back to the findings</Link>
          </>
        }
        lead={`All of them are looked for in each snapshot${timeZone === undefined ? "" : `; ${countWords(silent)} find nothing in the present one`}. What standards say is cited from memory.`}
      />
      <div ref={list} role="group" aria-label="Rules" onKeyDown={onKeyDown}>
        {ruleGroups.map(({ title, rules: keys }) => (
          <table key={title} className={sheet.table} style={{ marginBottom: 22 }}>
            <thead>
              <tr>
                <th scope="col" style={{ width: "36%" }}>
                  {title}
                </th>
                <th scope="col">What it flags</th>
                <th scope="col" className={sheet.number} style={{ width: 56 }}>
                  Base
                </th>
                <th scope="col" className={sheet.number} style={{ width: 64 }}>
                  Found
                </th>
              </tr>
            </thead>
            <tbody>
              {keys.map((key) => {
                const at = ordered.indexOf(key);
                return (
                  <tr key={key} className={`${sheet.row} ${at === selected ? sheet.selected : ""}`} onClick={() => select(at)}>
                    <td>
                      <UnstyledButton className={sheet.rowButton} data-row-button aria-pressed={at === selected}>
                        {ruleWords[key].title}
                      </UnstyledButton>
                    </td>
                    <td className={sheet.sub}>{flagsWords(key, byKey.get(key)?.parameters ?? {})}</td>
                    <td className={sheet.number}>{byKey.get(key)?.base}</td>
                    <td className={sheet.number}>{byKey.get(key)?.found === 0 ? "–" : byKey.get(key)?.found.toLocaleString("en-GB")}</td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        ))}
      </div>
    </Sheet>
  );
}

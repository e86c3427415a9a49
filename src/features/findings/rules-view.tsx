"use client";

import { UnstyledButton } from "@mantine/core";
import Link from "next/link";
import { useEffect, useRef } from "react";
import type { RuleKey } from "@/core/findings/catalogue";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { useRowSelection } from "@/ui/use-row-selection";
import { nothingAsked, QuestionLine } from "../inquiry/question-line";
import { capital, countWords } from "../words/numbers";
import { ruleGroups, ruleWords } from "../words/rules";

/** A rule as its page tells it. */
export interface ShownRule {
  readonly key: RuleKey;
  readonly base: number;
  readonly source: string;
  readonly parameters: Readonly<Record<string, number>>;
  /** Whether it is looked for in each snapshot; the others from the command line. */
  readonly isLookedFor: boolean;
}

/** The name of a parameter as words: `lookBackDays` is “look back days”. */
const parameterWords = (name: string): string => name.replace(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`);

function RuleMargin({ rule }: { readonly rule: ShownRule }) {
  const { title, flags, needs, isSilentWithout, blind } = ruleWords[rule.key];
  const parameters = Object.entries(rule.parameters);
  return (
    <>
      <h2>{title}</h2>
      <p>{flags}</p>
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
      {blind && (
        <p className={sheet.sub}>
          <b>What it cannot see.</b> {blind}
        </p>
      )}
      <div className={sheet.must}>
        {rule.isLookedFor ? (
          <>
            Looked for in each snapshot. <Link href={`/findings?rule=${rule.key}`}>Its findings</Link>
          </>
        ) : (
          <>
            Judged from the command line: <code>findings FACILITY.json --rule {rule.key}</code>
          </>
        )}
      </div>
    </>
  );
}

/** Every rule: what it flags, by which standard, how it counts, and what it cannot see. */
export function RulesView({ rules, asked }: { readonly rules: readonly ShownRule[]; readonly asked: RuleKey | undefined }) {
  const byKey = new Map(rules.map((rule) => [rule.key, rule]));
  const ordered = ruleGroups.flatMap(({ rules: keys }) => keys);
  const { selected, select, onKeyDown } = useRowSelection(ordered.length, Math.max(0, asked === undefined ? 0 : ordered.indexOf(asked)));
  const chosen = byKey.get(ordered[selected] ?? "leaver-live");
  const list = useRef<HTMLDivElement>(null);
  // The rule that the address asks for may stand far down.
  useEffect(() => {
    if (asked !== undefined) list.current?.querySelector("[aria-pressed=true]")?.scrollIntoView({ block: "center" });
  }, [asked]);
  const lookedFor = rules.filter(({ isLookedFor }) => isLookedFor).length;
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />} margin={chosen && <RuleMargin rule={chosen} />}>
      <Heading
        result={`${capital(countWords(rules.length))} rules`}
        reference={<Link href="/findings">Back to the findings</Link>}
        lead={`${capital(countWords(lookedFor))} of them are looked for in each snapshot; all of them are judged from the command line, where every figure can be set. What standards say is cited from memory.`}
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
                    <td className={sheet.sub}>{ruleWords[key].flags}</td>
                    <td className={sheet.number}>{byKey.get(key)?.base}</td>
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

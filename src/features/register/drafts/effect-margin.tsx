"use client";

import { Button } from "@mantine/core";
import Link from "next/link";
import { useEffect, useState } from "react";
import type { DraftEffect, DraftIssue, EffectFinding } from "@/operations/register/drafts/draft-outcomes";
import type { Progress as Step } from "@/operations/ports/progress";
import { Progress } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { doorChangeWords, amountWords, causeWords } from "../../words/access-changes";
import { beyondWords, titleOfRule } from "../../words/findings";
import { capital, plural } from "../../words/numbers";
import { draftHref, editHref } from "./addresses";

type State =
  { readonly state: "working"; readonly progress: Step } | { readonly state: "stopped" | "failed" } | { readonly state: "done"; readonly effect: DraftEffect };

const askEveryMs = 500;
const changesShown = 12;
const findingsShown = 6;
const stepWords: Partial<Record<Step["step"], string>> = {
  reading: "Opening the register",
  checking: "Checking every reference",
  access: "Working out who opens what, before and after",
  findings: "Looking for findings, before and after",
};

/** The effect of a draft as it is worked out beside everything else; asked for again whenever the draft has another revision. */
function useEffectOf(draft: number, revision: number, snapshot: number): { state: State | undefined; again: () => void; stop: () => void } {
  const [state, setState] = useState<State>();
  const [asked, ask] = useState({ again: false, count: 0 });
  useEffect(() => {
    let over = false;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const look = async (again: boolean): Promise<void> => {
      const response = await fetch(`${draftHref(draft)}/effect${again ? "?again" : ""}`).catch(() => undefined);
      const found = response?.ok ? ((await response.json()) as State) : ({ state: "failed" } as const);
      if (over) return;
      setState(found);
      if (found.state === "working") timer = setTimeout(() => void look(false), askEveryMs);
    };
    void look(asked.again);
    return () => {
      over = true;
      clearTimeout(timer);
    };
  }, [draft, revision, snapshot, asked]);
  return {
    state,
    again: () => ask(({ count }) => ({ again: true, count: count + 1 })),
    stop: () => void fetch(`${draftHref(draft)}/effect`, { method: "DELETE" }).catch(() => undefined),
  };
}

function Issues({
  draft,
  issues,
  total,
  title,
}: {
  readonly draft: number;
  readonly issues: readonly DraftIssue[];
  readonly total: number;
  readonly title: string;
}) {
  return (
    <div className={sheet.grave}>
      <strong>{title}</strong>
      {issues.slice(0, findingsShown).map(({ list, key, name, message }) => (
        <p key={`${key} ${message}`} style={{ margin: "4px 0" }}>
          {list && key !== "" ? <Link href={editHref(draft, list, key)}>{name}</Link> : name}: {message}
        </p>
      ))}
      {total > findingsShown && <p className={sheet.sub}>and {total - findingsShown} more</p>}
    </div>
  );
}

function Findings({ title, findings, total }: { readonly title: string; readonly findings: readonly EffectFinding[]; readonly total: number }) {
  return (
    <>
      <h3 style={{ fontSize: 14.5, margin: "12px 0 2px" }}>{title}</h3>
      <ul style={{ margin: 0, paddingLeft: 16, fontSize: 13 }}>
        {findings.slice(0, findingsShown).map(({ rule, risk, about }, i) => (
          <li key={`${rule} ${about} ${i}`}>
            {about}: {titleOfRule(rule)} <span className={sheet.sub}>risk {risk}</span>
          </li>
        ))}
      </ul>
      {total > findingsShown && <p className={sheet.sub}>and {(total - findingsShown).toLocaleString("en-GB")} more</p>}
    </>
  );
}

function WorkedOut({ effect }: { readonly effect: Extract<DraftEffect, { outcome: "worked-out" }> }) {
  const { access, notes, come, comeCount, gone, goneCount, beyond } = effect;
  const total = access.gained + access.lost + access.hours;
  return (
    <>
      {total === 0 ? (
        <p>Nobody gains or loses anything by it: everybody opens the same doors at the same times.</p>
      ) : (
        <>
          <p style={{ margin: "6px 0" }}>
            <b>{capital(plural(access.people, "person is", "people are"))} concerned.</b> {capital(plural(access.gained, "door is gained", "doors are gained"))}
            , {access.lost === 0 ? "none is lost" : plural(access.lost, "is lost", "are lost")},{" "}
            {access.hours === 0 ? "none has" : plural(access.hours, "has", "have")} other hours, each counted for each person.
          </p>
          <table className={sheet.table} style={{ fontSize: 13 }}>
            <tbody>
              {access.changes.slice(0, changesShown).map((change) => (
                <tr key={`${change.holder.kind} ${change.holder.id} ${change.door}`}>
                  <td style={{ padding: "4px 8px 4px 0" }}>
                    {change.name}, {change.doorName}
                    <div className={sheet.sub}>
                      <b style={{ color: "var(--ink)" }}>{doorChangeWords[change.change]}</b> {amountWords(change)}
                      {change.causes.length > 0 && <>; {causeWords(change.causes)}</>}
                    </div>
                  </td>
                  <td className={sheet.number} style={{ padding: 0 }} title={`Sensitivity ${change.sensitivity}`}>
                    {change.sensitivity}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          {total > changesShown && (
            <p className={sheet.sub}>and {(total - changesShown).toLocaleString("en-GB")} more of less weight. The figure is the sensitivity of the area.</p>
          )}
        </>
      )}
      {comeCount > 0 && <Findings title={capital(plural(comeCount, "finding would come", "findings would come"))} findings={come} total={comeCount} />}
      {goneCount > 0 && <Findings title={capital(plural(goneCount, "finding would be gone", "findings would be gone"))} findings={gone} total={goneCount} />}
      {comeCount + goneCount === 0 && <p>No {beyond.length > 0 ? "other " : ""}finding would come or go.</p>}
      {beyond.map((count) => (
        <p key={count.rule}>{beyondWords(count)}</p>
      ))}
      {notes.length > 0 && <Issues draft={effect.draft} issues={notes} total={notes.length} title="Odd, but possible" />}
    </>
  );
}

/** What a draft would do, as far as it is worked out. */
export function EffectMargin({
  draft,
  revision,
  snapshot,
  changes,
}: {
  readonly draft: number;
  readonly revision: number;
  readonly snapshot: number;
  readonly changes: number;
}) {
  const { state, again, stop } = useEffectOf(draft, revision, snapshot);
  return (
    <section aria-label="Effect" aria-live="polite">
      <h2>What it would do</h2>
      {changes === 0 ? (
        <p className={sheet.sub}>Nothing yet: there is no change in it.</p>
      ) : state === undefined || state.state === "working" ? (
        <div role="status">
          <p>{(state && stepWords[state.progress.step]) ?? "Opening the register"} …</p>
          <Progress done={0} of={1} label="Working out the effect" />
          <Button variant="default" size="xs" mt="sm" onClick={stop}>
            Stop
          </Button>
        </div>
      ) : state.state === "done" ? (
        state.effect.outcome === "impossible" ? (
          <Issues draft={draft} issues={state.effect.errors} total={state.effect.errorCount} title="So it cannot be." />
        ) : (
          <WorkedOut effect={state.effect} />
        )
      ) : (
        <div role="status">
          <p>{state.state === "stopped" ? "Stopped." : "It could not be worked out."}</p>
          <Button variant="default" size="xs" onClick={again}>
            Work it out
          </Button>
        </div>
      )}
    </section>
  );
}

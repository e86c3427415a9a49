"use client";

import { Select, UnstyledButton } from "@mantine/core";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { Fragment } from "react";
import type { FindingsPage, NamedFinding } from "@/operations/findings/list-findings";
import type { Waiver } from "@/operations/ports/triage";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { useRowSelection } from "@/ui/use-row-selection";
import { eventsHref } from "../events/events-address";
import { nothingAsked, QuestionLine } from "../inquiry/question-line";
import { sentenceOfFinding } from "../words/finding-names";
import { cannotTellWords, titleOfRule } from "../words/findings";
import { capital, countWords, listWords, plural } from "../words/numbers";
import type { RuleKey } from "@/core/findings/finding";
import { clockText } from "../words/times";
import { FindingMargin } from "./finding-margin";
import { groupNames, groupTitle, Groups, lifeNames, Ways } from "./finding-ways";
import { findingHref, findingsHref } from "./findings-address";
import type { FindingsAddress } from "./findings-address";
import classes from "./findings.module.css";
import type { TriageOfView } from "./triage-actions";

export interface FindingsViewProps {
  readonly page: FindingsPage;
  readonly asked: FindingsAddress;
  /** Parts of the address that say nothing here. */
  readonly notUnderstood: readonly string[];
  /** The zone in which dates of the register are read. */
  readonly timeZone: string;
  readonly reference: string;
  readonly mayEdit: boolean;
  /** Undefined where nothing can be done: of an earlier snapshot, or without the right. */
  readonly triage: TriageOfView | undefined;
  readonly waiting: readonly (Waiver & { readonly mayConfirm: boolean })[];
  readonly snapshots: readonly { readonly id: number; readonly takenAt: string }[];
}

function resultOf({ asked, page }: Pick<FindingsViewProps, "asked" | "page">): string {
  const { total, groups, groupName, counts } = page;
  const many = total.toLocaleString("en-GB");
  if (asked.fingerprint !== undefined) return total === 0 ? "This finding is not in this snapshot" : "One finding";
  if (asked.by !== undefined && asked.key !== undefined) return `${groupTitle(asked.by, asked.key, groupName ?? asked.key)}: ${many}`;
  if (groups)
    return `${capital(plural(groups.length, groupNames[asked.by ?? "rule"], asked.by === "cardholder" ? "people" : `${groupNames[asked.by ?? "rule"]}s`))} with findings`;
  if (asked.life === "gone") return `${many} ${total === 1 ? "has" : "have"} gone`;
  if (asked.life !== undefined) return `${lifeNames[asked.life]}: ${many}`;
  if (asked.waived === "only") return `Waived: ${many}`;
  if (asked.isMine) return `My tasks: ${many}`;
  if (asked.rule !== undefined) return `${titleOfRule(asked.rule)}: ${many}`;
  return `${capital(countWords(counts.total))} ${counts.total === 1 ? "thing" : "things"} should not be`;
}

/** The heading of a part of the list; undefined where a finding belongs to the same part as the one before. */
function partOf(findings: readonly NamedFinding[], i: number): string | undefined {
  const part = (finding: NamedFinding | undefined): string | undefined =>
    finding?.life === undefined ? undefined : finding.life === "still" ? "There before" : finding.life === "back" ? "Come back" : "New in this snapshot";
  const own = part(findings[i]);
  return own !== part(findings[i - 1]) ? own : undefined;
}

const silentNamed = 8;

function Untold({ page: { counts, silent } }: Pick<FindingsViewProps, "page">) {
  const beyond = Object.entries(counts.beyond) as [RuleKey, number][];
  const told = [
    ...beyond.map(
      ([rule, n]) => `“${titleOfRule(rule)}” finds ${n.toLocaleString("en-GB")}: the riskiest 20,000 are listed, and what is new among them is not told.`,
    ),
    ...counts.cannotTell.map((untold) => cannotTellWords(untold)),
  ];
  if (told.length + silent.length === 0) return null;
  return (
    <details className={classes.untold}>
      <summary>
        {capital(plural(counts.cannotTell.length, "rule cannot tell", "rules cannot tell"))} of everybody
        {silent.length > 0 && `; ${plural(silent.length, "door has", "doors have")} told nothing for long`}
      </summary>
      {told.map((words) => (
        <p key={words}>{words}</p>
      ))}
      {counts.earlier.length > 0 && (
        <p>
          Rules that look back looked at {counts.earlier.length === 1 ? "snapshot" : "snapshots"} {listWords(counts.earlier.map(String))}, and no further.
        </p>
      )}
      {silent.length > 0 && (
        <p>
          Nothing came from{" "}
          {silent.slice(0, silentNamed).map(({ id, name, last }, i) => (
            <Fragment key={id}>
              {i > 0 && ", "}
              <Link href={eventsHref({ about: { kind: "door", id } })}>{name}</Link> (since {last})
            </Fragment>
          ))}
          {silent.length > silentNamed && ` and ${silent.length - silentNamed} more`}: what is said of use there rests on little.
        </p>
      )}
    </details>
  );
}

function exportsOf(asked: FindingsAddress, query: (form: string) => string) {
  return (
    <p className={sheet.sub}>
      These as <a href={query("csv")}>CSV</a>, <a href={query("xlsx")}>XLSX</a>, <a href={query("jsonl")}>JSON Lines</a>, or{" "}
      <Link href={findingsHref(asked, "/findings/print")}>on paper, a sheet a manager</Link>.
    </p>
  );
}

/** What should not be, what is new first; in the margin the proof, the sum and what would end it. */
export function FindingsView(props: FindingsViewProps) {
  const { page, asked, notUnderstood, timeZone, reference, past, snapshots, mayEdit, triage, waiting } = { ...props, past: props.asked.past };
  const { findings, groups } = page;
  const router = useRouter();
  const { selected, select, onKeyDown } = useRowSelection(findings.length);
  const chosen = findings[selected];
  const hasParts = asked.life === undefined && findings.some(({ life }) => life !== findings[0]?.life);
  const exported = (form: string): string => {
    const href = findingsHref(asked, "/findings/export");
    return `${href}${href.includes("?") ? "&" : "?"}form=${form}`;
  };
  return (
    <Sheet
      question={<QuestionLine asked={nothingAsked} />}
      margin={
        groups ? undefined : chosen ? (
          <FindingMargin finding={chosen} timeZone={timeZone} past={past} triage={asked.life === "gone" ? undefined : triage} mayEdit={mayEdit} />
        ) : (
          <p className={sheet.sub}>Nothing is selected.</p>
        )
      }
    >
      <Heading
        result={resultOf(props)}
        reference={
          <span className={classes.asOf}>
            {reference}
            {snapshots.length > 1 && (
              <Select
                size="xs"
                w={216}
                aria-label="As they were in"
                allowDeselect={false}
                value={String(past ?? snapshots[0]?.id)}
                data={snapshots.map(({ id, takenAt }, i) => ({ value: String(id), label: `${id}, ${clockText(takenAt)}${i === 0 ? ", now" : ""}` }))}
                onChange={(value) =>
                  router.push(
                    findingsHref({ ...asked, from: undefined, past: value === null || Number(value) === snapshots[0]?.id ? undefined : Number(value) }),
                  )
                }
              />
            )}
          </span>
        }
      />
      {notUnderstood.length > 0 && (
        <p role="alert" className={sheet.grave}>
          Not understood in this address, and so left out: {listWords(notUnderstood)}.
        </p>
      )}
      {waiting.length > 0 && (
        <p className={sheet.must}>
          {capital(plural(waiting.length, "waiver waits", "waivers wait"))} for a second person:{" "}
          {waiting.slice(0, 5).map(({ id, fingerprint, reason, madeBy }, i) => (
            <Fragment key={id}>
              {i > 0 && "; "}
              <Link href={findingHref(fingerprint, undefined)}>
                “{reason.slice(0, 60)}” of {madeBy}
              </Link>
            </Fragment>
          ))}
        </p>
      )}
      <Ways asked={asked} page={page} />
      <Untold page={page} />
      {groups ? (
        <Groups asked={asked} groups={groups} />
      ) : (
        <div role="group" aria-label="Findings" onKeyDown={onKeyDown}>
          <table className={sheet.table}>
            <thead>
              <tr>
                <th scope="col" className={sheet.number}>
                  Risk
                </th>
                <th scope="col">Who or what</th>
                <th scope="col">What should not be</th>
              </tr>
            </thead>
            <tbody>
              {findings.map((finding, i) => {
                const part = hasParts ? partOf(findings, i) : undefined;
                return (
                  <Fragment key={finding.fingerprint}>
                    {part !== undefined && (
                      <tr className={classes.part}>
                        <td colSpan={3}>{part}</td>
                      </tr>
                    )}
                    <tr className={`${sheet.row} ${i === selected ? sheet.selected : ""}`} onClick={() => select(i)}>
                      <td className={`${sheet.number} ${classes.risk}`}>{finding.risk}</td>
                      <td>
                        <UnstyledButton className={sheet.rowButton} data-row-button aria-pressed={i === selected}>
                          {finding.about}
                        </UnstyledButton>
                        {finding.card !== undefined && <div className={sheet.sub}>{finding.card}</div>}
                      </td>
                      <td>
                        <span className={sheet.words}>{sentenceOfFinding(finding, timeZone)}</span>
                        <div className={sheet.sub}>
                          {titleOfRule(finding.rule)}
                          {finding.assignee !== undefined && ` · ${finding.assignee}`}
                          {finding.notes !== undefined && ` · ${plural(finding.notes, "note", "notes")}`}
                          {finding.waiver &&
                            (finding.waiver.confirmedBy === undefined ? " · a waiver is asked for" : ` · waived until ${finding.waiver.until}`)}
                        </div>
                      </td>
                    </tr>
                  </Fragment>
                );
              })}
            </tbody>
          </table>
        </div>
      )}
      {!groups && findings.length === 0 && <p className={sheet.sub}>There is none of these. {asked.isMine ? "Nothing is your task." : ""}</p>}
      {page.next !== undefined && (
        <p>
          <Link href={findingsHref({ ...asked, from: page.next })}>The next {Math.min(200, page.total)}</Link>{" "}
          <span className={sheet.sub}>of {page.total.toLocaleString("en-GB")}</span>
        </p>
      )}
      {exportsOf(asked, exported)}
    </Sheet>
  );
}

"use client";

import { Select, UnstyledButton } from "@mantine/core";
import Link from "next/link";
import { useRouter } from "next/navigation";
import type { CannotTell, RuleKey, SubjectKind } from "@/core/findings/finding";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { useRowSelection } from "@/ui/use-row-selection";
import { withdrawHref } from "../register/drafts/withdraw-address";
import { nothingAsked, QuestionLine } from "../inquiry/question-line";
import { namesOfFinding, remedyOfFinding, sentenceOfFinding } from "../words/finding-names";
import type { NamedFinding } from "../words/finding-names";
import { cannotTellWords, findingProof, findingTitles, riskWords } from "../words/findings";
import { capital, countWords } from "../words/numbers";
import { clockText } from "../words/times";
import classes from "./findings.module.css";

export type ShownFinding = NamedFinding & { readonly about: string; readonly card: string | undefined };

export interface FindingsViewProps {
  readonly findings: readonly ShownFinding[];
  readonly counts: { readonly byRule: Readonly<Partial<Record<RuleKey, number>>>; readonly total: number; readonly cannotTell: readonly CannotTell[] };
  readonly rule: RuleKey | undefined;
  /** The zone in which dates of the register are read. */
  readonly timeZone: string;
  readonly reference: string;
  readonly mayEdit: boolean;
  /** Number of the snapshot that is looked at; undefined for the latest. */
  readonly past: number | undefined;
  readonly snapshots: readonly { readonly id: number; readonly takenAt: string }[];
}

/** Where the findings of a rule are; of another snapshot where one is named. */
function findingsHref(rule: string | undefined, past: number | undefined): string {
  const query = new URLSearchParams({ ...(rule !== undefined && { rule }), ...(past !== undefined && { snapshot: String(past) }) }).toString();
  return query === "" ? "/findings" : `/findings?${query}`;
}

const ruleKeys = Object.keys(findingTitles) as RuleKey[];

const asked = (kind: SubjectKind, id: string, cardholder: string | undefined, past: number | undefined): string =>
  `/inquiry?who=${encodeURIComponent(cardholder === undefined ? `${kind}:${id}` : `cardholder:${cardholder}`)}${past === undefined ? "" : `&snapshot=${past}`}`;

function FindingMargin({
  finding,
  timeZone,
  past,
  mayEdit,
}: {
  readonly finding: ShownFinding;
  readonly timeZone: string;
  readonly past: number | undefined;
  readonly mayEdit: boolean;
}) {
  const proof = finding.written
    ? Object.entries(finding.written.proof).map(([term, value]) => [term, String(value)] as const)
    : findingProof(finding, namesOfFinding(finding, timeZone));
  const terms = finding.written?.terms ?? finding.terms.map((term) => ({ what: riskWords(term), points: term.points }));
  return (
    <>
      <h2>{finding.about}</h2>
      <div className={sheet.sub}>{findingTitles[finding.rule]}</div>
      <p className={sheet.grave}>{sentenceOfFinding(finding, timeZone)}</p>
      <dl className={sheet.facts} aria-label="Proof">
        {proof.map(([term, value]) => (
          <div key={term} style={{ display: "contents" }}>
            <dt>{term}</dt>
            <dd>{value}</dd>
          </div>
        ))}
      </dl>
      <table className={`${sheet.table} ${classes.sum}`}>
        <caption>Risk {finding.risk}, which is the sum of</caption>
        <tbody>
          {terms.map(({ what, points }) => (
            <tr key={what}>
              <td>{what}</td>
              <td className={sheet.number}>{points}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className={sheet.must}>
        <b>To end it:</b> {remedyOfFinding(finding, timeZone)}
        {past === undefined && mayEdit && (
          <>
            {" "}
            <Link href={withdrawHref({ finding: finding.fingerprint })}>What taking it away would do</Link>
          </>
        )}
      </div>
      <p>
        <Link href={asked(finding.subject.kind, finding.subject.id, finding.cardholder, past)}>
          What does {finding.cardholder === undefined ? "it" : finding.about} open?
        </Link>
      </p>
    </>
  );
}

/** What should not be, by risk; in the margin the proof, the sum and what would end it. */
export function FindingsView({ findings, counts, rule, timeZone, reference, past, snapshots, mayEdit }: FindingsViewProps) {
  const router = useRouter();
  const { selected, select, onKeyDown } = useRowSelection(findings.length);
  const chosen = findings[selected];
  const title = rule === undefined ? undefined : findingTitles[rule];
  const result =
    rule === undefined
      ? `${capital(countWords(counts.total))} ${counts.total === 1 ? "thing" : "things"} should not be`
      : `${title}: ${countWords(counts.byRule[rule] ?? 0)}`;
  const untold = counts.cannotTell.map(cannotTellWords);
  return (
    <Sheet
      question={<QuestionLine asked={nothingAsked} />}
      margin={chosen ? <FindingMargin finding={chosen} timeZone={timeZone} past={past} mayEdit={mayEdit} /> : <p className={sheet.sub}>Nothing is selected.</p>}
    >
      <Heading
        result={result}
        reference={
          <span className={classes.asOf}>
            {reference}
            {snapshots.length > 1 && (
              <Select
                size="xs"
                w={210}
                aria-label="As they were in"
                allowDeselect={false}
                value={String(past ?? snapshots[0]?.id)}
                data={snapshots.map(({ id, takenAt }, i) => ({ value: String(id), label: `${id}, ${clockText(takenAt)}${i === 0 ? ", now" : ""}` }))}
                onChange={(value) => router.push(findingsHref(rule, value === null || Number(value) === snapshots[0]?.id ? undefined : Number(value)))}
              />
            )}
          </span>
        }
        lead={untold.length > 0 ? untold.join(" ") : undefined}
      />
      <nav className={sheet.links} aria-label="Rules">
        {rule === undefined ? (
          <span className={sheet.current} aria-current="page">
            All {counts.total}
          </span>
        ) : (
          <Link href={findingsHref(undefined, past)}>All {counts.total}</Link>
        )}
        {ruleKeys.map((key) =>
          key === rule ? (
            <span key={key} className={sheet.current} aria-current="page">
              {findingTitles[key]} {counts.byRule[key] ?? 0}
            </span>
          ) : (
            <Link key={key} href={findingsHref(key, past)}>
              {findingTitles[key]} <span className={sheet.count}>{counts.byRule[key] ?? 0}</span>
            </Link>
          ),
        )}
        <Link href={rule === undefined ? "/findings/rules" : `/findings/rules?rule=${rule}`}>The rules</Link>
      </nav>
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
            {findings.map((finding, i) => (
              <tr key={finding.fingerprint} className={`${sheet.row} ${i === selected ? sheet.selected : ""}`} onClick={() => select(i)}>
                <td className={`${sheet.number} ${classes.risk}`}>{finding.risk}</td>
                <td>
                  <UnstyledButton className={sheet.rowButton} data-row-button aria-pressed={i === selected}>
                    {finding.about}
                  </UnstyledButton>
                  {finding.card !== undefined && finding.cardholder !== undefined && <div className={sheet.sub}>{finding.card}</div>}
                </td>
                <td>
                  <span className={sheet.words}>{sentenceOfFinding(finding, timeZone)}</span>
                  <div className={sheet.sub}>{findingTitles[finding.rule]}</div>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {findings.length < (rule === undefined ? counts.total : (counts.byRule[rule] ?? 0)) && (
        <p className={sheet.sub}>The riskiest {findings.length} are shown; choose a rule to narrow them.</p>
      )}
    </Sheet>
  );
}

"use client";

import { useHotkeys } from "@mantine/hooks";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { holderOfFinding, kindInProof } from "@/core/findings/about";
import { editedOf, withdrawableOf } from "@/core/certification/what-ends";
import type { SubjectKind } from "@/core/findings/finding";
import type { Decision } from "@/core/certification/decide-line";
import type { FindingHistory, NamedFinding } from "@/operations/findings/list-findings";
import { useFetched } from "@/ui/fetched";
import sheet from "@/ui/sheet.module.css";
import { aboutText } from "../certification/round-address";
import { objectHref } from "../register/list-address";
import { withdrawHref } from "../register/drafts/withdraw-address";
import { RecordLink } from "../evidence/record-link";
import { useSingleKeys } from "../shell/single-keys";
import { namesOfFinding, remedyOfFinding, sentenceOfFinding } from "../words/finding-names";
import { findingProof, riskWords, titleOfRule } from "../words/findings";
import type { ProofItem } from "../words/findings";
import { clockText } from "../words/times";
import { FindingTriage } from "./finding-triage";
import { findingHref } from "./findings-address";
import classes from "./findings.module.css";
import type { TriageOfView } from "./triage-actions";

const asked = (kind: SubjectKind, id: string, cardholder: string | undefined, past: number | undefined): string =>
  `/inquiry?${new URLSearchParams({
    [kind === "door" || kind === "area" || kind === "site" ? "where" : "who"]: cardholder === undefined ? `${kind}:${id}` : `cardholder:${cardholder}`,
    ...(past !== undefined && { snapshot: String(past) }),
  }).toString()}`;

/** Kinds that a question can be asked about. */
const askable: ReadonlySet<SubjectKind> = new Set<SubjectKind>(["cardholder", "credential", "door", "area"]);

const itemsShown = 12;

function Items({ items, past }: { readonly items: readonly ProofItem[]; readonly past: number | undefined }) {
  return (
    <>
      {items.slice(0, itemsShown).map(({ text, object }, i) => (
        <span key={`${text} ${i}`}>
          {i > 0 && ", "}
          {object ? <Link href={objectHref(object.kind, object.id, past)}>{text}</Link> : text}
        </span>
      ))}
      {items.length > itemsShown && ` and ${items.length - itemsShown} more`}
    </>
  );
}

const lifeWords = {
  new: "New in this snapshot.",
  still: "The snapshot before had it too.",
  back: "It had gone, and came back.",
} as const;

/** Where a draft that would end a finding begins; undefined where no change of the register does. */
export function draftOfFinding(finding: NamedFinding): { readonly href: string; readonly words: string } | undefined {
  if (withdrawableOf(finding)) return { href: withdrawHref({ finding: finding.fingerprint }), words: "What taking it away would do" };
  const edited = editedOf(finding);
  return edited && { href: `/register/drafts?${new URLSearchParams({ list: edited.list, key: edited.id }).toString()}`, words: "Change it in a draft" };
}

/** What was decided of a line that told of the finding, if anything was. */
/** What became of a line, by its decision. */
const decisionWords: Readonly<Record<Decision, string>> = { keep: "kept", withdraw: "withdrawn", narrow: "narrowed", "pass-on": "passed on" };

const decidedWords = ({ decision, signedAt, certifierName }: FindingHistory["lines"][number]): string => {
  const by = certifierName ?? "whoever opened the round";
  if (decision === undefined) return `not decided yet by ${by}`;
  return `${decisionWords[decision]} by ${by}${signedAt === undefined ? ", not signed yet" : `, signed ${clockText(signedAt)}`}`;
};

function History({ finding }: { readonly finding: NamedFinding }) {
  const holder = holderOfFinding(finding);
  // What is done about it makes the address another one, so that it is asked for anew.
  const marks = `${finding.notes ?? 0} ${finding.waiver?.id ?? ""}`;
  const query = new URLSearchParams({ finding: finding.fingerprint, ...(holder && { about: aboutText(holder) }), marks });
  const history = useFetched<FindingHistory>(`/findings/history?${query.toString()}`);
  if (history.state !== "there") return null;
  const { notes, waivers, lines } = history.value;
  const ended = waivers.filter(({ endedAt }) => endedAt !== undefined);
  if (notes.length + ended.length + lines.length === 0) return null;
  return (
    <div className={sheet.notes}>
      <h2>What was said of it</h2>
      {lines.map((line) => (
        <p key={line.line} style={{ paddingLeft: 0 }}>
          In <Link href={`/certification/${line.round.id}`}>{line.round.name}</Link> <span className={sheet.sub}>{decidedWords(line)}</span>
        </p>
      ))}
      {notes.map(({ note, by, at }) => (
        <p key={at} style={{ paddingLeft: 0 }}>
          {note} <span className={sheet.sub}>{`${by}, ${clockText(at)}`}</span>
        </p>
      ))}
      {ended.map(({ id, reason, madeBy, endedBy, endedAt = "" }) => (
        <p key={id} style={{ paddingLeft: 0 }}>
          A waiver of {madeBy} (“{reason}”) <span className={sheet.sub}>{`ended by ${endedBy ?? ""}, ${clockText(endedAt)}`}</span>
        </p>
      ))}
    </div>
  );
}

/** Beside the list: the proof of the selected finding, what it weighs, what would end it, and what was done about it. */
export function FindingMargin({
  finding,
  timeZone,
  past,
  triage,
  mayEdit,
}: {
  readonly finding: NamedFinding;
  readonly timeZone: string;
  readonly past: number | undefined;
  readonly triage: TriageOfView | undefined;
  readonly mayEdit: boolean;
}) {
  const router = useRouter();
  const [singleKeys] = useSingleKeys();
  const draft = past === undefined && mayEdit ? draftOfFinding(finding) : undefined;
  useHotkeys([["r", () => singleKeys && draft && router.push(draft.href)]]);
  const proof = finding.written
    ? Object.entries(finding.written.proof).map(([term, value]) => [term, [{ text: String(value) }]] as const)
    : findingProof(finding, namesOfFinding(finding, timeZone), (term) => kindInProof(finding.rule, term));
  const terms = finding.written?.terms ?? finding.terms.map((term) => ({ what: riskWords(term), points: term.points }));
  const { subject, cardholder } = finding;
  return (
    <>
      <h2 className={classes.targets}>
        <Link href={objectHref(cardholder === undefined ? subject.kind : "cardholder", cardholder ?? subject.id, past)}>{finding.about}</Link>
      </h2>
      <div className={`${sheet.sub} ${classes.targets}`}>
        <Link href={`/findings/rules?rule=${finding.rule}`}>{titleOfRule(finding.rule)}</Link>
        {finding.card !== undefined && (
          <>
            {" · "}
            <Link href={objectHref("credential", subject.id, past)}>{finding.card}</Link>
          </>
        )}
      </div>
      <p className={sheet.grave}>{sentenceOfFinding(finding, timeZone)}</p>
      <p className={sheet.sub}>
        {finding.life && `${lifeWords[finding.life]} `}
        <Link href={findingHref(finding.fingerprint, past)}>Its address</Link> ·{" "}
        <RecordLink of={{ finding: finding.fingerprint }} words="Its entries in the record" />
      </p>
      <div className={sheet.must}>
        <b>To end it:</b> {remedyOfFinding(finding, timeZone)} {finding.rule === "not-at-door" && <Link href="/register/units">Units at the doors</Link>}
        {draft && (
          <>
            {" "}
            <Link href={draft.href}>{draft.words}</Link>
          </>
        )}
      </div>
      {triage && <FindingTriage key={finding.fingerprint} finding={finding} {...triage} />}
      <History finding={finding} />
      {proof.length > 0 && (
        <dl className={sheet.facts} aria-label="Proof">
          {proof.map(([term, items]) => (
            <div key={term} style={{ display: "contents" }}>
              <dt>{term}</dt>
              <dd>
                <Items items={items} past={past} />
              </dd>
            </div>
          ))}
        </dl>
      )}
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
      {askable.has(cardholder === undefined ? subject.kind : "cardholder") && (
        <p>
          <Link href={asked(subject.kind, subject.id, cardholder, past)}>
            {subject.kind === "door" || subject.kind === "area" ? "Who opens it, and when?" : `What does ${finding.about} open?`}
          </Link>
        </p>
      )}
    </>
  );
}

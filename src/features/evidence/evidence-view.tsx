import Link from "next/link";
import type { RecordVerification, StoredEntry } from "@/operations/ports/record";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { nothingAsked, QuestionLine } from "../inquiry/question-line";
import { changedWords, doneWords } from "../words/record";
import { clockText } from "../words/times";
import type { RecordAddress } from "./record-address";
import { recordHref, subjectHref } from "./record-address";
import { RecordSearch } from "./record-search";

export interface EvidenceViewProps {
  readonly entries: readonly StoredEntry[];
  readonly verification: RecordVerification;
  readonly asked: RecordAddress;
  /** Parts of the address that say nothing. */
  readonly notUnderstood: readonly string[];
  /** Everybody who has an entry. */
  readonly people: readonly string[];
  readonly seesAccounts: boolean;
}

/** What an entry was done to, as a link to it where it has a page of its own. */
function Subject({ entry, seesAccounts }: { readonly entry: StoredEntry; readonly seesAccounts: boolean }) {
  const href = subjectHref(entry, seesAccounts);
  return href === undefined ? entry.on : <Link href={href}>{entry.on}</Link>;
}

/** Of what alone the entries are, in words; empty where they are of everything. */
function narrowedTo({ on, finding, object }: RecordAddress): string {
  if (finding !== undefined) return "Entries on one finding.";
  if (object !== undefined) return `Entries that name ${object}.`;
  return on && on.length > 0 ? `Entries on ${on[0] ?? ""}.` : "";
}

/** The record, the latest entry first, and whether its chain is whole. */
export function EvidenceView({ entries, verification, asked, notUnderstood, people, seesAccounts }: EvidenceViewProps) {
  const { before: _, ...sought } = asked;
  const isNarrowed = Object.keys(sought).length > 0;
  const last = entries[entries.length - 1];
  const margin = (
    <>
      <h2>{verification.sound ? "The record is whole" : "The record is broken"}</h2>
      {verification.sound ? (
        <>
          <p className={sheet.sub}>Every entry bears the hash of itself and the one before, and fits the hashes written beside the database.</p>
          <dl className={sheet.facts}>
            <dt>Entries</dt>
            <dd>{verification.count.toLocaleString("en-GB")}</dd>
            <dt>Head</dt>
            <dd>{verification.head}</dd>
          </dl>
        </>
      ) : (
        <p className={sheet.grave}>
          <strong>Do not rely on it.</strong> {verification.why}
        </p>
      )}
      <p className={sheet.links}>
        <Link href="/evidence/retention">How long things are kept</Link>
      </p>
      <div className={sheet.must}>
        <b>To check without this page:</b> <code>npm run --silent nomade -- verify</code> walks the same chain, and compares with it everything that a signature
        rests on.
      </div>
    </>
  );
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />} margin={margin}>
      <Heading
        result={verification.sound ? `${verification.count.toLocaleString("en-GB")} entries, none of them altered` : "An entry of the record was altered"}
        reference="The record"
        lead="Who did what, when, on what. The application can add to this and read it; it cannot change or delete."
      />
      <RecordSearch key={JSON.stringify([sought.on, sought.finding, sought.object])} asked={sought} people={people} />
      {notUnderstood.length > 0 && (
        <p role="alert" className={sheet.grave}>
          Not understood in the address, and left out: {notUnderstood.join(", ")}.
        </p>
      )}
      {narrowedTo(asked) !== "" && <p className={sheet.sub}>{narrowedTo(asked)}</p>}
      {entries.length === 0 && (
        <p role="status">
          Nothing in the record fits this. <Link href="/evidence">Show all entries</Link>
        </p>
      )}
      <table className={sheet.table}>
        <thead>
          <tr>
            <th scope="col" className={sheet.number}>
              No.
            </th>
            <th scope="col">When</th>
            <th scope="col">Who did what</th>
            <th scope="col">Before and after</th>
            <th scope="col">Hash</th>
          </tr>
        </thead>
        <tbody>
          {entries.map((entry) => (
            <tr key={entry.number}>
              <td className={sheet.number}>{entry.number}</td>
              <td style={{ whiteSpace: "nowrap" }}>{clockText(entry.at)}</td>
              <td className={sheet.inSentence}>
                <b>{entry.who}</b> {doneWords(entry.what)} <Subject entry={entry} seesAccounts={seesAccounts} />
              </td>
              <td className={sheet.sub} style={{ maxWidth: 300, overflowWrap: "anywhere" }}>
                {changedWords(entry.content).map((words) => (
                  <div key={words}>{words}</div>
                ))}
              </td>
              <td>
                <code>{entry.hash.slice(0, 10)}</code>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className={sheet.links}>
        {asked.before !== undefined && <Link href={recordHref(sought)}>Latest</Link>}
        {last && last.number > 1 && <Link href={recordHref({ ...sought, before: last.number })}>Earlier</Link>}
        {isNarrowed && entries.length > 0 && <Link href="/evidence">Show all entries</Link>}
      </p>
    </Sheet>
  );
}

import Link from "next/link";
import type { RecordEntry } from "@/core/evidence/chain";
import type { RecordVerification } from "@/operations/ports/record";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { nothingAsked, QuestionLine } from "../inquiry/question-line";
import { clockText } from "../words/times";

const doneWords: Readonly<Record<string, string>> = {
  "sign-in": "signed in",
  "sign-in.refused": "was refused at sign-in",
  "sign-out": "signed out",
  "intake.stored": "took in",
  "events.stored": "took in events",
  "snapshot.exported": "saved the document of",
  "round.opened": "opened",
  "line.decided": "decided",
  "docket.signed": "signed",
  "orders.exported": "saved the orders of",
  "account.put": "set up the account",
};

const longest = 110;

/** Values before and after on one line: names and values, hashes shortened. */
function valuesText(content: string | undefined): string {
  if (content === undefined) return "";
  const text = content
    .replace(/"([0-9a-f]{8})[0-9a-f]{56}"/g, "$1…")
    .replace(/["{}]/g, "")
    .replace(/,/g, ", ")
    .replace(/:/g, ": ");
  return text.length > longest ? `${text.slice(0, longest)} …` : text;
}

export interface EvidenceViewProps {
  readonly entries: readonly (RecordEntry & { readonly content: string | undefined })[];
  readonly verification: RecordVerification;
  readonly isFirstPage: boolean;
}

/** The record, the latest entry first, and whether its chain is whole. */
export function EvidenceView({ entries, verification, isFirstPage }: EvidenceViewProps) {
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
      <div className={sheet.must}>
        <b>To check without this page:</b> <code>npm run --silent nomade -- verify</code> walks the same chain, and compares with it everything that a signature rests on.
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
              <td>
                <b>{entry.who}</b> {doneWords[entry.what] ?? entry.what} {entry.on}
              </td>
              <td className={sheet.sub} style={{ maxWidth: 300, overflowWrap: "anywhere" }}>
                {valuesText(entry.content)}
              </td>
              <td>
                <code>{entry.hash.slice(0, 10)}</code>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className={sheet.links}>
        {!isFirstPage && <Link href="/evidence">Latest</Link>}
        {last && last.number > 1 && <Link href={`/evidence?before=${last.number}`}>Earlier</Link>}
      </p>
    </Sheet>
  );
}

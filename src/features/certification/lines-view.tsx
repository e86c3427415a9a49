import Link from "next/link";
import type { ListedLine, ListedLines } from "@/operations/certification/list-lines";
import type { LineFilter } from "@/operations/ports/rounds";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { nothingAsked, QuestionLine } from "../inquiry/question-line";
import { certifierWords } from "../words/holders";
import { holderOrKind } from "../words/line-subjects";
import { notRead } from "../words/not-read";
import { capital, plural } from "../words/numbers";
import { wishWords } from "../words/closing";
import classes from "./certification.module.css";
import { decisionWords, filterWords, hoursOfLine } from "../words/line-words";
import { linesHref } from "./lines-address";

const choices: readonly { readonly words: string; readonly filter: Pick<LineFilter, "decision" | "flagged"> }[] = [
  { words: "all", filter: {} },
  { words: "undecided", filter: { decision: "undecided" } },
  { words: "kept", filter: { decision: "keep" } },
  { words: "kept although flagged", filter: { decision: "keep", flagged: true } },
  { words: "narrowed", filter: { decision: "narrow" } },
  { words: "withdrawn", filter: { decision: "withdraw" } },
  { words: "passed on", filter: { decision: "pass-on" } },
];

function Row({ line }: { readonly line: ListedLine }) {
  return (
    <tr>
      <td>
        <Link href={`/docket/${line.docket}?line=${line.id}`} className={classes.target}>
          {holderOrKind(line.holderName, line.line.subject)}
        </Link>
        {line.holder?.department !== undefined && <div className={sheet.sub}>{line.holder.department}</div>}
      </td>
      <td>
        {wishWords({ ...line, subject: line.line.subject })}
        <div className={sheet.sub}>{hoursOfLine(line.line)}</div>
        {line.flagged && <div className={sheet.grave}>{capital(plural(line.line.findings.length, "finding speaks", "findings speak"))} against it.</div>}
      </td>
      <td>
        {decisionWords(line)}
        {line.reason !== "" && <div className={sheet.sub}>“{line.reason}”</div>}
      </td>
      <td>
        {certifierWords(line.certifierName)}
        <div className={sheet.sub}>{line.signedAt === undefined ? "not signed" : "signed"}</div>
      </td>
    </tr>
  );
}

/** Lines of a round that have something in common: whose, what, how they were decided, and by whom. */
export function LinesView({ listed, filter, page }: { readonly listed: ListedLines; readonly filter: LineFilter; readonly page: number }) {
  const { round, lines, total, pages } = listed;
  const { decision: _decision, flagged: _flagged, ...of } = filter;
  const margin = (
    <>
      <h2>Which of them</h2>
      <ul className={classes.ways}>
        {choices.map(({ words, filter: own }) => {
          const isChosen = own.decision === filter.decision && own.flagged === filter.flagged;
          return <li key={words}>{isChosen ? <b aria-current="true">{words}</b> : <Link href={linesHref(round.id, { ...of, ...own })}>{words}</Link>}</li>;
        })}
      </ul>
      <p>
        <a href={linesHref(round.id, filter, 1, "csv")} download>
          Save these as CSV
        </a>{" "}
        or{" "}
        <a href={linesHref(round.id, filter, 1, "xlsx")} download>
          XLSX
        </a>
      </p>
      <p>
        <Link href={`/certification/${round.id}`}>Back to the round</Link>
      </p>
    </>
  );
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />} margin={margin}>
      <Heading
        result={`${capital(filterWords(filter, listed))}: ${plural(total, "line", "lines")}`}
        reference={`${round.name}, round ${round.id} on snapshot ${round.snapshot}${notRead(listed)}`}
        lead={total === 0 ? "No line of this round is so." : ""}
      />
      {total > 0 && (
        <table className={sheet.table}>
          <thead>
            <tr>
              <th scope="col">Who</th>
              <th scope="col">What</th>
              <th scope="col">Decided</th>
              <th scope="col">By</th>
            </tr>
          </thead>
          <tbody>
            {lines.map((line) => (
              <Row key={line.id} line={line} />
            ))}
          </tbody>
        </table>
      )}
      {pages > 1 && (
        <nav aria-label="Pages" className={classes.part}>
          {page > 1 && <Link href={linesHref(round.id, filter, page - 1)}>Before</Link>} Page {page} of {pages}{" "}
          {page < pages && <Link href={linesHref(round.id, filter, page + 1)}>Next</Link>}
        </nav>
      )}
    </Sheet>
  );
}

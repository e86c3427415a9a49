import Link from "next/link";
import type { NamedOrder, RoundOverview } from "@/operations/certification/show-rounds";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { nothingAsked, QuestionLine } from "../inquiry/question-line";
import { notRead } from "../words/not-read";
import { capital, countWords, plural } from "../words/numbers";
import { changeWords } from "../words/changes";
import { certifierWords } from "../words/holders";
import { clockText } from "../words/times";
import classes from "./certification.module.css";

type ShownDocket = RoundOverview["dockets"][number];

/** Below this many seconds a line, a docket was not read; it is shown as what it is. */
const hastySeconds = 2;

function pace({ firstDecidedAt, lastDecidedAt, decided }: ShownDocket): { words: string; hasty: boolean } {
  if (firstDecidedAt === undefined || lastDecidedAt === undefined || decided < 2) return { words: "–", hasty: false };
  const seconds = Math.round((Date.parse(lastDecidedAt) - Date.parse(firstDecidedAt)) / 1000);
  const words = seconds < 120 ? `${decided} in ${seconds} s` : `${decided} in ${Math.round(seconds / 60)} min`;
  return { words, hasty: seconds / decided < hastySeconds };
}

/** One round: its dockets and how they were decided, and the orders that came of it. */
export function RoundView({ overview, orders }: { readonly overview: RoundOverview; readonly orders: readonly NamedOrder[] }) {
  const { round, dockets } = overview;
  const signed = dockets.filter(({ signedAt }) => signedAt !== undefined).length;
  const unsigned =
    dockets.length === 1 ? "the one docket is not signed yet" : `${signed === 0 ? "none" : countWords(signed)} of ${countWords(dockets.length)} dockets signed`;
  const result = `${round.name}: ${signed === dockets.length ? "all signed" : unsigned}`;
  const margin = (
    <>
      <h2>{orders.length === 0 ? "No orders yet" : capital(plural(orders.length, "order", "orders"))}</h2>
      <p className={sheet.sub}>
        {orders.length === 0 ? "Each withdrawal becomes orders when its docket is signed." : "What the controlling system has to change."}
      </p>
      {orders.length > 0 && (
        <p>
          <a href={`/certification/${round.id}/orders`} download>
            Save the orders as CSV
          </a>
        </p>
      )}
      {orders.map((order) => (
        <div key={order.id} className={sheet.notes}>
          <b style={{ position: "static", color: "inherit" }}>{order.holderName}</b>, {order.subject}
          <div>{capital(changeWords(order.described, order.names))}</div>
          {order.reason !== "" && <div className={sheet.sub}>“{order.reason}”</div>}
        </div>
      ))}
    </>
  );
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />} margin={margin}>
      <Heading result={result} reference={`Round ${round.id} on snapshot ${round.snapshot}${notRead(overview)}, due ${round.due}`} />
      <table className={sheet.table}>
        <thead>
          <tr>
            <th scope="col">Certifier</th>
            <th scope="col" className={sheet.number}>
              lines
            </th>
            <th scope="col" className={sheet.number}>
              flagged
            </th>
            <th scope="col" className={sheet.number}>
              decided
            </th>
            <th scope="col" className={sheet.number}>
              withdrawn
            </th>
            <th scope="col">pace</th>
            <th scope="col">signed</th>
          </tr>
        </thead>
        <tbody>
          {[...dockets]
            .sort((a, b) => b.flagged - a.flagged || b.lines - a.lines)
            .map((docket) => {
              const { words, hasty } = pace(docket);
              return (
                <tr key={docket.id}>
                  <td>
                    <Link href={`/docket/${docket.id}`}>{certifierWords(docket.certifierName)}</Link>
                    {docket.account === undefined && <div className={sheet.sub}>no account to sign with</div>}
                  </td>
                  <td className={sheet.number}>{docket.lines}</td>
                  <td className={sheet.number}>{docket.flagged}</td>
                  <td className={sheet.number}>{docket.decided}</td>
                  <td className={sheet.number}>{docket.withdrawn}</td>
                  <td className={hasty ? classes.quick : undefined}>
                    {words}
                    {hasty && <div className={sheet.sub}>faster than reading</div>}
                  </td>
                  <td>{docket.signedAt === undefined ? "not yet" : clockText(docket.signedAt)}</td>
                </tr>
              );
            })}
        </tbody>
      </table>
    </Sheet>
  );
}

import Link from "next/link";
import type { NamedOrder } from "@/operations/ports/orders";
import type { Wish } from "@/operations/certification/wishes";
import sheet from "@/ui/sheet.module.css";
import { changeWords } from "../words/changes";
import { checkWords, stateTone, stateWords, wishWords } from "../words/closing";
import { holderOrKind } from "../words/line-subjects";
import { capital } from "../words/numbers";
import { momentWords } from "../words/times";
import classes from "./certification.module.css";

const tones = { good: classes.good, bad: classes.bad, none: undefined } as const;

const urgency = { bad: 0, none: 1, good: 2 } as const;

/** What is wrong comes first, then what is under way. */
const byUrgency = (a: Wish, b: Wish): number => urgency[stateTone(a.state)] - urgency[stateTone(b.state)];

/** What was withdrawn or narrowed, what was ordered for it, and what the latest register says of it. */
export function WishList({ wishes, orders, today }: { readonly wishes: readonly Wish[]; readonly orders: readonly NamedOrder[]; readonly today: string }) {
  const byId = new Map(orders.map((order) => [order.id, order]));
  return (
    <table className={sheet.table}>
      <thead>
        <tr>
          <th scope="col">Who and what</th>
          <th scope="col">Ordered</th>
          <th scope="col">State</th>
        </tr>
      </thead>
      <tbody>
        {[...wishes].sort(byUrgency).map((wish) => {
          const { state } = wish;
          const own = wish.orders.flatMap((id) => byId.get(id) ?? []);
          return (
            <tr key={wish.line} id={`wish-${wish.line}`}>
              <td>
                <Link href={`/docket/${wish.docket}`} className={classes.target}>
                  {holderOrKind(wish.holderName, wish.subject)}
                </Link>
                <div className={sheet.sub}>{wishWords(wish)}</div>
              </td>
              <td>
                {own.map(({ id, described, names, source, ticket, answer, due }) => (
                  <div key={id}>
                    {capital(changeWords(described, names))}
                    <div className={sheet.sub}>
                      order {id} to {source ?? "Nomade itself"}
                      {ticket === undefined ? "" : `, ticket ${ticket}`}
                      {due !== undefined && state !== "done" && (
                        <>
                          , <span className={due < today ? classes.bad : undefined}>due {momentWords(due)}</span>
                        </>
                      )}
                      {answer === undefined
                        ? ""
                        : answer.said === "done"
                          ? "; they say it is done"
                          : `; refused${answer.note === "" ? "" : `: “${answer.note}”`}`}
                    </div>
                  </div>
                ))}
              </td>
              <td>
                <span className={tones[stateTone(state)]}>{stateWords[state]}</span>
                {wish.check && (
                  <div className={sheet.sub}>
                    {checkWords(wish.check)} Snapshot {wish.check.snapshot}.
                  </div>
                )}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

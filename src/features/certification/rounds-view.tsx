import Link from "next/link";
import type { RoundOverview } from "@/operations/certification/show-rounds";
import { Heading, Progress, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { nothingAsked, QuestionLine } from "../inquiry/question-line";
import { wishCountsWords } from "../words/closing";
import { capital, countWords, plural } from "../words/numbers";
import { momentWords } from "../words/times";
import classes from "./certification.module.css";

export interface RoundsViewProps {
  readonly rounds: readonly RoundOverview[];
  readonly mayOpen: boolean;
}

const sum = (numbers: readonly number[]): number => numbers.reduce((total, n) => total + n, 0);

function result(rounds: readonly RoundOverview[]): string {
  const open = rounds.filter(({ round, dockets }) => round.closedAt === undefined && dockets.some(({ signedAt }) => signedAt === undefined));
  if (rounds.length === 0) return "Nobody has certified anything yet";
  return open.length === 0 ? "No round is open" : `${capital(plural(open.length, "round is", "rounds are"))} open`;
}

/** The rounds, and how far each is. */
export function RoundsView({ rounds, mayOpen }: RoundsViewProps) {
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />}>
      <Heading result={result(rounds)} lead="A round asks everybody who answers for people to look at what these can open, line by line, and to sign." />
      {mayOpen && (
        <p>
          <Link href="/certification/new">Open a new round</Link> · <Link href="/certification/occasions">What asks for a decision between rounds</Link>
        </p>
      )}
      {rounds.map(({ round, dockets, orders, wishes }) => {
        const [lines, decided] = [sum(dockets.map((docket) => docket.lines)), sum(dockets.map((docket) => docket.decided))];
        const signed = dockets.filter(({ signedAt }) => signedAt !== undefined).length;
        return (
          <section key={round.id} className={classes.round}>
            <h2>
              <Link href={`/certification/${round.id}`}>{round.name}</Link>
            </h2>
            <div className={sheet.sub}>
              over snapshot {round.snapshot}, due {momentWords(round.due)} · {signed === 0 ? "none" : countWords(signed)} of {countWords(dockets.length)}{" "}
              {dockets.length === 1 ? "docket" : "dockets"} signed
              {round.closedAt === undefined ? "" : ", closed"} · {wishes.of === 0 ? plural(orders, "order", "orders") : wishCountsWords(wishes)}
            </div>
            <Progress done={decided} of={lines} label={`${decided} of ${lines} lines decided`} />
            <div className={sheet.sub}>
              {decided.toLocaleString("en-GB")} of {lines.toLocaleString("en-GB")} lines decided
            </div>
          </section>
        );
      })}
    </Sheet>
  );
}

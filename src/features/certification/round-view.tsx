import Link from "next/link";
import type { RoundOverview, RoundSheet } from "@/operations/certification/show-rounds";
import type { LineFilter } from "@/operations/ports/rounds";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { nothingAsked, QuestionLine } from "../inquiry/question-line";
import { wishCountsWords } from "../words/closing";
import { RecordLink } from "../evidence/record-link";
import { WholeOnly } from "../shell/seeing";
import { certifierWords } from "../words/holders";
import { isOfDefinition } from "../words/line-subjects";
import { notRead } from "../words/not-read";
import { capital, countWords, plural } from "../words/numbers";
import { clockText, momentWords } from "../words/times";
import classes from "./certification.module.css";
import { DepartmentsProgress } from "./department-progress";
import type { RunRoundActions } from "./run-round-form";
import { DocketActions, RunRound } from "./run-round-form";
import type { SendOrdersProps } from "./send-orders-form";
import { SendOrders } from "./send-orders-form";
import { EvidencePack } from "./evidence-pack";
import { RoundMails } from "./round-mails";
import { linesHref } from "./lines-address";
import { WishList } from "./wish-list";

type ShownDocket = RoundOverview["dockets"][number];

/** Below this many seconds a line, a docket was not read; it is shown as what it is. */
const hastySeconds = 2;

function pace({ firstDecidedAt, lastDecidedAt, decided, closedAt }: ShownDocket): { words: string; hasty: boolean } {
  // What counts as the round's rule says was decided by nobody.
  if (closedAt !== undefined || firstDecidedAt === undefined || lastDecidedAt === undefined || decided < 2) return { words: "–", hasty: false };
  const seconds = Math.round((Date.parse(lastDecidedAt) - Date.parse(firstDecidedAt)) / 1000);
  const words = seconds < 120 ? `${decided} in ${seconds} s` : `${decided} in ${Math.round(seconds / 60)} min`;
  return { words, hasty: seconds / decided < hastySeconds };
}

/** How far the dockets of a round are, in words. */
export function signedWords(dockets: readonly ShownDocket[]): string {
  const signed = dockets.filter(({ signedAt }) => signedAt !== undefined).length;
  if (signed === dockets.length) return "all signed";
  if (dockets.length === 1) return "the one docket is not signed yet";
  return `${signed === 0 ? "none" : countWords(signed)} of ${countWords(dockets.length)} dockets signed`;
}

const isDone = ({ signedAt, closedAt }: ShownDocket): boolean => (signedAt ?? closedAt) !== undefined;

function stateOfDocket(docket: ShownDocket, due: string, today: string): { readonly words: string; readonly bad: boolean } {
  if (docket.signedAt !== undefined) return { words: clockText(docket.signedAt), bad: false };
  if (docket.closedAt !== undefined) return { words: "closed unsigned", bad: false };
  if (docket.held) return { words: "waits", bad: false };
  return due < today ? { words: "overdue", bad: true } : { words: "not yet", bad: false };
}

const sum = (numbers: readonly number[]): number => numbers.reduce((total, n) => total + n, 0);

/** What stands out of a round, each with the lines that it counts. */
function Lead({ sheet: { dockets, round, wishes }, today, isSent }: { readonly sheet: RoundSheet; readonly today: string; readonly isSent: boolean }) {
  const [overdue, keptFlagged, passedOn, comments] = [
    round.due < today ? dockets.filter((docket) => !isDone(docket)).length : 0,
    sum(dockets.map((docket) => docket.keptFlagged)),
    sum(dockets.map((docket) => docket.passedOn)),
    sum(dockets.map((docket) => docket.comments)),
  ];
  const late = overdue > 0 ? (isSent ? `, ${countWords(overdue)} overdue` : `${capital(countWords(overdue))} overdue.`) : "";
  return (
    <>
      {isSent ? `${capital(signedWords(dockets))}${late}. ` : `${late} `}
      {!isSent && wishes.of > 0 && `${capital(plural(wishes.of, "withdrawal is", "withdrawals are"))} not sent yet. `}
      {keptFlagged > 0 && (
        <>
          <Link href={linesHref(round.id, { decision: "keep", flagged: true })}>{capital(plural(keptFlagged, "line was", "lines were"))} kept</Link> although
          something speaks against {keptFlagged === 1 ? "it" : "them"}.{" "}
        </>
      )}
      {passedOn > 0 && (
        <>
          <Link href={linesHref(round.id, { decision: "pass-on" })}>{capital(plural(passedOn, "line was", "lines were"))} passed on</Link>.{" "}
        </>
      )}
      {comments > 0 && (
        <>
          <Link href={linesHref(round.id, { commented: true })}>{capital(plural(comments, "comment", "comments"))}</Link>.
        </>
      )}
    </>
  );
}

/** One round: what became of what was withdrawn, its dockets and how they were decided, and the orders that came of it. */
export function RoundView({
  overview,
  today,
  mayRun,
  actions,
  orders,
  makeAccounts,
}: {
  readonly overview: RoundSheet;
  /** The present date of UTC. */
  readonly today: string;
  readonly mayRun: boolean;
  readonly actions: RunRoundActions;
  /** Undefined where this account may not. */
  readonly makeAccounts: Parameters<typeof RoundMails>[0]["makeAccounts"];
  readonly orders: Pick<SendOrdersProps, "send" | "apply" | "answer">;
}) {
  const { round, dockets, wishes, wishList, named, departments } = overview;
  // Until something was sent there is nothing to be done.
  const isSent = wishes.of > (wishes.by["not-sent"] ?? 0);
  const result = `${round.name}: ${isSent ? wishCountsWords(wishes) : signedWords(dockets)}`;
  const standing = named.filter(({ sentAt }) => sentAt === undefined);
  const margin = (
    <>
      <h2>{named.length === 0 ? "No orders yet" : capital(plural(named.length, "order", "orders"))}</h2>
      <p className={sheet.sub}>
        {named.length === 0
          ? "Each withdrawal becomes orders when its docket is signed."
          : "What has to be changed, by whoever owns it. Each later intake of theirs says what became of it."}
      </p>
      {named.length > 0 && (
        <p>
          <a href={`/certification/${round.id}/orders`} download>
            Save the orders as CSV
          </a>{" "}
          or{" "}
          <a href={`/certification/${round.id}/orders?as=xlsx`} download>
            XLSX
          </a>
        </p>
      )}
      {mayRun && (
        <>
          <SendOrders
            round={round.id}
            unsent={standing.filter(({ source }) => source !== undefined).length}
            own={standing.filter(({ source }) => source === undefined).length}
            sent={named.length - standing.length}
            {...orders}
          />
        </>
      )}
      <h2 className={classes.part}>Mail</h2>
      <RoundMails overview={overview} makeAccounts={makeAccounts} />
      <WholeOnly>
        <h2 className={classes.part}>Evidence</h2>
        <EvidencePack round={round.id} />
      </WholeOnly>
      {mayRun && (
        <>
          <h2 className={classes.part}>The round</h2>
          <RunRound overview={overview} actions={actions} />
        </>
      )}
    </>
  );
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />} margin={margin}>
      <Heading
        result={result}
        reference={
          <>
            {`Round ${round.id} on snapshot ${round.snapshot}${notRead(overview)}, due ${momentWords(round.due)}`} ·{" "}
            <RecordLink of={{ on: [`round ${round.id}`] }} />
          </>
        }
        lead={<Lead sheet={overview} today={today} isSent={isSent} />}
      />
      {wishList.length > 0 && (
        <>
          <h2 className={classes.part}>
            {wishList.some(({ subject }) => isOfDefinition(subject)) ? "What was withdrawn or needs changing" : "What was withdrawn"}
          </h2>
          <WishList wishes={wishList} orders={named} today={today} />
        </>
      )}
      <h2 className={classes.part}>Dockets</h2>
      <table className={sheet.table}>
        <thead>
          <tr>
            <th scope="col">Certifier</th>
            <th scope="col" className={sheet.number}>
              decided
            </th>
            <th scope="col" className={sheet.number}>
              flagged
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
              const state = stateOfDocket(docket, round.due, today);
              const of = (filter: LineFilter): string => linesHref(round.id, { docket: docket.id, ...filter });
              return (
                <tr key={docket.id}>
                  <td>
                    <Link href={`/docket/${docket.id}`} className={classes.target}>
                      {certifierWords(docket.certifierName)}
                    </Link>
                    {docket.corrects !== undefined && <div className={sheet.sub}>corrects docket {docket.corrects}</div>}
                    {docket.account === undefined && <div className={sheet.sub}>no account to sign with</div>}
                    {docket.comments > 0 && (
                      <div className={sheet.sub}>
                        <Link className={classes.count} href={of({ commented: true })}>
                          {plural(docket.comments, "comment", "comments")}
                        </Link>
                      </div>
                    )}
                    {mayRun && docket.closedAt === undefined && (
                      <div className={sheet.sub}>
                        <DocketActions docket={docket.id} signed={docket.signedAt !== undefined} others={overview.couldSubstitute} actions={actions} />
                      </div>
                    )}
                  </td>
                  <td className={sheet.number}>
                    <Link className={classes.count} href={of({ decision: "decided" })}>
                      {docket.decided}
                    </Link>{" "}
                    of{" "}
                    <Link className={classes.count} href={of({})}>
                      {docket.lines}
                    </Link>
                  </td>
                  <td className={sheet.number}>
                    <Link className={classes.count} href={of({ flagged: true })}>
                      {docket.flagged}
                    </Link>
                    {docket.keptFlagged > 0 && (
                      <div className={sheet.sub}>
                        <Link className={classes.count} href={of({ decision: "keep", flagged: true })}>
                          {docket.keptFlagged} kept
                        </Link>
                      </div>
                    )}
                  </td>
                  <td className={sheet.number}>
                    <Link className={classes.count} href={of({ decision: "withdraw" })}>
                      {docket.withdrawn}
                    </Link>
                    {docket.narrowed > 0 && (
                      <div className={sheet.sub}>
                        <Link className={classes.count} href={of({ decision: "narrow" })}>
                          {docket.narrowed} narrowed
                        </Link>
                      </div>
                    )}
                    {docket.passedOn > 0 && (
                      <div className={sheet.sub}>
                        <Link className={classes.count} href={of({ decision: "pass-on" })}>
                          {docket.passedOn} passed on
                        </Link>
                      </div>
                    )}
                  </td>
                  <td className={hasty ? classes.quick : undefined}>
                    {words}
                    {hasty && <div className={sheet.sub}>faster than reading</div>}
                  </td>
                  <td className={state.bad ? classes.bad : undefined}>
                    {state.words}
                    {docket.signedBy !== undefined && docket.signedBy !== docket.certifierName && <div className={sheet.sub}>by {docket.signedBy}</div>}
                  </td>
                </tr>
              );
            })}
        </tbody>
      </table>
      <div className={classes.part}>
        <DepartmentsProgress round={round.id} departments={departments} />
      </div>
    </Sheet>
  );
}

"use client";

import { Button, Select, TextInput, UnstyledButton } from "@mantine/core";
import { useForm } from "@mantine/form";
import Link from "next/link";
import { useRouter } from "next/navigation";
import type { ReactNode } from "react";
import { formatMinute } from "@/core/time/instant";
import type { EpochMinute } from "@/core/time/instant";
import { localTime, zoneOf } from "@/core/time/zone";
import type { Trial } from "@/core/evidence/trials";
import type { Inquiry, Trace } from "@/operations/inquiry/inquiry";
import type { RunTrial } from "@/operations/inquiry/trials";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { useAction } from "@/ui/use-action";
import { capital, countWords, plural } from "../words/numbers";
import { reasonWords } from "../words/reasons";
import { localMomentText, momentText, nearMomentText } from "../words/times";
import { questionQuery } from "./address";
import classes from "./inquiry.module.css";
import type { AskedQuestion } from "./question-line";
import { QuestionLine } from "./question-line";
import { TraceMargin } from "./trace-margin";

const here = "/inquiry/trials";
const trialsAddress = (inquiry: Inquiry): string => `${here}?${questionQuery(inquiry)}`;
/** What the door does, which stands free to anybody at some times. */
const doorWords = ({ verdict, free }: Trace): string =>
  verdict.verdict === "open" ? "The door opens" : free ? "The door stands free to everybody" : "The door stays shut";

/** What a door does for a card. */
const doesWords = { open: "opens for it", closed: "does not open for it" } as const;
const minutesAnHour = 60;

export interface TrialActions {
  readonly add: (trial: Trial) => Promise<"written" | "full" | "refused">;
  readonly drop: (id: number) => Promise<boolean>;
}

interface ViewProps {
  readonly asked: AskedQuestion;
  /** Why the door does what it does; undefined where no card and door are chosen yet. */
  readonly trace: Trace | undefined;
  /** The cards of the person who is asked about, where a card has to be chosen. */
  readonly cards: readonly { readonly id: string; readonly name: string }[];
  readonly trials: readonly RunTrial[];
  readonly reference: ReactNode;
  readonly mayWrite: boolean;
  readonly actions: TrialActions;
}

/** The same card at the same door at other minutes. */
function Stepping({ trace, inquiry }: { readonly trace: Trace; readonly inquiry: Inquiry }) {
  const zone = zoneOf(trace.door.zone);
  const to = (minute: number | undefined, words: string) =>
    minute !== undefined && <Link href={trialsAddress({ ...inquiry, when: { kind: "moment", at: localTime(zone, minute as EpochMinute) } })}>{words}</Link>;
  const change = (minute: EpochMinute | undefined, words: string) =>
    to(minute, minute === undefined ? words : `${words}, ${nearMomentText(minute, trace.door.zone)}`);
  return (
    <nav aria-label="Another moment" className={sheet.links}>
      {to(trace.at - minutesAnHour, "An hour before")}
      {to(trace.at + minutesAnHour, "An hour after")}
      {to(trace.at + 24 * minutesAnHour, "A day after")}
      {change(trace.previousChange, "The change before")}
      {change(trace.nextChange, "The change after")}
    </nav>
  );
}

function WriteTrial({
  trace,
  credential,
  inquiry,
  add,
}: {
  readonly trace: Trace;
  readonly credential: string;
  readonly inquiry: Inquiry;
  readonly add: TrialActions["add"];
}) {
  const router = useRouter();
  const does = trace.verdict.verdict;
  const form = useForm<Pick<Trial, "expected" | "note">>({ initialValues: { expected: does, note: "" } });
  const { busy, refused, run } = useAction();
  const write = form.onSubmit(({ expected, note }) =>
    run(async () => {
      const outcome = await add({ credential, door: trace.door.id, at: formatMinute(trace.at), lockdown: inquiry.lockdown, expected, note });
      if (outcome === "full") return "A thousand trials are written down already: take some out first.";
      if (outcome === "refused") return "It could not be written down. Load the page again and try once more.";
      form.setFieldValue("note", "");
      router.refresh();
      return undefined;
    }),
  );
  return (
    <form className={classes.writeTrial} aria-label="Write a trial down" onSubmit={write}>
      <Select
        size="xs"
        w={180}
        label="Expected: for this card it"
        data={[
          { value: "open", label: "opens" },
          { value: "closed", label: "does not open" },
        ]}
        allowDeselect={false}
        {...form.getInputProps("expected")}
      />
      <TextInput size="xs" w={260} label="Note" placeholder="why it is tried" maxLength={200} {...form.getInputProps("note")} />
      <Button size="xs" type="submit" loading={busy}>
        Write it down
      </Button>
      {refused !== undefined && <span role="alert">{refused}</span>}
    </form>
  );
}

function Series({ trials, mayWrite, drop }: { readonly trials: readonly RunTrial[]; readonly mayWrite: boolean; readonly drop: TrialActions["drop"] }) {
  const router = useRouter();
  const { busy, run } = useAction();
  if (trials.length === 0) return null;
  const addressOf = ({ credential, door, there, lockdown }: RunTrial): string =>
    trialsAddress({
      who: { kind: "credential", id: credential },
      where: { kind: "door", id: door },
      when: there ? { kind: "moment", at: there } : { kind: "any" },
      lockdown,
    });
  return (
    <div className={classes.scrolled}>
      <table className={sheet.table}>
        <thead>
          <tr>
            <th scope="col">Card</th>
            <th scope="col">Door and moment</th>
            <th scope="col">Expected</th>
            <th scope="col">By the record</th>
            {mayWrite && <th scope="col" aria-label="Take out" />}
          </tr>
        </thead>
        <tbody>
          {trials.map((trial) => (
            <tr key={trial.id}>
              <td>
                <Link href={addressOf(trial)}>{trial.card}</Link>
                <div className={sheet.sub}>{trial.holder ?? "no cardholder"}</div>
              </td>
              <td>
                {trial.doorName}
                <div className={sheet.sub}>
                  {trial.there ? momentText(trial.there.date, trial.there.minuteOfDay) : trial.at}
                  {trial.lockdown ? ", in a lockdown" : ""}
                  {trial.note === "" ? "" : ` · ${trial.note}`}
                </div>
              </td>
              <td>{doesWords[trial.expected]}</td>
              <td>
                <span className={trial.isAsExpected ? undefined : sheet.grave}>
                  {trial.isAsExpected ? "✓" : "✗"} {doesWords[trial.verdict]}
                </span>
                {trial.verdict === "closed" && <div className={sheet.sub}>{reasonWords(trial.reason)}</div>}
                {trial.isFree && <div className={sheet.sub}>stands free to everybody then</div>}
              </td>
              {mayWrite && (
                <td>
                  <UnstyledButton
                    className={sheet.plain}
                    disabled={busy}
                    aria-label={`Take out the trial of ${trial.card} at ${trial.doorName}`}
                    onClick={() =>
                      run(async () => {
                        await drop(trial.id);
                        router.refresh();
                      })
                    }
                  >
                    Take out
                  </UnstyledButton>
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

export function trialsResult(trials: readonly Pick<RunTrial, "isAsExpected">[]): string {
  const right = trials.filter(({ isAsExpected }) => isAsExpected).length;
  return `${capital(plural(trials.length, "trial", "trials"))}, ${right === trials.length && trials.length > 1 ? "all" : countWords(right)} as expected`;
}

/** A card presented at a door at a chosen moment: what the door would do by the record, and why; and the trials that were written down, run anew. */
export function TrialsView({ asked, trace, cards, trials, reference, mayWrite, actions }: ViewProps) {
  const { inquiry } = asked;
  const does = trace?.verdict.verdict;
  const credential = trace?.credential?.id;
  return (
    <Sheet
      question={<QuestionLine key={questionQuery(inquiry)} asked={asked} at={here} />}
      {...(trace && { margin: <TraceMargin trace={trace} asked={inquiry} rules={[]} withWeek={false} /> })}
    >
      <Heading
        result={trace ? doorWords(trace) : trials.length === 0 ? "Present a card at a door" : trialsResult(trials)}
        reference={reference}
        lead={
          trace
            ? `${trace.credential?.name ?? "No card"}, ${trace.holder.kind === "cardholder" ? trace.holder.name : trace.holder.detail}, at ${trace.door.name} on ${localMomentText(trace.at, trace.door.zone)}${inquiry.lockdown ? ", in a lockdown" : ""}, ${trace.door.zone}.`
            : "Choose a card, a door and a moment on the line above: what the door would do by the record, and why. What is written down is run again on every snapshot that comes, and goes into the pack of each round."
        }
      />
      {cards.length > 1 && (
        <p>
          Which card is presented?{" "}
          {cards.map(({ id, name }, i) => (
            <span key={id}>
              {i > 0 && ", "}
              <Link href={trialsAddress({ ...inquiry, who: { kind: "credential", id } })}>{name}</Link>
            </span>
          ))}
        </p>
      )}
      {trace && (
        <>
          <p className={classes.said}>
            {does === "open" ? "It lets the card in" : `It does not open for the card: ${reasonWords(trace.verdict.reason)}`}
            {trace.free ? ". It stands free to everybody then, whatever is presented" : ""}.
          </p>
          <Stepping trace={trace} inquiry={inquiry} />
          {mayWrite && credential !== undefined && (
            <WriteTrial key={`${credential} ${trace.at} ${does ?? ""}`} trace={trace} credential={credential} inquiry={inquiry} add={actions.add} />
          )}
          {trials.length > 0 && <h2 className={classes.section}>{trialsResult(trials)}</h2>}
        </>
      )}
      <Series trials={trials} mayWrite={mayWrite} drop={actions.drop} />
    </Sheet>
  );
}

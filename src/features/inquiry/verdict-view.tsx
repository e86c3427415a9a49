import type { ReactNode } from "react";
import Link from "next/link";
import type { YearOfAccess } from "@/core/questions/year-of-access";
import type { EpochMinute } from "@/core/time/instant";
import { localTime, zoneOf } from "@/core/time/zone";
import type { Inquiry, Trace } from "@/operations/inquiry/inquiry";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { capital } from "../words/numbers";
import { reasonWords } from "../words/reasons";
import { whenShort } from "../words/when";
import { localMomentText, nearMomentText } from "../words/times";
import { answeredQuestion, questionAddress } from "./address";
import { AnswerForms } from "./answer-forms";
import classes from "./inquiry.module.css";
import type { KeepAction } from "./keep-question";
import { PrintedQuestion } from "./printed-question";
import type { AskedQuestion } from "./question-line";
import { QuestionLine } from "./question-line";
import { Remembered } from "./recent-questions";
import { AccessWeek, minuteOfWeek, TraceMargin } from "./trace-margin";
import { YearOfPair } from "./year-of-pair";

/** The same question at the minutes at which the verdict changes, one before and one after. */
function Steps({ trace, inquiry }: { readonly trace: Trace; readonly inquiry: Inquiry }) {
  const zone = zoneOf(trace.door.zone);
  const step = (change: EpochMinute | undefined, words: string) =>
    change !== undefined && (
      <Link href={questionAddress({ ...inquiry, when: { kind: "moment", at: localTime(zone, change) } })}>
        {words}, {nearMomentText(change, trace.door.zone)}
      </Link>
    );
  return (
    <p className={sheet.links}>
      {step(trace.previousChange, "The change before")}
      {step(trace.nextChange, "The change after")}
    </p>
  );
}

/** One holder, one door: whether it opens now, whether it did or will at the asked moment, when it does, and why. */
export function VerdictView({
  asked,
  now,
  then,
  asItIs,
  year,
  reference,
  keep,
}: {
  readonly asked: AskedQuestion;
  readonly now: Trace;
  readonly then: Trace | undefined;
  /** The same as things stand, where it is asked as if every card were live. */
  readonly asItIs?: Trace | undefined;
  readonly year: YearOfAccess | undefined;
  readonly reference: ReactNode;
  readonly keep: KeepAction;
}) {
  const told = then ?? now;
  const opens = told.verdict.verdict === "open";
  const { when } = asked.inquiry;
  const moment = localMomentText(told.at, told.door.zone);
  // Of a span, the first minute at which it opens is told; where it does not, that it never does in it.
  const thenWords = (trace: Trace): string => {
    if (!trace.comes)
      return `${whenShort(when)} does not come here: the clocks go forward over it. At ${localMomentText(trace.at, trace.door.zone)}: ${sentence(trace)}`;
    if (when.kind === "moment") return sentence(trace);
    return trace.verdict.verdict === "open"
      ? `It opens in that time, first on ${localMomentText(trace.at, trace.door.zone)}.`
      : `It opens at no minute of it. On ${localMomentText(trace.at, trace.door.zone)}: ${sentence(trace)}`;
  };
  const asIfLive = asked.inquiry.asIfLive === true;
  const could = opens ? "would open it" : "would not open it";
  const asThingsAre = `${told.holder.name} ${then ? (opens ? "opens it then" : "does not open it then") : opens ? "opens it now" : "does not open it now"}`;
  const result = asIfLive ? `${told.holder.name} ${could}${then ? " then" : " now"} if every card were live` : asThingsAre;
  const rules = [...new Set(told.findings.map(({ rule }) => rule))];
  const sentence = (trace: Trace): string =>
    trace.verdict.verdict === "open"
      ? `It opens${trace.credential ? ` with ${trace.credential.name}` : ""}${trace.nextChange === undefined ? ", and goes on doing so for the 13 months looked at" : `, until ${nearMomentText(trace.nextChange, trace.door.zone)}`}.`
      : `It stays shut: ${reasonWords(trace.verdict.reason)}.${trace.nextChange === undefined ? "" : ` It opens next on ${nearMomentText(trace.nextChange, trace.door.zone)}.`}${trace.free ? " But it stands open to everybody then." : ""}`;
  return (
    <Sheet question={<QuestionLine asked={asked} />} margin={<TraceMargin trace={told} asked={answeredQuestion(asked)} rules={rules} withWeek={false} />}>
      <Heading
        result={result}
        reference={
          <>
            {reference}
            <span>{` · times in ${told.door.zone}`}</span>
          </>
        }
        lead={[told.holder.detail, `${told.door.name}, ${[told.door.area, told.door.site].filter(Boolean).join(", ")}`].join(" · ")}
      />
      <Remembered asked={asked} />
      <PrintedQuestion asked={asked} />
      <AnswerForms asked={asked} keep={keep} />
      <div className={classes.verdict}>
        <AccessWeek week={told.week.open} outside={told.week.outside} size="large" pin={minuteOfWeek(told.at, told.door.zone)} words={told.words} />
        <div>
          <p className={classes.said}>
            {then ? (
              <b>{when.kind === "moment" ? moment : capital(whenShort(when))}.</b>
            ) : (
              <b>
                Now{asIfLive ? ", as if live" : ""}, {moment}.
              </b>
            )}{" "}
            {then ? thenWords(told) : sentence(told)}
          </p>
          {then && (
            <p className={classes.said}>
              <b>Now, {localMomentText(now.at, now.door.zone)}.</b> {sentence(now)}
            </p>
          )}
          {asItIs && (
            <p className={classes.said}>
              <b>As things stand, {localMomentText(asItIs.at, asItIs.door.zone)}.</b> {sentence(asItIs)}
            </p>
          )}
          <p className={classes.said}>
            <b>In the 13 months from the export{asIfLive ? ", as if live" : ""}:</b> {told.fullWords}.
          </p>
          <Steps trace={told} inquiry={asked.inquiry} />
          <p className={sheet.sub}>The drawing shows an ordinary week; solid is inside business hours, hatched outside, the pin is the asked instant.</p>
        </div>
      </div>
      {year && <YearOfPair year={year} at={told.at} asIfLive={asIfLive} />}
    </Sheet>
  );
}

"use client";

import Link from "next/link";
import type { ReactNode } from "react";
import type { Inquiry } from "@/operations/inquiry/inquiry";
import type { RoutesAnswer } from "@/operations/inquiry/routes-answer";
import { Heading, Sheet } from "@/ui/sheet";
import { capital, plural, someWords } from "../words/numbers";
import { answeredQuestion, questionAddress, questionQuery } from "./address";
import { timeClause } from "./answer-words";
import classes from "./inquiry.module.css";
import { modesClause } from "./modes";
import type { AskedQuestion } from "./question-line";
import { QuestionLine } from "./question-line";
import { TakeAway } from "./take-away";
import { RoutesDrawing } from "./routes-drawing";
import { doorWords } from "./routes-links";
import { RoutesMargin } from "./routes-margin";
import { People, PlacesOfOne, PlacesOfSeveral, Ways } from "./routes-tables";

function resultWords(inquiry: Inquiry, { names, of, isLedTo, askedDoors }: RoutesAnswer): string {
  const time = `${timeClause(inquiry)}${modesClause(inquiry)}`;
  const where = names.where ?? "";
  if (of.kind === "one") {
    if (!of.end)
      return `${of.holder.name} gets to ${of.places.length === 0 ? "no place" : plural(of.places.length + of.morePlaces, "place", "places")} on foot${time}`;
    if (of.end.steps !== undefined) return `${of.holder.name} gets to ${where} through ${doorWords(of.end.steps)}${time}`;
    return askedDoors === 0
      ? `No door leads to ${where}`
      : isLedTo
        ? `${of.holder.name} never gets to ${where}${time}`
        : `No doors lead from outside to ${where}`;
  }
  if (!of.end) return `${capital(plural(of.places.length + of.morePlaces, "place", "places"))} can be walked to${time}`;
  if (askedDoors === 0) return `No door leads to ${where}`;
  if (!isLedTo) return `No doors lead from outside to ${where}`;
  return `${of.end.arriving === 0 ? "Nobody gets" : capital(plural(of.end.arriving, "gets", "get"))} to ${where} on foot${time}`;
}

/** Said of an account that sees some sites alone. */
const limitedWords = " Only doors of your sites are known here: ways that come past others are not told.";

function leadWords({ of, askedHolders, isLimited }: RoutesAnswer): string {
  const limited = isLimited ? limitedWords : "";
  if (of.kind === "one") {
    const { end, stranded } = of;
    const when = end?.words === undefined ? "" : `${capital(end.words)}. `;
    const lost = stranded.length === 0 ? "" : `Opens ${doorWords(stranded.length)} that no way leads them to. `;
    return `${when}${lost}A way counts at any minute when every door on it opens for them or stands free.${limited}`;
  }
  const { end } = of;
  const by = end?.bySteps.map(({ steps, holders }) => `${holders.toLocaleString("en-GB")} through ${doorWords(steps)}`) ?? [];
  const told = by.length === 0 ? "" : `${capital(someWords(by, 4))}. `;
  return `${told}${askedHolders.toLocaleString("en-GB")} people and cards were asked about. A way counts at any minute when every door on it opens for them or stands free.${limited}`;
}

/** Routes on foot: who gets where, by how many doors and through which; drawn, and as a list. */
export function RoutesView({ asked, answer, reference }: { readonly asked: AskedQuestion; readonly answer: RoutesAnswer; readonly reference: ReactNode }) {
  const inquiry = answeredQuestion(asked);
  const { of, drawing } = answer;
  const result = resultWords(inquiry, answer);
  return (
    <Sheet
      question={<QuestionLine key={questionQuery(inquiry)} asked={asked} at="/inquiry/routes" />}
      margin={<RoutesMargin answer={answer} inquiry={inquiry} />}
    >
      <Heading result={result} reference={reference} lead={leadWords(answer)} />
      <nav className={classes.forms} aria-label="Answer as">
        <Link href={questionAddress(inquiry)}>Back to the answer</Link>
        <span className={classes.away}>
          <TakeAway address={`/inquiry/routes/export?${questionQuery({ ...inquiry, form: undefined, fold: undefined })}`} />
        </span>
      </nav>
      <RoutesDrawing drawing={drawing} label={`Places and the doors between them: ${result}`} />
      {of.kind === "one" ? (
        <>
          <Ways of={of} inquiry={inquiry} />
          <PlacesOfOne of={of} inquiry={inquiry} />
        </>
      ) : (
        <>
          <People of={of} inquiry={inquiry} />
          <PlacesOfSeveral of={of} inquiry={inquiry} />
        </>
      )}
    </Sheet>
  );
}

"use client";

import Link from "next/link";
import { useState } from "react";
import type { ReactNode } from "react";
import { formsOf } from "@/core/questions/answer-form";
import type { AnswerOnPlan, MarkOnPlan } from "@/operations/inquiry/answer-on-plan";
import type { Inquiry } from "@/operations/inquiry/inquiry";
import { PictureBoard } from "@/ui/board/picture-board";
import type { BoardMark, MarkLook } from "@/ui/board/picture-board";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { Floors } from "../register/plans/floors";
import { LiftLinks } from "../register/plans/lift-links";
import { pictureOf } from "../register/plans/plan-marks";
import { capital, countWords, listWords, plural } from "../words/numbers";
import { answeredQuestion, planAnswerAddress, questionAddress, questionQuery } from "./address";
import { timeClause, usesWords } from "./answer-words";
import classes from "./inquiry.module.css";
import { modesClause } from "./modes";
import type { AskedQuestion } from "./question-line";
import { QuestionLine } from "./question-line";
import { TakeAway } from "./take-away";

const looks: Readonly<Record<MarkOnPlan["state"], MarkLook>> = {
  open: "strong",
  asleep: "broken",
  shut: "plain",
  "not-asked": "faint",
  gone: "gone",
};

function stateWord({ state, opening, asleep }: MarkOnPlan, isOfOne: boolean): string {
  switch (state) {
    case "open":
      return isOfOne ? "opens" : opening.toLocaleString("en-GB");
    case "asleep":
      return isOfOne ? "asleep" : `${asleep.toLocaleString("en-GB")} asleep`;
    case "shut":
      return isOfOne ? "shut" : "nobody";
    case "not-asked":
      return "not asked";
    case "gone":
      return "not in the register";
  }
}

/** What a mark says, in a word or two: of a door that stands free, that first. */
export function markWord(mark: MarkOnPlan, isOfOne: boolean): string {
  if (!mark.isFree) return stateWord(mark, isOfOne);
  return mark.state === "shut" ? "stands free" : `stands free; ${stateWord(mark, isOfOne)}`;
}

const markOf = (mark: MarkOnPlan, isOfOne: boolean): BoardMark => ({
  id: mark.door,
  name: mark.name,
  word: markWord(mark, isOfOne),
  x: mark.x,
  y: mark.y,
  look: mark.isFree ? "wide" : looks[mark.state],
});

function stateSentence({ state, opening, asleep, words, name }: MarkOnPlan, { names, isOfOne, askedHolders }: AnswerOnPlan, time: string): string {
  const who = names.who ?? "Everybody";
  const more = asleep === 0 ? "" : ` ${capital(countWords(asleep))} more would if cards were made active that are not.`;
  switch (state) {
    case "open":
      return isOfOne
        ? `${who} opens it${time}${words === undefined ? "" : `: ${words}`}.`
        : `${opening.toLocaleString("en-GB")} of ${askedHolders.toLocaleString("en-GB")} people and cards ${opening === 1 ? "opens" : "open"} it${time}.${more}`;
    case "asleep":
      return isOfOne
        ? `${who} does not open it${time}, but would if a card were made active that is not${words === undefined ? "" : `: ${words}`}.`
        : `Nobody of those asked about opens it${time}. ${capital(countWords(asleep))} would if cards were made active that are not.`;
    case "shut":
      return `${isOfOne ? `${who} does not open it` : "Nobody of those asked about opens it"}${time}.`;
    case "not-asked":
      return `The question is not about ${name}.`;
    case "gone":
      return "The register does not hold this door.";
  }
}

/** All that is said of a chosen door. */
export function markSentence(mark: MarkOnPlan, answer: AnswerOnPlan, inquiry: Inquiry): string {
  const said = stateSentence(mark, answer, `${timeClause(inquiry)}${modesClause(inquiry)}`);
  if (!mark.isFree) return said;
  const isInstant = inquiry.when.kind === "now" || inquiry.when.kind === "moment";
  return `${said} ${isInstant ? "It stands open to everybody then" : "At times it stands open to everybody"}, whatever they hold.`;
}

function Chosen({ mark, answer, inquiry }: { readonly mark: MarkOnPlan; readonly answer: AnswerOnPlan; readonly inquiry: Inquiry }) {
  const asked: Inquiry = { ...inquiry, where: { kind: "door", id: mark.door }, form: undefined, fold: undefined };
  return (
    <section aria-live="polite">
      <h2>{mark.name}</h2>
      <p>{markSentence(mark, answer, inquiry)}</p>
      {mark.state !== "gone" && (
        <p>
          <Link href={questionAddress(asked)}>{answer.isOfOne ? "Why" : "Who opens it"}</Link>
        </p>
      )}
      {answer.shown && (
        <LiftLinks plan={answer.shown.plan} door={mark.door} plans={answer.choices} href={(plan, there) => planAnswerAddress(inquiry, plan, there)} />
      )}
    </section>
  );
}

/** What marks mean, of one door and of several; where one person or card is asked about, and where several are. */
const legendWords: Readonly<Record<MarkOnPlan["state"], { readonly one: readonly [string, string]; readonly several: readonly [string, string] }>> = {
  open: { one: ["opens", "open"], several: ["opens, for as many as its number says", "open, each for as many as its number says"] },
  asleep: {
    one: ["would open if a card were made active", "would open if a card were made active"],
    several: ["would open if cards were made active", "would open if cards were made active"],
  },
  shut: { one: ["stays shut", "stay shut"], several: ["opens for nobody of them", "open for nobody of them"] },
  "not-asked": { one: ["is not asked about", "are not asked about"], several: ["is not asked about", "are not asked about"] },
  gone: { one: ["is not in the register", "are not in the register"], several: ["is not in the register", "are not in the register"] },
};

/** How many doors bear each mark, and what it means. */
export function legendText(marks: readonly MarkOnPlan[], isOfOne: boolean): string {
  const counted = Object.entries(legendWords).flatMap(([state, { one, several }]) => {
    const count = marks.filter((mark) => mark.state === state).length;
    const [single, many] = isOfOne ? one : several;
    return count === 0 ? [] : [`${plural(count, "door", "doors")} ${count === 1 ? single : many}`];
  });
  const free = marks.filter(({ isFree }) => isFree).length;
  const toAll = free === 0 ? "" : ` ${capital(plural(free, "door stands", "doors stand"))} free, for anybody.`;
  return counted.length === 0 ? "No door stands on this plan yet." : `${capital(counted.join("; "))}.${toAll}`;
}

function resultWords({ names, choices, askedDoors, openingDoors, isOfOne }: AnswerOnPlan, inquiry: Inquiry): string {
  const time = `${timeClause(inquiry)}${modesClause(inquiry)}`;
  const where = names.where === undefined || names.where === "anything" ? "" : ` at ${names.where}`;
  if (choices.length === 0) return "There is no plan of a building yet";
  const doors =
    openingDoors === 0 ? "no door" : `${openingDoors.toLocaleString("en-GB")} of ${askedDoors.toLocaleString("en-GB")} ${askedDoors === 1 ? "door" : "doors"}`;
  if (isOfOne) return `${names.who ?? ""} opens ${doors}${where}${time}`;
  const who = names.who === undefined || names.who === "Everybody" ? "" : `${names.who}: `;
  return `${who}${who === "" ? capital(doors) : doors}${where} ${openingDoors > 1 ? "open" : "opens"} for somebody${time}`;
}

/** An answer on the plans of the building. */
export function PlanAnswerView({
  asked,
  answer,
  door,
  reference,
}: {
  readonly asked: AskedQuestion;
  readonly answer: AnswerOnPlan;
  readonly door: string | undefined;
  readonly reference: ReactNode;
}) {
  const inquiry = answeredQuestion(asked);
  const { shown, choices, isOfOne, unplaced, unplacedCount } = answer;
  const [selected, setSelected] = useState(door);
  const mark = shown?.marks.find((one) => one.door === selected);
  const onNone =
    unplacedCount === 0
      ? ""
      : `${capital(plural(unplacedCount, "door that opens stands", "doors that open stand"))} on no plan: ${listWords(unplaced.slice(0, 4).map(({ name }) => name))}${unplacedCount > 4 ? ` and ${unplacedCount - 4} more` : ""}.`;
  return (
    <Sheet
      question={<QuestionLine key={questionQuery(inquiry)} asked={asked} at="/inquiry/plan" />}
      margin={
        <>
          {mark ? (
            <Chosen mark={mark} answer={answer} inquiry={inquiry} />
          ) : (
            <p className={sheet.sub}>
              {shown ? "Choose a door on the plan to see what is said of it." : "Bring a picture of a floor or an area, and set its doors on it."}
            </p>
          )}
          {shown && (
            <Floors
              plans={choices}
              current={shown.plan.id}
              href={({ id }) => planAnswerAddress(inquiry, id)}
              more={({ opening, asked: about }) => (about === 0 ? "not asked about" : `${opening} of ${about}`)}
            />
          )}
        </>
      }
    >
      <Heading result={resultWords(answer, inquiry)} reference={reference} lead={[onNone, usesWords(answer.uses)].filter(Boolean).join(" ") || undefined} />
      <nav className={classes.forms} aria-label="Answer as">
        <Link href={questionAddress(inquiry)}>Back to the answer</Link>
        <Link href="/register/plans">All plans</Link>
        <span className={classes.away}>
          <TakeAway
            address={`/inquiry/export?${questionQuery({ ...inquiry, form: formsOf(inquiry).includes("doors") ? "doors" : undefined, fold: undefined })}`}
          />
        </span>
      </nav>
      {shown && (
        <>
          <PictureBoard
            key={shown.plan.id}
            picture={pictureOf(shown.plan)}
            label={`${shown.plan.name}: ${resultWords(answer, inquiry)}`}
            marks={shown.marks.map((one) => markOf(one, isOfOne))}
            selected={selected}
            onSelect={setSelected}
          />
          <p className={sheet.sub}>{legendText(shown.marks, isOfOne)}</p>
        </>
      )}
    </Sheet>
  );
}

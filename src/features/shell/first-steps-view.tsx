import Link from "next/link";
import type { ReactNode } from "react";
import type { FirstSteps } from "@/operations/inquiry/first-steps";
import { Heading, Sheet } from "@/ui/sheet";
import { questionAddress } from "../inquiry/address";
import { nothingAsked, QuestionLine } from "../inquiry/question-line";
import { findingsHref } from "../findings/findings-address";
import { linesHref } from "../certification/lines-address";
import { titleOfRule } from "../words/findings";
import { capital, countWords, plural } from "../words/numbers";
import classes from "./first-steps.module.css";

function Step({ title, href, link, children }: { readonly title: string; readonly href: string; readonly link: string; readonly children: ReactNode }) {
  return (
    <li>
      <h2>{title}</h2>
      <p>{children}</p>
      <p>
        <Link href={href}>{link}</Link>
      </p>
    </li>
  );
}

/** One story of this register from a question to its proof: what a new reviewer reads first. */
export function FirstStepsView({ steps, reads }: { readonly steps: FirstSteps; readonly reads: { readonly takesIn: boolean; readonly record: boolean } }) {
  const { door, nights, openers, holder, findings, round } = steps;
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />}>
      <Heading
        result={`From a question to its proof: who opens ${door.name} at night?`}
        lead="Ten minutes, one step after another. Each leads to the view itself, on this register; come back here with your browser’s way back. Press ? anywhere for what a view shows and how it is reckoned."
      />
      <ol className={classes.steps}>
        <Step title="Ask" href={questionAddress(nights)} link={`Who opens ${door.name} at night?`}>
          {door.sensitivity > 0
            ? `No door here is more sensitive than ${door.name}.`
            : `No area here is said to be sensitive; ${door.name} lies as deep inside as any.`}{" "}
          {openers === 0 ? "Nobody opens it at night." : `${capital(plural(openers, "holder opens", "holders open"))} it at night.`} The sentence on top of
          every view is the question: change any part of it.
        </Step>
        {holder && (
          <Step title="Ask why" href={questionAddress(holder.verdict)} link={`Why does ${holder.named.name} open it?`}>
            {holder.risk > 0 ? `Of these, nobody has a finding of more risk than ${holder.named.name}` : `One of them is ${holder.named.name}`} (
            {holder.named.detail}). The margin lists every path by which the access comes, what each depends on, and what would have to go.
          </Step>
        )}
        {holder && findings && findings.count > 0 && (
          <Step
            title="See what should not be"
            href={findingsHref({ about: { kind: holder.named.kind, id: holder.named.id } })}
            link={`Findings about ${holder.named.name}`}
          >
            {capital(plural(findings.count, "finding speaks", "findings speak"))} of {holder.named.name}, each with its proof. Waive one with a reason, write a
            note to it, or begin the draft that would end it.
          </Step>
        )}
        {findings?.rule !== undefined && (
          <Step title="Read the rule" href={`/findings/rules?rule=${findings.rule}`} link={titleOfRule(findings.rule)}>
            What it flags, by which standard, with which figures, and what it cannot see.
          </Step>
        )}
        {round && (
          <Step title="Have it certified" href={`/certification/${round.id}`} link={round.name}>
            In a round managers and owners of areas decide on the access of their people and to their areas, line by line. This one is{" "}
            {round.isClosed ? "closed" : "under way"}.
          </Step>
        )}
        {round && round.withdrawn > 0 && (
          <Step title="See what became of it" href={linesHref(round.id, { decision: "withdraw" })} link="What was withdrawn">
            {capital(countWords(round.withdrawn))} {round.withdrawn === 1 ? "line was" : "lines were"} withdrawn. What is withdrawn goes out as orders when its
            docket is signed; at the next intake Nomade asks whether the access is really gone, and the round’s page says so first.
          </Step>
        )}
        {reads.record && (
          <Step title="Prove it" href={round ? `/certification/${round.id}` : "/evidence"} link={round ? "The round, with its evidence pack" : "The record"}>
            Whatever changes something stands in the record, chained by hashes. The evidence pack of a round can be checked without Nomade, years later.
          </Step>
        )}
        {reads.takesIn && (
          <Step title="Bring your own" href="/intake" link="Intake">
            Drop a file of your own: you see what was understood and what it does to access before anything is stored.
          </Step>
        )}
      </ol>
    </Sheet>
  );
}

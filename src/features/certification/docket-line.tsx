"use client";

import { Textarea, UnstyledButton } from "@mantine/core";
import { useState } from "react";
import type { Decision } from "@/core/certification/decide-line";
import type { CredentialLife, LifeBound } from "@/core/certification/line";
import { daysOfUse } from "@/core/findings/use";
import { unreachable } from "@/core/kernel/invariant";
import { formatClock } from "@/core/time/civil-day";
import type { ShownLine } from "@/operations/certification/show-docket";
import sheet from "@/ui/sheet.module.css";
import { useAction } from "@/ui/use-action";
import { AccessWeek } from "../inquiry/trace-margin";
import { sentenceOfLineFinding } from "../words/finding-names";
import { capital, countWords, timesWords } from "../words/numbers";
import { agoText, dateText } from "../words/times";
import classes from "./docket.module.css";
import { WithdrawalEffect } from "./withdrawal-effect";

/** How the doors of a line were used, in words. */
function sentenceOfUse({ line }: ShownLine, asOf: number): string {
  const { count, last, coveredDays } = line.use;
  if (last !== undefined)
    return `${line.subject.kind === "credential" ? "Used" : "Came in here"} ${timesWords(count)} in the events at hand, last ${agoText(last, asOf as typeof last)}.`;
  if (!(coveredDays > 0)) return "Whether it was used cannot be told: there are no events of this place.";
  return `Not ${line.subject.kind === "credential" ? "used" : "seen here"} in the events at hand, which cover ${countWords(coveredDays)} of the last ${daysOfUse} days.`;
}

/** What becomes of a credential by itself. */
function lifeWords(life: CredentialLife): string {
  switch (life.kind) {
    case "live":
      return "In use, with no end in the coming 13 months.";
    case "ends":
      return `In use; ends ${boundWords(life.last)}.`;
    case "begins":
      return `Not in use yet; begins ${boundWords(life.first)}.`;
    case "asleep":
      return life.places === undefined
        ? "Not in use, and does not begin by itself. Made active again, it would open nothing more."
        : `Not in use, and does not begin by itself. Made active again, it would open ${life.places} besides.`;
    default:
      return unreachable(life);
  }
}

const boundWords = ({ date, minuteOfDay }: LifeBound): string =>
  minuteOfDay === undefined ? `on ${dateText(date)}` : `on ${dateText(date)} at ${formatClock(minuteOfDay)}`;

/** How many colleagues have the same, in words. */
function peerSentence({ line }: ShownLine): string {
  if (!line.peers || line.peers.of === 0) return "There is nobody in the same department to compare with.";
  const { same, of } = line.peers;
  if (same === 0) return `None of the ${countWords(of)} colleagues in the department can do the same.`;
  return same === of
    ? `All ${countWords(of)} colleagues in the department have it too.`
    : `${capital(countWords(same))} of ${countWords(of)} colleagues in the department can do the same.`;
}

export interface DocketLineProps {
  readonly shown: ShownLine;
  readonly asOf: number;
  /** The zone in which dates of the register are read. */
  readonly timeZone: string;
  readonly editable: boolean;
  readonly decide: (line: number, decision: Decision, reason: string) => Promise<string | undefined>;
}

/** One decision: what, when, how used, who else; what speaks against it; and what the choice would do. */
export function DocketLineCard({ shown, asOf, timeZone, editable, decide }: DocketLineProps) {
  const { line, flagged } = shown;
  const [choice, choose] = useState<Decision | undefined>(shown.decision);
  const [reason, setReason] = useState(shown.reason);
  const { busy, refused, run } = useAction();
  const send = (decision: Decision, why: string): void =>
    run(async () => {
      // Nothing may stand here as decided that was not stored, or perhaps not.
      const asStored = (): void => choose(shown.decision);
      const words = await decide(shown.id, decision, why).catch((error: unknown) => {
        asStored();
        throw error;
      });
      // A reason that is not enough stays, to be made better.
      if (words !== undefined && decision !== "keep") asStored();
      return words;
    });
  const pick = (decision: Decision) => {
    choose(decision);
    // A flagged line is kept only with a reason, so that is asked for first.
    if (decision === "withdraw" || !flagged || reason.trim() !== "") send(decision, reason);
  };
  const button = (decision: Decision, words: string) => (
    <UnstyledButton
      className={choice === decision ? classes.chosen : classes.choice}
      aria-pressed={choice === decision}
      disabled={!editable || busy}
      onClick={() => pick(decision)}
    >
      {words}
    </UnstyledButton>
  );
  return (
    <section className={classes.line} aria-label={`${shown.holderName}, ${line.subject.name}`}>
      <h2>{line.subject.name}</h2>
      {line.override && <p className={classes.hours}>Passes here by a standing override: no grant is needed.</p>}
      {line.hours.map((hours) => (
        <div key={hours.words + (hours.doors[0]?.id ?? "")}>
          <div className={classes.hours}>
            {hours.words}.{" "}
            <span className={sheet.sub}>
              {hours.doors.length <= 3
                ? hours.doors.map(({ name }) => name).join(", ")
                : `${hours.doors.length} doors: ${hours.doors
                    .slice(0, 2)
                    .map(({ name }) => name)
                    .join(", ")} and ${hours.doors.length - 2} more`}
            </span>
          </div>
          <div className={classes.facts}>
            <AccessWeek week={hours.week} size="cell" words={hours.words} />
            {hours === line.hours[0] && (
              <span>
                {sentenceOfUse(shown, asOf)} {peerSentence(shown)}
              </span>
            )}
          </div>
        </div>
      ))}
      {line.subject.kind === "credential" && (
        <>
          {line.life && <p className={classes.hours}>{lifeWords(line.life)}</p>}
          <p className={sheet.sub}>{sentenceOfUse(shown, asOf)}</p>
        </>
      )}
      {line.findings.map((finding) => (
        <p key={finding.fingerprint} className={sheet.grave}>
          {sentenceOfLineFinding(finding, timeZone)}
        </p>
      ))}
      <div className={classes.choices}>
        {button("keep", line.subject.kind === "credential" ? "Keep the card" : "Keep")}
        {button("withdraw", line.subject.kind === "credential" ? "Return the card" : "Withdraw")}
      </div>
      {choice === "keep" && flagged && (
        <Textarea
          mt="sm"
          label="Why is it needed?"
          description="Something speaks against this line, so keeping it takes a reason."
          value={reason}
          onChange={(event) => setReason(event.currentTarget.value)}
          onBlur={() => reason.trim() !== "" && send("keep", reason)}
          disabled={!editable}
          autosize
        />
      )}
      {choice === "keep" && !flagged && <p className={classes.effect}>Nothing changes.</p>}
      {choice === "withdraw" && <WithdrawalEffect line={shown.id} />}
      {refused !== undefined && (
        <p role="alert" className={classes.refused}>
          {refused}
        </p>
      )}
    </section>
  );
}

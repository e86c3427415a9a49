"use client";

import { Button } from "@mantine/core";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";
import type { ToldProposal, ToldProposals, ToldUse } from "@/operations/register/put-levels-right";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { useAction } from "@/ui/use-action";
import { nothingAsked, QuestionLine } from "../inquiry/question-line";
import { TaskProgress } from "../shell/task-progress";
import { capital, countWords, firstOf, listWords, plural, shareWords } from "../words/numbers";
import classes from "./register.module.css";

export interface LevelActions {
  readonly propose: (task: string) => Promise<ToldProposals | undefined>;
  /** Leads to the draft; gives why there is none. */
  readonly draft: (key: string, task: string) => Promise<"not-any-more" | "stopped" | undefined>;
}

const somebody = (count: number): string => plural(count, "person or card", "people and cards");

/** A step in a sentence. */
export function proposalSentence({ kind, levels, about, aboutCount }: ToldProposal): string {
  const names = listWords(levels.map(({ name }) => `“${name}”`));
  switch (kind) {
    case "merge-equal":
      return `${names} open the same doors in the same hours at present: make them one.`;
    case "exceptions-to-level":
      return `${capital(plural(aboutCount, "person has", "people have"))} the same exceptions (${firstOf(about, aboutCount)}): give a level instead of them.`;
    case "drop-needless":
      return [
        aboutCount > 0 ? `${capital(plural(aboutCount, "grant gives", "grants give"))} exactly what another gives` : "",
        levels.length > 0 ? `${levels.length === 1 ? `${names} is` : `${names} are`} given to nobody` : "",
      ]
        .filter(Boolean)
        .join("; ")
        .concat(aboutCount + levels.length === 1 ? ": take it out." : ": take them out.");
    case "drop-unused":
      return `Nobody who holds ${names} used ${firstOf(about, aboutCount)} in 180 days: drop ${aboutCount === 1 ? "it" : "them"} from the level.`;
    case "split-by-use":
      return `${firstOf(about, aboutCount)} use different doors of ${names}: give each group a level of its own, with what it uses.`;
  }
}

const countsWords = (before: number, after: number, one: string, many: string): string =>
  before === after
    ? `${before.toLocaleString("en-GB")} ${before === 1 ? one : many} as before`
    : `${before.toLocaleString("en-GB")} → ${after.toLocaleString("en-GB")} ${many}`;

/** What a step saves, and what it takes from whom. */
export function proposalEffect({ before, after, holders, lost, fewerMinutes }: ToldProposal): string {
  const saves = [
    countsWords(before.levels, after.levels, "level", "levels"),
    countsWords(before.exceptions, after.exceptions, "exception", "exceptions"),
    countsWords(before.grants, after.grants, "grant", "grants"),
  ].join(", ");
  const takes =
    holders === 0
      ? "everybody opens exactly what they do now"
      : `${somebody(holders)} ${holders === 1 ? "opens" : "open"} less: ${plural(lost, "door", "doors")} lost, counted for each${fewerMinutes > 0 ? `, ${countWords(fewerMinutes)} with shorter hours` : ""}`;
  return `${saves}; ${takes}.`;
}

/** What is said of the use of a level. */
export function wordsOfUse({ doors, holders, using, unused, unusedCount, isTold }: ToldUse): string {
  if (holders === 0) return "nobody holds it";
  if (doors === 0) return "it has no door of which use is told";
  const seen = isTold ? "" : "events do not cover its doors for so long; as far as they do, ";
  if (using === 0) return `${seen}${holders === 1 ? "its one holder does not use it" : `none of its ${holders.toLocaleString("en-GB")} holders uses it`}`;
  const all = holders === 1 ? "its one holder uses it" : "all of its holders use it";
  const people = using === holders ? all : `${using.toLocaleString("en-GB")} of ${holders.toLocaleString("en-GB")} holders ${using === 1 ? "uses" : "use"} it`;
  return `${seen}${people}${unusedCount === 0 ? "" : `; nobody uses ${firstOf(unused, unusedCount)}`}`;
}

/** Each level with what its holders use of it. */
function UseOfLevels({ use, days }: Pick<ToldProposals, "use" | "days">) {
  if (use.length === 0) return null;
  return (
    <section aria-labelledby="use-of-levels">
      <h2 id="use-of-levels">What holders use of each level</h2>
      <p className={sheet.sub}>
        In the {days} days before the export. The share is of all pairs of a holder and a door: all of it would mean that everybody uses every door. Floors of
        lifts are left out.
      </p>
      <table className={sheet.table}>
        <thead>
          <tr>
            <th scope="col">Level</th>
            <th scope="col" className={sheet.number}>
              holders
            </th>
            <th scope="col" className={sheet.number}>
              doors
            </th>
            <th scope="col" className={sheet.number}>
              share used
            </th>
            <th scope="col">who uses it</th>
          </tr>
        </thead>
        <tbody>
          {use.map((one) => (
            <tr key={one.id}>
              <td>
                <Link href={`/register/level/${encodeURIComponent(one.id)}`}>{one.name}</Link>
              </td>
              <td className={sheet.number}>{one.holders.toLocaleString("en-GB")}</td>
              <td className={sheet.number}>{one.doors.toLocaleString("en-GB")}</td>
              <td className={sheet.number}>{one.isTold ? shareWords(one.usedPairs, one.holders * one.doors) : "–"}</td>
              <td>{wordsOfUse(one)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

/** Steps by which the levels of the present register could be put right, each proved, each a draft. */
export function LevelsView({ snapshot, actions }: { readonly snapshot: number; readonly actions: LevelActions }) {
  const router = useRouter();
  const [found, setFound] = useState<ToldProposals>();
  const [task, setTask] = useState<string>();
  const { busy, refused, run } = useAction();
  const begin = (act: (number: string) => Promise<string | undefined>): void => {
    const number = crypto.randomUUID();
    setTask(number);
    run(() => act(number));
  };
  const propose = (): void =>
    begin(async (number) => {
      const done = await actions.propose(number);
      if (!done) return "Stopped; nothing was changed.";
      setFound(done);
      return undefined;
    });
  const draft = (key: string): void =>
    begin(async (number) => {
      const refusal = await actions.draft(key, number);
      router.refresh();
      if (refusal === "stopped") return "Stopped; look under drafts whether one was begun.";
      return refusal === "not-any-more" ? "The register has changed meanwhile: look for steps again." : undefined;
    });
  const result = !found
    ? "Put levels right"
    : found.proposals.length === 0
      ? "Nothing to put right was found"
      : `${capital(plural(found.proposals.length, "step", "steps"))} would put levels right`;
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />}>
      <Heading
        result={result}
        reference={`Levels of snapshot ${found?.snapshot ?? snapshot}`}
        lead="Equal levels made one, exceptions that recur given as a level, what is given twice or to nobody, doors that nobody used, levels split by use. Each step is proved for everybody before it is shown, and can be tried as a draft. Below stands what holders use of each level."
      />
      <p>
        <Button size="xs" loading={busy} onClick={propose}>
          {found ? "Look again" : "Look for steps"}
        </Button>
      </p>
      {busy && task !== undefined && <TaskProgress at="/register/drafts/task" task={task} name="Levels" />}
      {refused !== undefined && <p role="alert">{refused}</p>}
      {found?.proposals.map((proposal) => (
        <article key={proposal.key} className={classes.proposal}>
          <p className={classes.proposalSentence}>{proposalSentence(proposal)}</p>
          <p className={sheet.sub}>{capital(proposalEffect(proposal))}</p>
          <p className={sheet.links}>
            <Button variant="default" size="compact-xs" disabled={busy} onClick={() => draft(proposal.key)}>
              Try it as a draft
            </Button>
            {proposal.levels
              .filter(({ id, name }) => id !== name)
              .slice(0, 4)
              .map(({ id, name }) => (
                <Link key={id} href={`/register/level/${encodeURIComponent(id)}`}>
                  {name}
                </Link>
              ))}
          </p>
        </article>
      ))}
      {found && found.notTried > 0 && (
        <p className={sheet.sub}>{found.notTried.toLocaleString("en-GB")} more steps were not tried: look again when these are done.</p>
      )}
      {found && <UseOfLevels use={found.use} days={found.days} />}
    </Sheet>
  );
}

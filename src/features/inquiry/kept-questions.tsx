"use client";

import { UnstyledButton } from "@mantine/core";
import Link from "next/link";
import { useRouter } from "next/navigation";
import type { ChangeOfAnswer, ListedQuestion } from "@/operations/inquiry/kept-questions";
import { useFetched } from "@/ui/fetched";
import sheet from "@/ui/sheet.module.css";
import { useAction } from "@/ui/use-action";
import { capital, countWords, listWords, plural } from "../words/numbers";
import { whenShort } from "../words/when";
import classes from "./inquiry.module.css";
import { modesClause } from "./modes";

export interface KeptActions {
  readonly watch: (id: number, watched: boolean) => Promise<boolean>;
  readonly drop: (id: number) => Promise<boolean>;
}

function sentenceOf({ query, read }: ListedQuestion): string {
  if (!read) return query;
  const { inquiry, names } = read;
  const typed = new URLSearchParams(query).get("when");
  const when = typed ?? (inquiry.when.kind === "any" ? "" : whenShort(inquiry.when));
  return `${names.who ?? "Who"} opens ${names.where ?? "what"}${when === "" ? "" : `, ${when}`}${modesClause(inquiry)}?`;
}

const some = ({ count, names }: { readonly count: number; readonly names: readonly string[] }): string =>
  count > names.length ? `${names.join(", ")} and ${count - names.length} more` : listWords(names);

const notCompared: Readonly<Record<Exclude<ChangeOfAnswer["outcome"], "compared">, string>> = {
  "nothing-earlier": "There is no earlier snapshot to compare with.",
  "not-in-both": "One of the last two snapshots does not hold who or where.",
  settled: "It asks about the past, or about one snapshot: no intake changes its answer.",
};

function changeWords(change: ChangeOfAnswer): string {
  if (change.outcome !== "compared") return notCompared[change.outcome];
  const { before, came, went, otherwise } = change;
  const parts = [
    came.count > 0 ? `${some(came)} came` : "",
    went.count > 0 ? `${some(went)} went` : "",
    otherwise > 0 ? `${plural(otherwise, "other is", "others are")} there with more or fewer than before` : "",
  ].filter(Boolean);
  return parts.length === 0 ? `The same as in snapshot ${before}.` : `Since snapshot ${before}: ${parts.join("; ")}.`;
}

function Kept({ question, actions }: { readonly question: ListedQuestion; readonly actions: KeptActions }) {
  const router = useRouter();
  const { busy, refused, run } = useAction();
  const { id, query, watched, read } = question;
  const change = useFetched<ChangeOfAnswer>(watched && read ? `/inquiry/kept?id=${id}` : undefined);
  const act = (done: Promise<boolean>): void =>
    run(async () => {
      const isDone = await done;
      router.refresh();
      return isDone ? undefined : "It is not kept any more.";
    });
  return (
    <li>
      {read ? <Link href={`/inquiry?${query}`}>{sentenceOf(question)}</Link> : <span>{query}: not in the present register</span>}
      <span className={classes.keptActs}>
        {read && (
          <UnstyledButton className={sheet.plain} aria-pressed={watched} disabled={busy} onClick={() => act(actions.watch(id, !watched))}>
            {watched ? "Watched" : "Watch"}
          </UnstyledButton>
        )}
        <UnstyledButton className={sheet.plain} disabled={busy} onClick={() => act(actions.drop(id))}>
          Drop
        </UnstyledButton>
      </span>
      {watched && read && (
        <div className={sheet.sub} role="status">
          {change.state === "there"
            ? changeWords(change.value)
            : change.state === "awaited"
              ? "Looking how the answer changed …"
              : "How the answer changed could not be had."}
        </div>
      )}
      {refused !== undefined && <div role="alert">{refused}</div>}
    </li>
  );
}

/** The questions that somebody keeps; of those that are watched, how the answer changed with the last intake. */
export function KeptQuestions({ kept, actions }: { readonly kept: readonly ListedQuestion[]; readonly actions: KeptActions }) {
  if (kept.length === 0) return null;
  return (
    <section aria-label="Kept questions">
      <h2 className={classes.section}>{kept.length === 1 ? "A question that you keep" : `${capital(countWords(kept.length))} questions that you keep`}</h2>
      <ul className={classes.examples}>
        {kept.map((question) => (
          <Kept key={question.id} question={question} actions={actions} />
        ))}
      </ul>
    </section>
  );
}

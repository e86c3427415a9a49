"use client";

import { Button, TextInput } from "@mantine/core";
import Link from "next/link";
import { useActionState } from "react";
import type { ListKey } from "@/core/facility/document";
import type { Draft } from "@/operations/ports/drafts";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { nothingAsked, QuestionLine } from "../../inquiry/question-line";
import { capital, listWords, plural } from "../../words/numbers";
import { clockText } from "../../words/times";
import { draftHref, editHref } from "./addresses";
import classes from "./drafts.module.css";

const stateWords = { open: "open", dropped: "dropped", closed: "closed" };

interface DraftsProps {
  readonly drafts: readonly Draft[];
  readonly hasRegister: boolean;
  readonly mayEdit: boolean;
  /** What somebody came here to change. */
  readonly change: { readonly list: string; readonly key: string } | undefined;
  readonly begin: (before: string | undefined, form: FormData) => Promise<string | undefined>;
}

/** Drafts, the latest first, and the way to begin one. */
export function DraftsView({ drafts, hasRegister, mayEdit, change, begin }: DraftsProps) {
  const [said, submit, busy] = useActionState(begin, undefined);
  const open = drafts.filter(({ state }) => state === "open").length;
  const target = (draft: Draft): string => (change && draft.state === "open" ? editHref(draft.id, change.list as ListKey, change.key) : draftHref(draft.id));
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />}>
      <Heading
        result={change ? "In which draft?" : drafts.length === 0 ? "No draft yet" : `${capital(plural(open, "draft is", "drafts are"))} open`}
        reference={<Link href="/register">Back to the register</Link>}
        lead="A draft tries changes out on the register without touching it, and shows what they would do to access and to findings. Closed, it changes what Nomade owns, and sends orders to the sources for the rest."
      />
      {mayEdit && hasRegister && !change && (
        <p className={sheet.links}>
          <Link href="/register/levels">Put levels right: steps that are proved, each as a draft</Link>
        </p>
      )}
      {mayEdit && hasRegister && (
        <form action={submit} className={classes.add} style={{ alignItems: "flex-end" }}>
          <TextInput name="name" label="New draft" placeholder="what it is about" w={320} error={said} />
          <input type="hidden" name="next" value={change ? new URLSearchParams(change).toString() : ""} />
          <Button type="submit" loading={busy}>
            {change ? "Begin it and change this" : "Begin it"}
          </Button>
        </form>
      )}
      {!hasRegister && <p>There is no register yet that could be changed. Take in a facility first.</p>}
      {drafts.length > 0 && (
        <table className={sheet.table}>
          <thead>
            <tr>
              <th scope="col">Draft</th>
              <th scope="col">What it is about</th>
              <th scope="col">State</th>
              <th scope="col" className={sheet.number}>
                Changes
              </th>
              <th scope="col">Whose</th>
              <th scope="col">Begun</th>
              <th scope="col">Ended</th>
            </tr>
          </thead>
          <tbody>
            {drafts.map((draft) => (
              <tr key={draft.id}>
                <td>{draft.id}</td>
                <td>
                  <Link href={target(draft)}>{draft.name}</Link>
                </td>
                <td>{stateWords[draft.state]}</td>
                <td className={sheet.number}>{draft.changes.toLocaleString("en-GB")}</td>
                <td>
                  {draft.owner.name}
                  {draft.sharedWith.length > 0 && <span className={sheet.sub}> with {listWords(draft.sharedWith.map(({ name }) => name))}</span>}
                </td>
                <td className={sheet.sub}>{clockText(draft.openedAt)}</td>
                <td className={sheet.sub}>{draft.ended && `${clockText(draft.ended.at)}, ${draft.ended.by}`}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </Sheet>
  );
}

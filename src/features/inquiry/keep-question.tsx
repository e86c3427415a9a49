"use client";

import { UnstyledButton } from "@mantine/core";
import { useState } from "react";
import type { Inquiry } from "@/operations/inquiry/inquiry";
import type { KeepOutcome } from "@/operations/inquiry/kept-questions";
import sheet from "@/ui/sheet.module.css";
import { useAction } from "@/ui/use-action";
import { queryInWords } from "./typed-times";

export type KeepAction = (query: string) => Promise<KeepOutcome>;

const refusals: Readonly<Record<Exclude<KeepOutcome, "kept" | "kept-already">, string>> = {
  full: "You keep a hundred questions: drop one on the first page of Inquiry.",
  "on-a-draft": "A question on a draft is not kept: the draft will be over.",
  "not-understood": "It could not be kept: it is not understood in the present register.",
};

/** Keeps the question at hand, with its time in the words in which it was typed, so that "nights" stays the nights to come. */
export function KeepQuestion({ inquiry, keep }: { readonly inquiry: Inquiry; readonly keep: KeepAction }) {
  const { busy, refused, run } = useAction();
  const [isKept, setKept] = useState(false);
  const onKeep = (): void =>
    run(async () => {
      const outcome = await keep(queryInWords(inquiry));
      if (outcome !== "kept" && outcome !== "kept-already") return refusals[outcome];
      setKept(true);
      return undefined;
    });
  return (
    <>
      {isKept ? (
        <span role="status">Kept</span>
      ) : (
        <UnstyledButton className={sheet.plain} disabled={busy} onClick={onKeep}>
          Keep
        </UnstyledButton>
      )}
      {refused !== undefined && <span role="alert">{refused}</span>}
    </>
  );
}

"use client";

import { Button, Textarea, UnstyledButton } from "@mantine/core";
import { useState } from "react";
import type { ShownLine } from "@/operations/certification/show-docket";
import { useAction } from "@/ui/use-action";
import sheet from "@/ui/sheet.module.css";
import type { DocketWords } from "../words/docket/docket-words";
import { clockText } from "../words/times";
import classes from "./docket.module.css";

/** What the certifier and the reviewer say to each other about a line. */
export function LineComments({
  shown,
  words,
  comment,
}: {
  readonly shown: ShownLine;
  readonly words: DocketWords;
  readonly comment: (line: number, text: string) => Promise<string | undefined>;
}) {
  const [isOpen, setOpen] = useState(false);
  const [text, setText] = useState("");
  const { busy, refused, run } = useAction();
  const { comments } = shown;
  return (
    <>
      <UnstyledButton className={classes.aside} aria-expanded={isOpen} onClick={() => setOpen(!isOpen)}>
        {words.comments(comments.length)}
      </UnstyledButton>
      {isOpen && (
        <div className={classes.comments}>
          {comments.map(({ by, at, words: said }, i) => (
            <p key={i}>
              <b>{by}</b> <span className={sheet.sub}>{clockText(at)}</span>
              <br />
              {said}
            </p>
          ))}
          <Textarea aria-label={words.comment} value={text} onChange={(event) => setText(event.currentTarget.value)} autosize maxLength={2000} />
          <Button
            variant="default"
            size="xs"
            mt={6}
            loading={busy}
            disabled={text.trim() === ""}
            onClick={() =>
              run(async () => {
                const why = await comment(shown.id, text);
                if (why === undefined) setText("");
                return why;
              })
            }
          >
            {words.send}
          </Button>
          {refused !== undefined && (
            <p role="alert" className={classes.refused}>
              {refused}
            </p>
          )}
        </div>
      )}
    </>
  );
}

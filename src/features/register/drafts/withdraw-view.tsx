"use client";

import { Button } from "@mantine/core";
import type { AskedWithdrawal, OfferedWithdrawal } from "@/operations/register/drafts/draft-withdrawal";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { useAction } from "@/ui/use-action";
import { nothingAsked, QuestionLine } from "../../inquiry/question-line";
import { changesWords, withdrawalWords } from "../../words/changes";

interface WithdrawViewProps {
  readonly asked: AskedWithdrawal;
  readonly offered: OfferedWithdrawal;
  readonly begin: (asked: AskedWithdrawal) => Promise<string>;
}

/** What taking something away would change and do, and a button that puts it into a draft. */
export function WithdrawView({ asked, offered: { title, withdrawal }, begin }: WithdrawViewProps) {
  const { busy, refused, run } = useAction();
  const { changes, alternative, names } = withdrawal;
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />}>
      <Heading result={title} lead="Nothing is changed yet: it becomes a draft, to be looked at, altered and closed like any other." />
      {changes.length === 0 ? (
        <p>{withdrawalWords(withdrawal)}</p>
      ) : (
        <>
          <div className={sheet.must} style={{ maxWidth: 640 }}>
            {withdrawalWords(withdrawal)}
            {alternative && <> Or, with fewer blocks: {changesWords(alternative, names)}.</>}
          </div>
          <Button mt="md" loading={busy} onClick={() => run(() => begin(asked))}>
            Begin this draft
          </Button>
        </>
      )}
      {refused !== undefined && (
        <p role="alert" className={sheet.grave}>
          {refused}
        </p>
      )}
    </Sheet>
  );
}

import type { ReactNode } from "react";
import Link from "next/link";
import type { DraftToAsk } from "@/operations/register/drafts/open-with-draft";
import { Heading, Sheet } from "@/ui/sheet";
import { nothingAsked, QuestionLine } from "./question-line";

/** A draft with which the register would not hold together: nothing can be said of what it would open. */
export function ImpossibleDraftView({ draft, reference }: { readonly draft: DraftToAsk; readonly reference: ReactNode }) {
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />}>
      <Heading
        result="With this draft the register would not hold together"
        reference={reference}
        lead="Who could open what with it cannot be told until what is wrong with it is mended."
      />
      <p>
        <Link href={`/register/drafts/${draft.id}`}>What is wrong with {draft.name}</Link>
      </p>
    </Sheet>
  );
}

import type { ReactNode } from "react";
import { Heading, Sheet } from "@/ui/sheet";
import type { AskedQuestion } from "./question-line";
import { QuestionLine } from "./question-line";

/** In place of an answer that is being worked out: what was asked stands already, and can be asked otherwise. */
export function AwaitedView({ asked, reference }: { readonly asked: AskedQuestion; readonly reference: ReactNode }) {
  return (
    <Sheet question={<QuestionLine asked={asked} />} margin={<span />}>
      <Heading result="Working it out …" reference={reference} lead="" />
    </Sheet>
  );
}

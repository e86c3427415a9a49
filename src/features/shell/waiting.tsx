import { Heading, Sheet } from "@/ui/sheet";
import { nothingAsked, QuestionLine } from "../inquiry/question-line";

/** While a page is worked out that takes longer than a moment. */
export function Waiting({ words }: { readonly words: string }) {
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />}>
      <div role="status">
        <Heading result={`${words} …`} lead="This is done beside the server’s other work; leaving the page does no harm." />
      </div>
    </Sheet>
  );
}

import Link from "next/link";
import { Heading, Sheet } from "@/ui/sheet";
import { nothingAsked, QuestionLine } from "../inquiry/question-line";

/** Before the first intake there is nothing to ask about. */
export function NoRegister() {
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />}>
      <Heading result="The register is empty" lead="Nothing has been taken in yet, so there is nothing to ask about." />
      <Link href="/intake">Take in a facility document</Link>
    </Sheet>
  );
}

import { whenFull } from "../words/when";
import classes from "./inquiry.module.css";
import { modesClause } from "./modes";
import type { AskedQuestion } from "./question-line";

/** The question in words, on paper alone: on the screen it stands on top. */
export function PrintedQuestion({ asked: { inquiry, names } }: { readonly asked: AskedQuestion }) {
  return (
    <p className={classes.printed}>
      {names.who ?? "Who"} opens {names.where ?? "what"},{" "}
      {inquiry.when.kind === "any" ? "at any time of the 13 months from the export" : whenFull(inquiry.when)}
      {modesClause(inquiry)}?
    </p>
  );
}

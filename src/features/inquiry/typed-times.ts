import { writeWhen } from "@/core/questions/when-address";
import type { When } from "@/core/questions/when";
import type { Inquiry } from "@/operations/inquiry/inquiry";
import { questionQuery } from "./address";

const keyOf = (written: string): string => `nomade.when.${written}`;

/** Remembers, for as long as the window is open, in which words a time was typed: its address holds the dates that they meant. */
export function rememberTyped(when: When, typed: string): void {
  const written = writeWhen(when);
  if (written === undefined) return;
  try {
    window.sessionStorage.setItem(keyOf(written), typed);
  } catch {
    // Where nothing can be kept, the dates are what is known.
  }
}

/** The query of a question with its time in the words in which it was typed; with dates where these are not known any more. */
export function queryInWords(inquiry: Inquiry): string {
  const query = new URLSearchParams(questionQuery(inquiry));
  const written = query.get("when");
  if (written === null) return query.toString();
  try {
    const typed = window.sessionStorage.getItem(keyOf(written));
    if (typed !== null) query.set("when", typed);
  } catch {
    // As above.
  }
  return query.toString();
}

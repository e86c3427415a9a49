import type { Answer, Inquiry } from "@/operations/inquiry/inquiry";
import { capital, countWords, plural } from "../words/numbers";
import { offsetText } from "../words/times";
import { whenShort } from "../words/when";

const timeClause = ({ when }: Inquiry): string => {
  if (when.kind === "any" || when.kind === "moment") return "";
  if (when.kind === "now") return " now";
  return `, ${whenShort(when)}`;
};

/** The result of a question in a sentence. */
export function resultWords(inquiry: Inquiry, { total, holderless, asked, free }: Answer): string {
  if (inquiry.who) {
    const name = asked.who?.name ?? "Nobody by this id";
    if (!asked.who) return "There is nobody by this id in the snapshot";
    return total === 0 ? `${name} opens no door${timeClause(inquiry)}` : `${name} opens ${plural(total, "door", "doors")}${timeClause(inquiry)}`;
  }
  const cards =
    holderless === 0 ? "" : `, ${holderless === 1 ? "one of them a card without a holder" : `${countWords(holderless)} of them cards without a holder`}`;
  const anybody = free && inquiry.when.kind === "any" ? "; at times it stands open to everybody" : "";
  return total === 0 ? `Nobody can${timeClause(inquiry)}${anybody}` : `${capital(countWords(total))} can${timeClause(inquiry)}${cards}${anybody}`;
}

/** What else there is to say below the result. */
export function leadWords(inquiry: Inquiry, answer: Answer): string {
  const asleep = answer.asleepTotal === 0 ? "" : `${capital(countWords(answer.asleepTotal))} more would if their cards were made active, listed apart below.`;
  const free = inquiry.where?.kind !== "door" ? "" : answer.free ? `Unlocked for everybody: ${answer.free.words}.` : "Never unlocked for everybody.";
  return [asleep, free].filter(Boolean).join(" ");
}

/** What the times are read by. */
export function clockWords(answer: Answer): string {
  if (answer.zones.length === 0) return "";
  if (answer.zones.length > 1) return "each time on its own site's clock";
  const zone = answer.zones[0];
  return zone ? `times in ${zone.name}, ${offsetText(zone.offset)}` : "";
}

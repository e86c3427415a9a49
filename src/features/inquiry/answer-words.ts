import type { Answer, Inquiry, RestsOnUses } from "@/operations/inquiry/inquiry";
import { capital, countWords, plural } from "../words/numbers";
import { offsetText } from "../words/times";
import { whenShort } from "../words/when";

/** When, as the end of a sentence. */
export const timeClause = ({ when }: Inquiry): string => {
  if (when.kind === "any" || when.kind === "moment") return "";
  if (when.kind === "now") return " now";
  return `, ${whenShort(when)}`;
};

const isOne = ({ who }: Inquiry): boolean => who?.kind === "cardholder" || who?.kind === "credential";

/** What doors are opened, in a sentence. */
function doorsWords(inquiry: Inquiry, { total, names, askedDoors, askedHolders }: Answer): string {
  const time = timeClause(inquiry);
  const among = inquiry.where && inquiry.where.kind !== "anywhere" ? ` of the ${countWords(askedDoors)} of ${names.where ?? "these"}` : "";
  const doors = total === 0 ? "no door" : plural(total, "door", "doors");
  if (isOne(inquiry)) return `${names.who ?? ""} opens ${doors}${among}${time}`;
  if (inquiry.who && inquiry.who.kind !== "everybody")
    return `${names.who ?? ""}: ${plural(askedHolders, "holder opens", "holders open")} ${doors}${among} between them${time}`;
  return `${capital(doors)}${among} ${total === 1 ? "opens" : "open"} for somebody${time}`;
}

/** Who opens, in a sentence. */
function peopleWords(inquiry: Inquiry, { total, holderless, names, askedHolders, free }: Answer): string {
  const time = timeClause(inquiry);
  const cards =
    holderless === 0 ? "" : `, ${holderless === 1 ? "one of them a card without a holder" : `${countWords(holderless)} of them cards without a holder`}`;
  const anybody = free && inquiry.when.kind === "any" ? "; at times it stands open to everybody" : "";
  const what = !inquiry.where || inquiry.where.kind === "anywhere" ? " open something" : "";
  const among = inquiry.who && inquiry.who.kind !== "everybody" ? ` of the ${countWords(askedHolders)} (${names.who ?? ""})` : "";
  if (total === 0) return `${among === "" ? "Nobody" : `None${among}`} can${what}${time}${anybody}`;
  return `${capital(countWords(total))}${among} can${what}${time}${cards}${anybody}`;
}

/** The result of a question in a sentence. */
export const resultWords = (inquiry: Inquiry, answer: Answer): string => (answer.by === "doors" ? doorsWords(inquiry, answer) : peopleWords(inquiry, answer));

/** What else there is to say below the result. */
export function leadWords(inquiry: Inquiry, answer: Answer): string {
  const more = inquiry.asIfLive ? "would open more" : "more would";
  const asleep = answer.asleepTotal === 0 ? "" : `${capital(countWords(answer.asleepTotal))} ${more} if cards were made active, listed apart below.`;
  const none = inquiry.asIfLive && answer.asleepTotal === 0 ? "Nothing more would open if every card were live." : "";
  const free = inquiry.where?.kind !== "door" ? "" : answer.free ? `Unlocked for everybody: ${answer.free.words}.` : "Never unlocked for everybody.";
  const members =
    inquiry.who?.kind === "group"
      ? "Members by department or membership, of the groups below it, too; memberships that are over do not count."
      : inquiry.who?.kind === "level" || inquiry.who?.kind === "bundle"
        ? "Whoever is given it, in whatever way; the doors are all that they open, by whatever path."
        : "";
  return [asleep, none, free, members, usesWords(answer.uses)].filter(Boolean).join(" ");
}

/** What of an answer rests on uses: those since the export, and that there are none from now on. */
export const usesWords = ({ prolonged, endsUnused }: RestsOnUses): string =>
  [
    prolonged === 0 ? "" : `By their use since the export, as events tell it, ${plural(prolonged, "card lasts", "cards last")} longer than the export says.`,
    endsUnused ? "Some of their cards end by not being used: what is said of later holds if they are not used again." : "",
  ]
    .filter(Boolean)
    .join(" ");

/** What the times are read by. */
export function clockWords(answer: Answer): string {
  if (answer.zones.length === 0) return "";
  if (answer.zones.length > 1) return "each time on its own site's clock";
  const zone = answer.zones[0];
  return zone ? `times in ${zone.name}, ${offsetText(zone.offset)}` : "";
}

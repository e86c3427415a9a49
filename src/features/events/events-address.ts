import { isCardKey } from "@/core/events/told-card";
import type { CivilDay } from "@/core/time/civil-day";
import { formatCivilDay, parseCivilDay } from "@/core/time/civil-day";
import type { AskedEvents } from "@/operations/events/list-events";

type Query = Readonly<Record<string, string | readonly string[] | undefined>>;

const groupings = ["door", "person", "card", "hour"] as const;
const aboutKinds = ["door", "cardholder", "credential"] as const;
const longestText = 200;

const textIn = (value: unknown): string | undefined => (typeof value === "string" ? value : undefined);
const dateIn = (value: unknown): CivilDay | undefined => parseCivilDay(textIn(value) ?? "");

function aboutIn(value: unknown): AskedEvents["about"] {
  const text = textIn(value) ?? "";
  const kind = aboutKinds.find((one) => text.startsWith(`${one}:`));
  return kind && { kind, id: text.slice(kind.length + 1) };
}

function placeIn(value: unknown): AskedEvents["behind"] {
  const [second, file, line, ...more] = (textIn(value) ?? "").split(".").map(Number);
  const isPlace = [second, file, line].every((part) => Number.isSafeInteger(part)) && more.length === 0;
  return isPlace && second !== undefined && file !== undefined && line !== undefined ? { second, file, line } : undefined;
}

/** A longer text is not searched for: half of it would find something else. */
function textOfSearch(value: unknown): string | undefined {
  const text = textIn(value);
  return text === undefined || text.length > longestText ? undefined : text;
}

/** What events tell of one card, as `cardKey` writes it. */
function cardIn(value: unknown): string | undefined {
  const text = textIn(value);
  return text !== undefined && isCardKey(text) ? text : undefined;
}

/** What of an address is understood; the rest is named, so that no answer is taken for that to another question. */
export function eventsOfAddress(query: Query): { readonly asked: AskedEvents; readonly notUnderstood: readonly string[] } {
  const result = textIn(query.result);
  const read = {
    text: textOfSearch(query.text),
    about: aboutIn(query.about),
    card: cardIn(query.card),
    result: result === "granted" ? true : result === "refused" ? false : undefined,
    reason: textIn(query.reason),
    from: dateIn(query.from),
    to: dateIn(query.to),
    by: groupings.find((one) => one === query.by),
    behind: placeIn(query.behind),
  };
  const { result: granted, ...asked } = read;
  const known: Readonly<Record<string, unknown>> = read;
  const notUnderstood = Object.entries(query).flatMap(([name, value]) =>
    value === undefined || (Object.hasOwn(known, name) && known[name] !== undefined) ? [] : [`${name}=${typeof value === "string" ? value : value.join(",")}`],
  );
  return { asked: { ...asked, text: asked.text ?? "", granted }, notUnderstood };
}

/** Where events are listed. */
export function eventsHref(asked: Partial<AskedEvents>): string {
  const { text, about, card, granted, reason, from, to, by, behind } = asked;
  const query = new URLSearchParams();
  const put = (name: string, value: string | undefined): void => {
    if (value !== undefined) query.set(name, value);
  };
  put("text", text === "" ? undefined : text);
  put("about", about && `${about.kind}:${about.id}`);
  put("card", card);
  put("result", granted === undefined ? undefined : granted ? "granted" : "refused");
  put("reason", reason);
  put("from", from === undefined ? undefined : formatCivilDay(from));
  put("to", to === undefined ? undefined : formatCivilDay(to));
  put("by", by);
  put("behind", behind && `${behind.second}.${behind.file}.${behind.line}`);
  const written = query.toString();
  return written === "" ? "/register/events" : `/register/events?${written}`;
}

import { isCardKey } from "@/core/events/told-card";
import type { CivilDay } from "@/core/time/civil-day";
import { formatCivilDay, parseCivilDay } from "@/core/time/civil-day";
import type { AskedEvents } from "@/operations/events/list-events";

type Query = Readonly<Record<string, string | readonly string[] | undefined>>;

const groupings = ["door", "person", "card", "hour"] as const;
const aboutKinds = ["door", "cardholder", "credential"] as const;
const longestText = 200;

const textIn = (value: unknown): string | undefined => (typeof value === "string" ? value : undefined);

/** Columns of the list besides when each event was: what they are called, and which are shown unless others are chosen. */
export const eventColumns = {
  person: { title: "Who", isUsual: true },
  card: { title: "Card", isUsual: false },
  door: { title: "Door", isUsual: true },
  result: { title: "Result", isUsual: true },
  reason: { title: "Reason given", isUsual: false },
  record: { title: "The record", isUsual: true },
  snapshot: { title: "Held against", isUsual: false },
  line: { title: "File and line", isUsual: false },
} as const;
export type EventColumn = keyof typeof eventColumns;

const isColumn = (text: string): text is EventColumn => Object.hasOwn(eventColumns, text);
const allColumns = Object.keys(eventColumns).filter(isColumn);
export const usualColumns: readonly EventColumn[] = allColumns.filter((key) => eventColumns[key].isUsual);

/** Columns that an address names, in the order of the table; undefined where any of them is none. */
function columnsIn(value: unknown): readonly EventColumn[] | undefined {
  const named = textIn(value)?.split(".");
  return named?.every(isColumn) ? allColumns.filter((key) => named.includes(key)) : undefined;
}

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
export function eventsOfAddress(query: Query): {
  readonly asked: AskedEvents;
  readonly columns: readonly EventColumn[];
  readonly notUnderstood: readonly string[];
} {
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
    columns: columnsIn(query.columns),
  };
  const { result: granted, columns = usualColumns, ...asked } = read;
  const known: Readonly<Record<string, unknown>> = read;
  const notUnderstood = Object.entries(query).flatMap(([name, value]) =>
    value === undefined || (Object.hasOwn(known, name) && known[name] !== undefined) ? [] : [`${name}=${typeof value === "string" ? value : value.join(",")}`],
  );
  return { asked: { ...asked, text: asked.text ?? "", granted }, columns, notUnderstood };
}

/** Where events are listed, with the usual columns unless others are given. */
export function eventsHref(asked: Partial<AskedEvents>, columns: readonly EventColumn[] = usualColumns): string {
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
  put("columns", columns.join() === usualColumns.join() || columns.length === 0 ? undefined : columns.join("."));
  const written = query.toString();
  return written === "" ? "/register/events" : `/register/events?${written}`;
}

import type { Result } from "../kernel/result";
import { failure, success } from "../kernel/result";
import { addDays, civilDay, yearMonthDay } from "../time/civil-day";
import type { CivilDay } from "../time/civil-day";
import { monthsAhead } from "../time/horizon";
import { localTime } from "../time/zone";
import { yearAt } from "./when-dates";
import { combinePieces } from "./combine-pieces";
import { longestSpanDays } from "./when-address";
import type { WhenContext, WhenSite } from "./when-context";
import { holidayPiece } from "./when-names";
import type { PieceContext, SaidPiece, WhenRefusal } from "./when-piece";
import { isWord } from "./when-piece";
import { pieceAt } from "./when-pieces";
import type { Token } from "./when-tokens";
import { tokensOf } from "./when-tokens";
import type { SiteWhen, When } from "./when";

/** The words that stand for a name: its tokens as they would be typed. */
const wordsOf = (name: string): readonly string[] => (tokensOf(name) ?? []).map(({ text }) => text);

function pieceContext({ sites, parts }: WhenContext, today: CivilDay): PieceContext {
  const dayTypes = new Set(["public"]);
  const names = new Set<string>();
  for (const { calendar } of sites)
    for (const { name, dayType } of calendar?.entries ?? []) {
      dayTypes.add(dayType);
      names.add(name);
    }
  return {
    today,
    parts,
    dayTypes: [...dayTypes].map((dayType) => [wordsOf(dayType), dayType] as const),
    holidays: [...names].map((name) => [wordsOf(name), name] as const),
  };
}

/** A holiday is looked for this far ahead, or back. */
const holidayDays = 800;

/** The date of a holiday at a site: the first from a date on, in a direction; undefined where its calendar has none. */
function dateOfHoliday({ calendar }: WhenSite, name: string, from: CivilDay, step: 1 | -1, until?: CivilDay): CivilDay | undefined {
  if (!calendar) return undefined;
  for (let i = 0, date = from; i < holidayDays && (until === undefined || date <= until); i++, date = addDays(date, step))
    if (calendar.read(date)?.winner.name === name) return date;
  return undefined;
}

interface NamedHoliday {
  readonly name: string;
  readonly which: string | undefined;
  readonly year: number | undefined;
  readonly used: number;
}

function namedHoliday(tokens: readonly Token[], at: number, context: PieceContext): NamedHoliday | undefined {
  const which = isWord(tokens[at], "next", "last", "this") ? tokens[at]?.text : undefined;
  const start = at + (which === undefined ? 0 : 1);
  const found = holidayPiece(tokens, start, context);
  if (!found) return undefined;
  // A day that is called "Monday" or "Weekend" must not hide what everybody means by that.
  if (found.used === 1 && pieceAt(tokens, start, { ...context, dayTypes: [] })) return undefined;
  const year = yearAt(tokens, start + found.used);
  return { name: found.name, which, year, used: start + found.used + (year === undefined ? 0 : 1) - at };
}

/** The date that a named holiday has at a site. */
function holidayAt(site: WhenSite, { name, which, year }: NamedHoliday, today: CivilDay): CivilDay | undefined {
  if (year !== undefined) return dateOfHoliday(site, name, civilDay(year, 1, 1), 1, civilDay(year, 12, 31));
  if (which === "last") return dateOfHoliday(site, name, addDays(today, -1), -1);
  return dateOfHoliday(site, name, which === "next" ? addDays(today, 1) : today, 1);
}

const noMeaning = (text: string): WhenRefusal => ({ understood: [], notUnderstood: [text] });

/** The meaning of tokens at a site; undefined where a holiday that they name does not come there. */
function readAtSite(tokens: readonly Token[], site: WhenSite, context: WhenContext): Result<SiteWhen | undefined, WhenRefusal> {
  const today = localTime(site.zone, context.now).date;
  const pieces = pieceContext(context, today);
  const said: SaidPiece[] = [];
  const notUnderstood: string[] = [];
  let comes = true;
  for (let at = 0; at < tokens.length;) {
    const textOf = (used: number): string =>
      tokens
        .slice(at, at + used)
        .map(({ text }) => text)
        .join(" ");
    const holiday = namedHoliday(tokens, at, pieces);
    if (holiday) {
      const date = holidayAt(site, holiday, today);
      comes &&= date !== undefined;
      said.push({ piece: { says: "date", date: date ?? today, holiday: holiday.name }, text: textOf(holiday.used) });
      at += holiday.used;
      continue;
    }
    const found = pieceAt(tokens, at, pieces);
    if (found && "obstacle" in found) return failure({ understood: said.map(({ text }) => text), notUnderstood, obstacle: found.obstacle });
    if (!found) notUnderstood.push(textOf(1));
    else if (found.piece.says !== "nothing") said.push({ piece: found.piece, text: textOf(found.used) });
    at += found?.used ?? 1;
  }
  if (notUnderstood.length > 0 || said.length === 0) return failure({ understood: said.map(({ text }) => text), notUnderstood });
  const combined = combinePieces(said, { today, within: { kind: "instants", from: context.now, to: monthsAhead(context.now, context.zone) } });
  if (!combined.ok) return combined;
  return success(comes ? combined.value : undefined);
}

const isTooLong = (when: SiteWhen): boolean => when.kind === "dates" && when.to - when.from >= longestSpanDays;
const isWritten = (date: CivilDay): boolean => yearMonthDay(date).year >= 1 && yearMonthDay(date).year <= 9999;

function isOutOfYears(when: SiteWhen): boolean {
  if (when.kind === "dates") return !isWritten(when.from) || !isWritten(when.to);
  if (when.kind === "moment") return !isWritten(when.at.date);
  return when.kind === "span" && !(isWritten(when.from.date) && isWritten(when.to.date));
}

/**
 * The one meaning of a typed time, or why it has none. It is read whole or not at all, with the dates resolved: words such as "today" are each
 * site's own. What can be read in two ways is refused with both readings. Source: `product.md`, "Inquiry".
 */
export function readWhen(typed: string, context: WhenContext): Result<When, WhenRefusal> {
  const tokens = tokensOf(typed);
  if (!tokens) return failure(noMeaning(`${[...typed].slice(0, 40).join("")} …`));
  if (tokens.length === 0) return success({ kind: "any" });
  const sites = context.sites.length > 0 ? context.sites : [{ id: "", zone: context.zone, calendar: undefined }];
  const read: { readonly site: string; readonly when: SiteWhen | undefined }[] = [];
  for (const site of sites) {
    const meant = readAtSite(tokens, site, context);
    if (!meant.ok) return meant;
    if (meant.value && (isTooLong(meant.value) || isOutOfYears(meant.value))) return failure(noMeaning(typed.trim()));
    read.push({ site: site.id, when: meant.value });
  }
  const meant = read.flatMap(({ site, when }) => (when ? [{ site, when }] : []));
  const [first] = meant;
  // A holiday of which no calendar has a date in the time that is looked at.
  if (!first) return failure(noMeaning(typed.trim()));
  const isOne = meant.length === read.length && meant.every(({ when }) => JSON.stringify(when) === JSON.stringify(first.when));
  return success(isOne ? first.when : { kind: "by-site", sites: meant });
}

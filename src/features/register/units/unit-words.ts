import { unreachable } from "@/core/kernel/invariant";
import type { UnitLimits } from "@/core/units/unit-memory";
import type { Shortfall } from "@/core/units/within-limits";
import type { UnitLine, UnitStanding } from "@/operations/units/show-units";
import { countWords, plural } from "../../words/numbers";
import { clockText } from "../../words/times";

export const unitHref = (id: string): string => `/register/units/${encodeURIComponent(id)}`;

/** How a unit stands, as what is said of it. */
export function standingWords(standing: UnitStanding): string {
  switch (standing) {
    case "silent":
      return "does not answer";
    case "other-version":
      return "speaks another version";
    case "free-otherwise":
      return "stands open otherwise than the register says";
    case "opens-more":
      return "opens more than the register says";
    case "opens-less":
      return "opens less than the register says";
    case "asks-otherwise":
      return "asks for something else at a door";
    case "updating":
      return "is being sent what it lacks";
    case "not-compared":
      return "is not held against the register yet";
    case "clock-off":
      return "has a wrong clock";
    case "not-heard":
      return "has never answered";
    case "not-known":
      return "is not known here";
    case "in-step":
      return "holds what the register says";
    default:
      return unreachable(standing);
  }
}

/** Seconds that a clock is off: "67 minutes ahead". */
export function clockWords(seconds: number): string {
  const off = Math.abs(seconds);
  const [count, one, many] =
    off < 120 ? [off, "second", "seconds"] : off < 7200 ? [Math.round(off / 60), "minute", "minutes"] : [Math.round(off / 3600), "hour", "hours"];
  return `${plural(count, one, many)} ${seconds > 0 ? "ahead" : "behind"}`;
}

/** What more there is to say of a unit in the list, in a few words. */
export function detailOf({ checked, sending, clockOff, problem, answeredAt, standing, lockdown }: UnitLine): string {
  const said = [
    ...(checked && checked.free > 0 ? [`at ${plural(checked.free, "door", "doors")}, for anybody`] : []),
    ...(checked && checked.more > 0 ? [`opens for ${plural(checked.more, "card", "cards")} more`] : []),
    ...(checked && checked.less > 0 ? [`does not open for ${plural(checked.less, "card", "cards")}`] : []),
    ...(checked && checked.entry > 0 ? [`asks otherwise at ${plural(checked.entry, "door", "doors")}`] : []),
    ...(checked && checked.shortfalls.length > 0 ? ["has too little room"] : []),
    ...(sending ? [`${Math.floor((100 * sending.done) / Math.max(1, sending.of))} % sent`] : []),
    ...(clockOff !== undefined && Math.abs(clockOff) > clockShown ? [`clock ${clockWords(clockOff)}`] : []),
    ...(lockdown ? ["in a lockdown"] : []),
    ...(problem !== undefined && standing !== "silent" ? [problem.replace(/\.$/, "")] : []),
    ...(standing === "silent" && answeredAt !== undefined ? [`last heard on ${clockText(answeredAt)}`] : []),
  ];
  return said.join("; ");
}

/** A clock that is off by fewer seconds is right enough to say nothing of. */
const clockShown = 30;

const limitNames: Readonly<Record<keyof UnitLimits, readonly [one: string, many: string]>> = {
  cards: ["card", "cards"],
  sets: ["weekly set", "weekly sets"],
  rangesPerRow: ["range a day", "ranges a day"],
  kinds: ["kind of date", "kinds of dates"],
  dates: ["date ahead", "dates ahead"],
  rightsPerCard: ["right a card", "rights a card"],
  windows: ["bound", "bounds"],
};

/** What a unit has room for, and how much of it is taken. */
export function roomWords(limit: Exclude<keyof UnitLimits, "windows">, taken: number | undefined, most: number | undefined): string {
  const name = limitNames[limit][most === 1 ? 0 : 1];
  const of = most === undefined ? "any number of" : most.toLocaleString("en-GB");
  return taken === undefined ? `${of} ${name}` : `${taken.toLocaleString("en-GB")} of ${of} ${name}`;
}

/** What the register asks of a unit beyond its room, as a sentence. */
export function shortfallWords({ limit, wanted, most, without }: Shortfall): string {
  switch (limit) {
    case "cards":
      return `It has room for ${countWords(most ?? 0)} cards and would need ${countWords(wanted)}: ${plural(without.length, "card is", "cards are")} not held.`;
    case "sets":
      return `It has room for ${countWords(most ?? 0)} weekly sets and would need ${countWords(wanted)}: others stand in their place.`;
    case "rangesPerRow":
      return `It holds ${plural(most ?? 0, "range", "ranges")} a day at most, where ${countWords(wanted)} would be needed.`;
    case "kinds":
      return `It knows ${plural(most ?? 0, "kind of date", "kinds of dates")}, where ${countWords(wanted)} would be needed: ${plural(without.length, "date is", "dates are")} held otherwise.`;
    case "dates":
      return `It holds ${plural(most ?? 0, "date", "dates")} ahead, where ${countWords(wanted)} would be needed: the rest count as ordinary ones until they are sent.`;
    case "rightsPerCard":
      return `It holds ${plural(most ?? 0, "right", "rights")} a card, where up to ${countWords(wanted)} would be needed: ${plural(without.length, "card has", "cards have")} fewer.`;
    case "windows":
      return `It cannot hold ${plural(wanted, "bound", "bounds")} to the minute.`;
    default:
      return unreachable(limit);
  }
}

/** What a list of units comes to. */
export function unitsResult(units: readonly UnitLine[]): string {
  const wrong = units.filter(({ standing }) => standing !== "in-step").length;
  if (units.length === 0) return "No unit is named by a door";
  if (wrong === 0) return units.length === 1 ? "The one unit is in step" : `All ${countWords(units.length)} units are in step`;
  return `${countWords(wrong)} of ${plural(units.length, "unit", "units")} ${wrong === 1 ? "needs" : "need"} to be looked at`;
}

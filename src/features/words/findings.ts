import type { BeyondCount } from "@/core/findings/changed-findings";
import { spokenKey } from "@/core/findings/about";
import type { CannotTell, FactsOf, FindingFacts, RiskTerm, RuleKey } from "@/core/findings/finding";
import type { SubjectKind } from "@/core/findings/flag";
import { unreachable } from "@/core/kernel/invariant";
import { isReason } from "@/core/paths/verdict";
import { formatClock, parseCivilDay, yearMonthDay } from "@/core/time/civil-day";
import { minuteDown, parseInstant } from "@/core/time/instant";
import { lastDateText, localDateText, localTime, zoneOf } from "@/core/time/zone";
import { capital, countWords, hoursWords, listWords, plural, someWords, timesWords } from "./numbers";
import { reasonWords } from "./reasons";
import { dateText } from "./times";
import { ruleWords } from "./rules/rule-words";

export const titleOfRule = (rule: RuleKey): string => ruleWords[rule].title;

/** Of a rule that finds more than is looked through one by one: how much, at present and after a change. */
export const beyondWords = ({ rule, was, is }: BeyondCount): string =>
  `“${titleOfRule(rule)}” finds ${was.toLocaleString("en-GB")} at present and would find ${is.toLocaleString("en-GB")}: too many to say which come and go.`;

/** What a finding is told with: the zone in which its dates are read, and what is called how; an id where it has no name any more. */
export interface FindingNames {
  readonly timeZone: string;
  readonly name: (kind: SubjectKind, id: string) => string;
}

export const namesFrom = (names: Readonly<Record<string, string>>, timeZone: string): FindingNames => ({
  timeZone,
  name: (kind, id) => names[spokenKey({ kind, id })] ?? id,
});

/** A local date as people write it; one of a year that would not be written in full, and what is none, stays as it is. */
export function dayText(written: string): string {
  const date = parseCivilDay(written);
  return date === undefined || yearMonthDay(date).year < 1000 ? written : dateText(date);
}

/** More names than this are counted in a sentence. */
const named = 3;

/** Turns what a proof holds into words. */
class Say {
  constructor(private readonly names: FindingNames) {}

  /** The local date of a minute. */
  date(minute: string): string {
    const instant = parseInstant(minute);
    return instant ? dayText(localDateText(zoneOf(this.names.timeZone), minuteDown(instant))) : minute;
  }

  /** The last local date before a minute at which something ends. */
  lastDate(minute: string): string {
    const instant = parseInstant(minute);
    return instant ? dayText(lastDateText(zoneOf(this.names.timeZone), minuteDown(instant))) : minute;
  }

  /** A minute or second on the facility's clock. */
  moment(written: string): string {
    const instant = parseInstant(written);
    if (!instant) return written;
    const { minuteOfDay } = localTime(zoneOf(this.names.timeZone), minuteDown(instant));
    return `${this.date(written)} at ${formatClock(minuteOfDay)}`;
  }

  one(kind: SubjectKind, id: string | undefined): string {
    return id === undefined ? "" : this.names.name(kind, id);
  }

  some(kind: SubjectKind, ids: readonly string[]): string {
    return someWords(
      ids.map((id) => this.one(kind, id)),
      named,
    );
  }

  doors(ids: readonly string[]): string {
    return ids.length === 0 ? "no door" : this.some("door", ids);
  }
}

/** A minute on the clock of a door's site, as proofs have it. */
const wallClock = (there: string): string => `${dayText(there.slice(0, -6))} at ${there.slice(-5)} there`;

/** What somebody called something, as it stands in a sentence. */
const quoted = (name: string): string => (name.trim() === "" ? "one without a name" : `“${name}”`);

const people = (n: number): string => plural(n, "holder", "holders");
const doors = (n: number): string => plural(n, "door", "doors");
const sensitiveDoors = (n: number): string => plural(n, "sensitive door", "sensitive doors");

const missingWords: Readonly<Record<string, string>> = {
  sponsor: "no sponsor is named",
  "sponsor-left": "the sponsor has left",
  company: "no company is named",
};

const privilegeWords: Readonly<Record<string, string>> = {
  lockdownPass: "Passes in a lockdown",
  pinExempt: "Passes without a PIN",
  extraTime: "Gets longer opening times",
  holdOpen: "May hold doors open",
  passbackExempt: "May come in again without having left",
  firstIn: "Starts the day's unlocking by coming in first",
};

/** How an object has nothing behind it: what `unused` and `opens-nothing` mean differs from kind to kind. */
function nothingWords(kind: SubjectKind, why: string): string {
  if (why === "one-member") return "Just one person is in it.";
  if (why === "unused") return kind === "group" ? "Nobody is in it." : kind === "level" || kind === "bundle" ? "It is given to nobody." : "Nothing uses it.";
  if (kind === "group") return "Nothing is given to it.";
  if (kind === "schedule") return "It is never open.";
  return kind === "calendar" ? "There is no day in it." : "It covers no door.";
}

const oddWords: Readonly<Record<string, (where: string, until: string) => string>> = {
  "empty-interval": (where) => `An interval ends when it begins (${where}).`,
  "minute-gap": (where) => `An interval ends at 23:59, a minute before the day does (${where}).`,
  overlap: (where) => `Two intervals of one row share minutes (${where}).`,
  over: (_, until) => `It ended on ${dayText(until)}, and is still used.`,
};

/** What breaks a house rule. */
function breach({ must, door, there, otherDoor, otherThere, count = 0, found = 0, among = [] }: FactsOf<"house-rule">["proof"], say: Say): string {
  const first = (where: string | undefined, at: string | undefined): string =>
    `${say.one("door", where)}${at === undefined ? "" : `, first on ${wallClock(at)}`}`;
  if (must === "at-least") {
    const opening = found === 0 ? "nobody opens" : plural(found, "opens", "open");
    return `${opening} it${there === undefined ? "" : ` on ${wallClock(there)}`}, and it asks for ${countWords(count)}.`;
  }
  if (must === "at-most")
    return `${plural(found, "holder opens", "holders open")} it, and it allows ${countWords(count)}; among them ${say.some("cardholder", among)}.`;
  return otherDoor === undefined ? `opens ${first(door, there)}.` : `opens both ${first(door, there)}, and ${first(otherDoor, otherThere)}.`;
}

type Sentences = { readonly [K in RuleKey]: (finding: FactsOf<K>, say: Say) => string };

/** What should not be, a sentence a rule; who or what it is about stands beside. */
const sentences: Sentences = {
  "leaver-live": ({ proof: { left, leftBy, credentials } }, say) => {
    const when = left === undefined ? "" : ` on ${leftBy === "end" ? say.lastDate(left) : say.date(left)}`;
    return `Left${when}; ${credentials.length === 1 ? "a credential is" : `${credentials.length} credentials are`} still marked active.`;
  },
  "removed-late": ({ proof: { left, lastLive, hours, credentials } }, say) =>
    `Left on ${say.moment(left)}; ${plural(hours, "hour", "hours")} later, on ${say.moment(lastLive)}, ${credentials.length === 1 ? "a credential was" : `${credentials.length} credentials were`} still live.`,
  "mover-kept": ({ proof: { moved, doors: kept }, distinct: [former] }, say) =>
    `Had left ${say.one("group", former)} by ${say.date(moved)}, and still opens ${say.doors(kept)}, which came with that department alone.`,
  "not-certified": ({ proof: { last }, distinct: [area] }, say) =>
    // A round may have been signed since: what is said is said of the time of the export.
    last === undefined
      ? `When this was exported, no round had certified the access to ${say.one("area", area)}.`
      : `When this was exported, no round had certified the access to ${say.one("area", area)} since ${say.date(last)}.`,
  "not-authorised": ({ distinct: [, group] }, say) =>
    group === undefined ? "No authorisation is recorded." : `No authorisation is recorded of the membership in ${say.one("group", group)}.`,
  "requirement-over": ({ proof: { ended }, distinct: [name = ""] }, say) => `Still opens doors, although ${quoted(name)} ended on ${say.lastDate(ended)}.`,
  "no-sponsor": ({ proof: { missing } }) => `Opens doors, but ${listWords(missing.map((one) => missingWords[one] ?? one))}.`,
  "house-rule": ({ proof }, say) => `Breaks the house rule ${quoted(proof.name)}: ${breach(proof, say)}`,
  "unknown-to-source": ({ proof: { sources } }) => `Opens doors, and ${listWords(sources)} ${sources.length === 1 ? "does" : "do"} not know this person.`,
  "expired-active": ({ proof: { end } }, say) =>
    `Ended on ${say.lastDate(end)} but is still marked active: it opens nothing, and one changed date brings it back.`,
  "ends-soon": ({ proof: { end, lastUse } }, say) => `Is in use, last on ${say.date(lastUse)}, and ends on ${say.lastDate(end)}.`,
  "no-end-date": ({ proof: { end } }, say) => (end === undefined ? "Has no end date." : `Ends only on ${say.lastDate(end)}.`),
  "outlives-holder": ({ proof: { end, holderEnd } }, say) => `Ends on ${say.lastDate(end)}, after its holder does, on ${say.lastDate(holderEnd)}.`,
  "spare-outstanding": ({ proof: { since } }, say) => `A temporary card that has been out since ${say.date(since)}.`,
  unused: ({ proof: { lastUse, days, coveredDays } }, say) =>
    lastUse === undefined
      ? `Live, but no use of it is known in ${days} days, ${coveredDays} of which events cover.`
      : `Live, but not used since ${say.date(lastUse)}.`,
  "never-used": ({ proof: { given } }, say) => `Given on ${say.date(given)}, and no use of it is known.`,
  "stock-active": ({ proof }) => `Marked active, though nobody holds it; it opens ${doors(proof.doors)}.`,
  "lost-in-use": ({ proof: { since, events, granted, last } }, say) =>
    `Out of use since ${say.date(since)}, yet presented ${timesWords(events)} after that and ${granted === 0 ? "never" : timesWords(granted)} let in; last on ${say.moment(last)}.`,
  "dead-card-tried": ({ proof: { refused, last } }, say) => `Refused ${timesWords(refused)} while it was not live, last on ${say.moment(last)}.`,
  "sleeping-access": ({ proof: { status, areas, doors: n } }, say) =>
    `Is ${status === "active" ? "not live yet" : status}; were it live, it would open ${sensitiveDoors(n)} in ${say.some("area", areas)}.`,
  waking: ({ proof: { from, areas, doors: n } }, say) =>
    `Becomes live on ${say.moment(from)}, and then opens ${sensitiveDoors(n)} in ${say.some("area", areas)}.`,
  "holder-of-nothing": ({ proof: { grants } }) => `Live, and opens no door although ${plural(grants.length, "grant reaches", "grants reach")} it.`,
  "same-number": ({ proof: { credentials } }, say) => `${credentials.length} credentials have one number between them: ${say.some("credential", credentials)}.`,
  "number-out-of-format": ({ proof: { fields } }) =>
    `Its ${listWords(fields.map((field) => (field === "facilityCode" ? "facility code" : field)))} does not fit its card format.`,
  "printed-differs": ({ proof: { credentials } }, say) => `The number printed on it is the number of ${say.some("credential", credentials)}.`,
  "same-pin": ({ proof: { credentials, doors: opened } }, say) =>
    `${credentials.length} credentials of several holders have the same PIN, and a PIN alone opens ${say.doors(opened)}: ${say.some("credential", credentials)}.`,
  "pin-missing": ({ proof }, say) => `Has no PIN, and so never opens ${say.doors(proof.doors)}.`,
  "via-missing": ({ proof }, say) => `Never opens ${say.doors(proof.doors)}: what has to open for it first stays shut to it.`,
  "many-credentials": ({ proof: { credentials } }, say) => `Has ${credentials.length} live credentials: ${say.some("credential", credentials)}.`,
  "same-person": ({ proof: { cardholders }, distinct: [by] }, say) =>
    `${cardholders.length} cardholders have the same ${by === "staffNumber" ? "staff number" : by === "email" ? "e-mail address" : "name and department"}: ${say.some("cardholder", cardholders)}.`,
  "no-department": ({ proof: { department } }, say) =>
    department === undefined
      ? "Opens doors, but has no department, and no manager who is somebody else and still here."
      : `Opens doors, but neither they nor ${say.one("group", department)}, nor a group above it, has a manager who is somebody else and still here.`,
  "no-certifier": ({ proof: { holders } }) => `${capital(people(holders))} can reach it, but neither it nor an area above it has an owner who is still here.`,
  "standing-override": ({ proof }, say) => `Has a standing override at ${say.some("site", proof.sites)}, and opens ${doors(proof.doors)} there at all times.`,
  privilege: ({ proof: { holders }, distinct: [name = ""] }) =>
    holders === undefined ? `${privilegeWords[name] ?? name}.` : `Lets ${people(holders)} do “${name}”.`,
  "around-the-clock": ({ proof: { week }, distinct: [area] }, say) =>
    `Opens ${say.one("area", area)} at all hours, day and night, as in the week of ${dayText(week)}.`,
  "out-of-hours": ({ proof: { minutes, week }, distinct: [area] }, say) =>
    `Opens ${say.one("area", area)} for ${hoursWords(minutes)} outside business hours in the week of ${dayText(week)}, but is not seen there at such hours.`,
  "unlike-peers": ({ proof: { peers, reach }, distinct: [area] }, say) =>
    `Reaches ${say.one("area", area)}; of the ${peers} others in the department who open doors ${reach === 0 ? "nobody does" : reach === 1 ? "one does" : `${reach} do`}.`,
  "right-unused": ({ proof, distinct: [kind = "", id] }, say) =>
    `Of the ${doors(proof.doors)} that ${say.one(kind === "level" ? "level" : "grant", id)} opens, ${proof.used === 0 ? "none was used" : `only ${proof.used} ${proof.used === 1 ? "was" : "were"} used`}.`,
  "by-exception": ({ proof }, say) => `Opens ${say.doors(proof.doors)} by a grant made directly, not through a level or a group.`,
  "hidden-path": ({ proof: { grants }, distinct: [door] }, say) =>
    `Opens ${say.one("door", door)} by ${plural(grants.length, "grant", "grants")}: taking one away does not shut it.`,
  "twice-given": ({ proof, distinct: [credential] }, say) =>
    `${say.one("credential", credential)} is given ${say.doors(proof.doors)}, which its holder has anyway.`,
  "duties-conflict": ({ proof: { a, b }, distinct: [duty = ""] }, say) => `Has both sides of “${duty}”: one opens ${say.doors(a)}, the other ${say.doors(b)}.`,
  "visitor-sensitive": ({ proof }, say) => `A visitor who opens ${sensitiveDoors(proof.doors)} in ${say.some("area", proof.areas)}.`,
  "too-many-holders": ({ proof: { holders, maxHolders } }) => `${capital(people(holders))} can reach it; there should be at most ${maxHolders}.`,
  "level-limit": ({ proof: { count } }) => `Is given ${count} levels or bundles directly.`,
  "level-too-wide": ({ proof: { low, high } }) => `Opens ${doors(low)} of no sensitivity together with ${sensitiveDoors(high)}.`,
  "all-doors": ({ proof }) => `Opens ${proof.doors} of ${proof.of} doors, not counting the floors of lifts, for ${people(proof.holders)}.`,
  "stranded-right": ({ proof: { from }, distinct: [door] }, say) =>
    `Opens ${say.one("door", door)} from ${say.one("area", from)}, but by what it opens never gets to ${say.one("area", from)}.`,
  "nothing-behind": ({ subject, distinct: [why = ""] }) => nothingWords(subject.kind, why),
  "door-without-grants": () => "Nobody opens it, and it is never unlocked.",
  "door-only-free": ({ proof: { minutes, week } }) => `Stands unlocked for everybody at times: ${hoursWords(minutes)} in the week of ${dayText(week)}.`,
  "single-factor": ({ proof: { rules } }) => `Opens at times with ${rules.map((rule) => ruleOfEntry[rule] ?? rule).join(", or with ")}.`,
  "calendar-runs-out": ({ proof: { last, expected }, distinct: [, name = "", year = ""] }) =>
    last === undefined
      ? `${capital(quoted(name))} was entered for the two years before, but not for ${year}: it is expected about ${dayText(expected ?? "")}.`
      : `Its last entry for a date is on ${dayText(last)}.`,
  "holiday-missing": ({ proof: { name, other }, distinct: [date = ""] }) =>
    `${name} on ${dayText(date)} is a public holiday there, but none in its calendar${other === undefined ? "" : `, which has one of that name on ${dayText(other)}`}.`,
  "holiday-tie": ({ proof: { first, dates }, distinct: [wins = "", loses = ""] }) =>
    `${capital(quoted(wins))} and ${quoted(loses)} have the same priority and different day types on ${plural(dates, "date", "dates")}, first on ${dayText(first)}; the first-named wins.`,
  "holiday-open": ({ proof: { first, dates, free, holders } }) =>
    `On ${plural(dates, "public holiday", "public holidays")}, first on ${dayText(first)}: ${[
      ...(free > 0 ? [`unlocked on ${free}`] : []),
      ...(holders > 0 ? [`up to ${people(holders)} can open it`] : []),
    ].join(", ")}.`,
  "schedule-odd": ({ proof: { rows = [], until = "" }, distinct: [what = ""] }) => oddWords[what]?.(someWords(rows, named), until) ?? what,
  "opened-against-record": ({ proof: { events, last, before, after }, distinct: [credential] }, say) =>
    `${say.one("credential", credential)} was let in ${timesWords(events)} although ${recordWords(before, after)}, last on ${say.moment(last)}.`,
  "refused-against-record": ({ proof: { events, last }, distinct: [credential] }, say) =>
    `${say.one("credential", credential)} was refused ${timesWords(events)} although by the record it opens, last on ${say.moment(last)}.`,
  "not-at-door": ({ proof: { first, controller, minutes }, distinct: [credential] }, say) =>
    `By what the unit at the door holds, it ${controller === "open" ? "opens" : "stays shut"} for ${credential === undefined ? "anybody" : say.one("credential", credential)} when the register says otherwise: first on ${say.moment(first)}, ${hoursWords(minutes)} in all.`,
  "tried-again": ({ proof: { refused, first = "", dates = 0, week = "" } }, say) =>
    refused === undefined
      ? `Refused on ${dates} dates in the week of ${dayText(week)}.`
      : `Refused ${timesWords(refused)} within minutes, first on ${say.moment(first)}.`,
  "unknown-tried": ({ proof: { events, last }, distinct: [what, ...told] }, say) =>
    `${what === "credential" ? `The unknown credential ${told.join("")}` : `The unknown number ${told.filter(Boolean).join("-")}`} was presented ${timesWords(events)}, last on ${say.moment(last)}.`,
  "two-places": ({ proof: { times, last }, distinct: [what, ...ids] }, say) =>
    what === "sites"
      ? `Was at ${say.some("site", ids)} in less time than the way takes, ${timesWords(times)}, last on ${say.moment(last)}.`
      : `Came into ${say.some("area", ids)} again without having left, ${timesWords(times)}, last on ${say.moment(last)}.`,
  "let-in": ({ proof: { times, last, by }, distinct: [door] }, say) =>
    `Refused at ${say.one("door", door)} and then inside, after ${say.some("cardholder", by)} had opened it, ${timesWords(times)}, last on ${say.moment(last)}.`,
};

/** What the records before and after an event said of it: the reasons of their verdicts. */
const recordWords = (before: string, after: string): string => {
  const [one, other] = [before, after].map((reason) => (isReason(reason) ? reasonWords(reason) : reason));
  return one === other ? (one ?? "") : `${one} (and later: ${other})`;
};

const ruleOfEntry: Readonly<Record<string, string>> = { card: "the card alone", pin: "a PIN alone", "card-or-pin": "a card or a PIN" };

/** The function of a finding's rule among those of all rules: a finding proves what is said of its rule. */
const ofRule = <Of>(all: { readonly [K in RuleKey]: (finding: FactsOf<K>, say: Say) => Of }, { rule }: FindingFacts) =>
  all[rule] as (finding: FindingFacts, say: Say) => Of;

/** What should not be, as a sentence. */
/** What breaks a house rule, without the name of the rule. */
export const breachWords = (proof: FactsOf<"house-rule">["proof"], names: FindingNames): string => breach(proof, new Say(names));

export const findingSentence = (finding: FindingFacts, names: FindingNames): string => ofRule(sentences, finding)(finding, new Say(names));

const returned = (credentials: readonly string[], say: Say): string =>
  `Return ${credentials.length === 1 ? "the credential" : "the credentials"} ${say.some("credential", credentials)}.`;
const narrow = (area: string | undefined, say: Say): string => `Narrow the access to ${say.one("area", area)} to the hours that are needed.`;
const withdraw = (ids: readonly string[], say: Say): string => `Withdraw ${say.doors(ids)}, unless somebody answers for it.`;
const lookInto = "Find out what happened; what it shows may need a withdrawal, or a correction of the record.";

/** What would end it. */
const remedies: Sentences = {
  "leaver-live": ({ proof }, say) => returned(proof.credentials, say),
  "removed-late": () => "See to it that leavers are taken out within a day; what was late cannot be undone.",
  "mover-kept": ({ proof }, say) => withdraw(proof.doors, say),
  "not-certified": ({ distinct: [area] }, say) => `Put ${say.one("area", area)} into the next round, or withdraw the access.`,
  "not-authorised": () => "Have somebody authorise it and write down who, or withdraw it.",
  "requirement-over": ({ distinct: [name = ""] }) => `Renew ${quoted(name)}, or suspend the credentials until it is.`,
  "no-sponsor": () => "Name a sponsor who is here, and the company.",
  "house-rule": ({ proof: { must, name } }) =>
    must === "at-least"
      ? `Give it to more people, or write ${quoted(name)} otherwise.`
      : must === "at-most"
        ? `Take it from those who need it least, or write ${quoted(name)} otherwise.`
        : `Withdraw the doors, or write ${quoted(name)} otherwise.`,
  "unknown-to-source": ({ proof: { sources } }) => `Ask ${listWords(sources)} who this is; enter them there, or end the access.`,
  "expired-active": ({ subject }, say) => `Set ${say.one("credential", subject.id)} to returned.`,
  "ends-soon": () => "Ask whether it is still needed, and set its end accordingly.",
  "no-end-date": () => "Set an end.",
  "outlives-holder": ({ proof }, say) => `Let it end with its holder, on ${say.lastDate(proof.holderEnd)}.`,
  "spare-outstanding": ({ subject }, say) => `Ask for ${say.one("credential", subject.id)} back, and set it to returned.`,
  unused: ({ subject }, say) => `Suspend ${say.one("credential", subject.id)} until it is asked for.`,
  "never-used": ({ subject }, say) => `Suspend ${say.one("credential", subject.id)} until it is asked for.`,
  "stock-active": ({ subject }, say) => `Set ${say.one("credential", subject.id)} to returned until it is handed out.`,
  "lost-in-use": () => "Bar the card at the doors, and find out who has it.",
  "dead-card-tried": () => "Ask who has the card, and take it back.",
  "sleeping-access": ({ proof }, say) => `Withdraw the access to ${say.some("area", proof.areas)}, or return the credential.`,
  waking: () => "Ask whether it is to begin then, or withdraw it before.",
  "holder-of-nothing": () => "Give it what it is meant to open, or return it.",
  "same-number": () => "Correct the numbers, or give out a new card.",
  "number-out-of-format": () => "Correct the number or the format.",
  "printed-differs": () => "Correct the numbers: whoever reads the card out names another one.",
  "same-pin": () => "Have new PINs chosen.",
  "pin-missing": () => "Have a PIN chosen, or withdraw the doors.",
  "via-missing": () => "Give what has to open first too, or withdraw the doors.",
  "many-credentials": () => "Return those that are not needed.",
  "same-person": () => "Find out whether they are one person, and then make them one.",
  "no-department": () => "Name a manager who is still here, for them or for the department.",
  "no-certifier": () => "Name an owner who is still here.",
  "standing-override": () => "End the standing override, and give the doors that are needed.",
  privilege: () => "Take it away, unless somebody answers for it.",
  "around-the-clock": ({ proof, distinct: [area] }, say) => (proof.override ? "End the standing override." : narrow(area, say)),
  "out-of-hours": ({ distinct: [area] }, say) => narrow(area, say),
  "unlike-peers": ({ distinct: [area] }, say) => `Withdraw ${say.one("area", area)}, unless somebody answers for it.`,
  "right-unused": ({ distinct: [kind = "", id] }, say) =>
    `Withdraw ${say.one(kind === "level" ? "level" : "grant", id)}, or give just the doors that are used.`,
  "by-exception": () => "Give it through a level or a group, or withdraw it.",
  "hidden-path": ({ distinct: [door] }, say) => `Withdraw ${say.one("door", door)} in every way, or keep one.`,
  "twice-given": ({ distinct: [credential] }, say) => `Take away what is given to ${say.one("credential", credential)} itself.`,
  "duties-conflict": () => "Withdraw one of the two sides.",
  "visitor-sensitive": ({ proof }, say) => `Withdraw the access to ${say.some("area", proof.areas)}.`,
  "too-many-holders": () => "Withdraw it from those who do not need it, or set a greater number and say why.",
  "level-limit": () => "Give a bundle, or fewer levels.",
  "level-too-wide": () => "Divide the level: sensitive doors apart.",
  "all-doors": () => "Divide it, or take holders out.",
  "stranded-right": ({ proof: { from } }, say) => `Give the doors on the way to ${say.one("area", from)}, or withdraw this one.`,
  "nothing-behind": () => "Remove it, unless it is kept for something that is to come.",
  "door-without-grants": () => "Give somebody access, or take the door out of the register.",
  "door-only-free": () => "Take the unlocking away, or shorten it.",
  "single-factor": () => "Ask for card and PIN at all hours.",
  "calendar-runs-out": () => "Enter the coming dates in the calendar.",
  "holiday-missing": ({ distinct: [date = ""] }) => `Enter ${dayText(date)} in the calendar as a public holiday.`,
  "holiday-tie": () => "Give one of the two a priority of its own.",
  "holiday-open": () => "Shut it on public holidays, or give it a smaller circle.",
  "schedule-odd": () => "Correct the schedule.",
  "not-at-door": () => "Send the record to the unit again.",
  "opened-against-record": () => lookInto,
  "refused-against-record": () => "Send the record to the door again, and try it there.",
  "tried-again": () => lookInto,
  "unknown-tried": () => lookInto,
  "two-places": () => lookInto,
  "let-in": () => lookInto,
};

/** What would end it. */
export const findingRemedy = (finding: FindingFacts, names: FindingNames): string => ofRule(remedies, finding)(finding, new Say(names));

/** One thing in a proof: an object to go to, or a text. */
export interface ProofItem {
  readonly text: string;
  readonly object?: { readonly kind: SubjectKind; readonly id: string };
}

const termWords: Readonly<Record<string, string>> = {
  asOf: "As of",
  lastLive: "Last seen live",
  lastUse: "Last used",
  holderEnd: "Its holder ends",
  coveredDays: "Days with events",
  leftBy: "Left by",
  override: "Standing override",
  maxHolders: "At most",
  unused: "Not used",
  a: "On one side",
  b: "On the other side",
  by: "By",
  of: "Of doors",
  low: "Of no sensitivity",
  high: "Sensitive",
};

const spaced = (name: string): string => name.replace(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`);
const termOf = (name: string): string => termWords[name] ?? `${name.charAt(0).toUpperCase()}${spaced(name).slice(1)}`;

const isMoment = /^\d{4}-\d\d-\d\dT\d\d:\d\d(:\d\d)?Z$/;
const clockWords = (text: string): string => text.replace(/T(\d\d:\d\d(?::\d\d)?)Z$/, " $1 UTC");

/** What a finding proves, term by term; `objectsOf` says which ids in it are objects. */
export function findingProof(
  finding: FindingFacts,
  names: FindingNames,
  kindOf: (term: string) => SubjectKind | undefined,
): readonly (readonly [term: string, items: readonly ProofItem[]])[] {
  const item = (term: string, value: string | number | boolean): ProofItem => {
    if (typeof value === "boolean") return { text: value ? "yes" : "no" };
    if (typeof value === "number") return { text: value.toLocaleString("en-GB") };
    const kind = kindOf(term);
    if (kind) return { text: names.name(kind, value), object: { kind, id: value } };
    return { text: isMoment.test(value) ? clockWords(value) : value };
  };
  const proof = finding.proof as Readonly<Record<string, string | number | boolean | readonly string[]>>;
  return Object.entries(proof).map(([term, value]) => [termOf(term), (typeof value === "object" ? value : [value]).map((one) => item(term, one))]);
}

/** What the points of a risk are for. */
export function riskWords({ term, of }: RiskTerm): string {
  switch (term) {
    case "base":
      return "the rule itself";
    case "sensitivity":
      return `most sensitive area reached: ${of} of 3`;
    case "outOfHours":
      return `out of hours ${of} %`;
    case "weeklyHours":
      return `${of} h a week`;
    case "standing":
      return `standing for ${of} days`;
    default:
      return unreachable(term);
  }
}

const withoutWords = { documents: "there is no earlier snapshot to look at", decisions: "no round has been signed yet" } as const;

/** Of what a rule cannot tell, and why. */
export function cannotTellWords({ rule, concerned, covered, days, without }: Omit<CannotTell, "subjects">): string {
  if (without) return `“${titleOfRule(rule)}” cannot tell: ${withoutWords[without]}.`;
  const why = days === 0 ? "what it needs to know is not in the register" : `events cover ${covered} of ${days} days where they open doors`;
  return `“${titleOfRule(rule)}” cannot tell for ${plural(concerned, "subject", "subjects")}: ${why}.`;
}

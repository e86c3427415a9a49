import type { Definition, DefinitionChange, FirstNames, NumberRange, PartSays, Privilege } from "@/core/certification/definitions/definition";
import { unreachable } from "@/core/kernel/invariant";
import { parseCivilDay } from "@/core/time/civil-day";
import { sentenceOfLineFinding } from "../finding-names";
import { capital, countWords, listWords, plural } from "../numbers";
import { clockText, dateText, weekdayText } from "../times";
import type { DefinitionWords } from "./definition-words";

const privilegeNames: Readonly<Record<Privilege, string>> = {
  override: "Standing override: passes at any time, without a grant",
  lockdownPass: "Passes in a lockdown",
  pinExempt: "Needs no PIN",
  extraTime: "Longer opening time",
  holdOpen: "May hold a door open",
  passbackExempt: "May come in again without having left",
  firstIn: "Starts the day’s unlocking by coming in first",
};

const cardNames: Readonly<Record<string, string>> = {
  card: "Cards",
  fob: "Fobs",
  mobile: "Phones",
  biometric: "Biometric credentials",
  remote: "Remote controls",
  pin: "PINs",
};

const statusNames: Readonly<Record<string, string>> = { active: "active", stock: "in stock", suspended: "suspended", lost: "lost", returned: "returned" };

/** Statements about several things, each of which may have a comma in it. */
const joined = (parts: readonly string[]): string => parts.join("; ");

const dayType = (name: string): string => (name === "public" ? "public holiday" : `${name} day`);

const date = (written: string): string => {
  const day = parseCivilDay(written);
  return day === undefined ? written : `${weekdayText(day)} ${dateText(day)}`;
};

const doors = (count: number): string => plural(count, "door", "doors");
const people = (count: number): string => plural(count, "person", "people");

/** "Ada, Bo and 3 more"; the count alone where no name was kept. */
const first = ({ names, count }: FirstNames): string =>
  names.length < count ? `${names.join(", ")} and ${countWords(count - names.length)} more` : listWords(names);

const range = ({ facilityCode, first: from, last, count }: NumberRange): string =>
  `${countWords(count)} numbered ${facilityCode === undefined ? "" : `${facilityCode}-`}${from} to ${last}`;

function facts(definition: Definition): string[] {
  switch (definition.kind) {
    case "level":
      return [`Opens ${doors(definition.doors)}.`, ...definition.actions.map(({ action, doors: count }) => `Besides opening: ${action}, at ${doors(count)}.`)];
    case "unlocking":
      return [
        `${capital(plural(definition.doors, "door is", "doors are"))} unlocked for everybody at times: no card is needed then.`,
        ...(definition.afterFirstIn === 0 ? [] : [`${capital(doors(definition.afterFirstIn))} only once somebody has come in.`]),
      ];
    case "calendar":
      return [
        definition.count === 0
          ? "No date of the coming 13 months is anything but an ordinary day."
          : `${capital(plural(definition.count, "date of the coming 13 months is no ordinary day", "dates of the coming 13 months are no ordinary days"))}.`,
      ];
    case "stock":
      return [
        `${capital(
          joined(
            definition.states.map(
              ({ status, count, opening }) =>
                `${countWords(count)} ${statusNames[status] ?? status}${opening > 0 ? `, of which ${countWords(opening)} ${opening === 1 ? "opens" : "open"} doors` : ""}`,
            ),
          ),
        )}.`,
        ...(definition.ranges.length === 0
          ? []
          : [
              `In a row: ${listWords(definition.ranges.map(range))}${definition.moreRanges > 0 ? `, and ${plural(definition.moreRanges, "more run", "more runs")}` : ""}.`,
            ]),
      ];
    case "privilege":
      return [
        definition.opening === definition.people.count
          ? `${capital(plural(definition.people.count, "person has", "people have"))} it.`
          : `${capital(plural(definition.people.count, "person has", "people have"))} it; ${countWords(definition.opening)} of them ${definition.opening === 1 ? "opens" : "open"} anything at present.`,
      ];
    default:
      return unreachable(definition);
  }
}

function touches(definition: Definition): string {
  switch (definition.kind) {
    case "level":
      return definition.people.count === 0
        ? "Nobody has it in the coming 13 months."
        : `${capital(plural(definition.people.count, "person has", "people have"))} it: ${first(definition.people)}.`;
    case "unlocking":
      return "Affects everybody who comes by.";
    case "calendar": {
      const { sites, people: own, doors: count } = definition;
      const where = sites.length === 0 ? "No site uses it." : `Counts at ${listWords(sites)}, for ${doors(count)}.`;
      return own.count === 0 ? where : `${where} It goes with ${people(own.count)} wherever they are: ${first(own)}.`;
    }
    case "stock":
      return definition.places.count === 0 ? "None would open anything." : `Whoever held them, once active, would get into ${first(definition.places)}.`;
    case "privilege":
      return `${first(definition.people)}.`;
    default:
      return unreachable(definition);
  }
}

function says(part: PartSays): string {
  switch (part.kind) {
    case "hours":
      return `${part.words}${part.actions.length === 0 ? "" : ` (${listWords(part.actions.map((action) => (action === "after-first-in" ? "once somebody has come in" : action)))})`}`;
    case "day":
      return `${part.name}, ${dayType(part.dayType)}`;
    case "status":
      return statusNames[part.status] ?? part.status;
    case "sites":
      return part.sites === "all" ? "everywhere" : `at ${listWords(part.sites)}`;
    case "has":
      return "";
    default:
      return unreachable(part);
  }
}

function change(changed: DefinitionChange): string {
  const name = date(changed.part.name);
  const told = (part: PartSays): string => (says(part) === "" ? "" : `: ${says(part)}`);
  switch (changed.do) {
    case "added":
      return `New: ${name}${told(changed.is)}.`;
    case "gone":
      return `Gone: ${name}${told(changed.was)}.`;
    case "altered":
      return says(changed.was) === says(changed.is) ? `${name}: at other times than before.` : `${name}: was ${says(changed.was)}; is ${says(changed.is)}.`;
    default:
      return unreachable(changed);
  }
}

const on = (at: string): string => clockText(at).split(",")[0] ?? "";

/** Definitions in English. */
export const englishDefinitions: DefinitionWords = {
  heading: {
    level: "Access levels",
    unlocking: "Unlocked for everybody",
    calendar: "Calendars",
    stock: "Credentials that nobody holds",
    privilege: "Privileges",
  },
  about: {
    level: "What each opens, and when, for all who have it",
    unlocking: "Doors that stand open at times without a card",
    calendar: "On which dates other hours hold",
    stock: "Spares, boxes and cards that came back",
    privilege: "What a few may do besides opening doors",
  },
  nextPart: "Next part",
  partOf: (part, of) => `Part ${part} of ${of}`,
  title: ({ kind, id, name }) => {
    switch (kind) {
      case "level":
      case "calendar":
        return name;
      case "unlocking":
        return `Doors of ${name}`;
      case "stock":
        return cardNames[id] ?? name;
      case "privilege":
        return privilegeNames[id as Privilege];
      default:
        return unreachable(kind);
    }
  },
  facts,
  doors: ({ doors: shown, count }) => {
    const names = shown.map(({ name }) => name);
    return names.length < count ? `${names.join(", ")} and ${countWords(count - names.length)} more` : listWords(names);
  },
  hours: ({ words }) => `${words}.`,
  moreHours: (count) => `${capital(plural(count, "more group of doors has", "more groups of doors have"))} other hours.`,
  date,
  span: (from, to) => `${date(from)} – ${date(to)}`,
  dayType,
  dates: (count) => `All ${count} dates and spans of dates`,
  touches,
  notCertifiedBefore: "Not certified before.",
  since: ({ at, count }) => (count === 0 ? `Nothing has changed since ${on(at)}, when it was certified.` : `Since ${on(at)}, when it was certified:`),
  changes: ({ changes, count }) => [
    ...changes.map(change),
    ...(count > changes.length ? [`And ${plural(count - changes.length, "more change", "more changes")}.`] : []),
  ],
  finding: ({ subject }, finding, timeZone) => {
    const sentence = sentenceOfLineFinding(finding, timeZone);
    if ("sentence" in finding) return sentence;
    const { kind, id } = finding.facts.subject;
    return kind === subject.kind && id === subject.id ? sentence : `${finding.names[`${kind} ${id}`] ?? id}: ${sentence}`;
  },
  moreFindings: (count) => `${capital(plural(count, "more finding speaks", "more findings speak"))} against it.`,
  keep: "As it should be",
  change: "Needs changing …",
  task: "What should be changed?",
  taskHint: "It goes out in your words to whoever looks after it.",
  ask: "Ask for this change",
  asked: "Goes out as a task when you sign.",
  keptBefore: (at) => `You found it right on ${on(at)}.`,
  sameAsBefore: (count) => `Unchanged since you found them right: ${plural(count, "line", "lines")}`,
  keepAll: (count) => (count === 1 ? "Still as it should be" : `${count === 2 ? "Both" : `All ${countWords(count)}`} still as they should be`),
  counts: (counts) =>
    `${[
      `${capital(plural(counts.keep, "definition is as it should be", "definitions are as they should be"))}`,
      plural(counts.withdraw, "needs changing", "need changing"),
      ...(counts["pass-on"] > 0 ? [plural(counts["pass-on"], "was passed on", "were passed on")] : []),
    ].join(", ")}.`,
  changingHeading: "Needs changing:",
};

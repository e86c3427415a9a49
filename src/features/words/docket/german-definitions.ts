import { germanHours } from "@/core/describe/german-hours";
import type { Definition, DefinitionChange, FirstNames, NumberRange, PartSays, Privilege } from "@/core/certification/definitions/definition";
import { unreachable } from "@/core/kernel/invariant";
import { parseCivilDay, weekdayNumber } from "@/core/time/civil-day";
import type { DefinitionWords } from "./definition-words";
import { germanFinding } from "./german-findings";
import { germanCapital, germanCount, germanDate, germanList, germanNumber } from "./german-numbers";

const privilegeNames: Readonly<Record<Privilege, string>> = {
  override: "Dauerfreigabe: kommt jederzeit hinein, ohne Berechtigung",
  lockdownPass: "Kommt auch bei einer Sperre durch",
  pinExempt: "Braucht keine PIN",
  extraTime: "Längere Öffnungszeit",
  holdOpen: "Darf eine Tür offen halten",
  passbackExempt: "Darf wieder hinein, ohne hinausgegangen zu sein",
  firstIn: "Schaltet mit dem ersten Eintreten die Tagesöffnung ein",
};

const cardNames: Readonly<Record<string, string>> = {
  card: "Karten",
  fob: "Anhänger",
  mobile: "Telefone",
  biometric: "Biometrische Merkmale",
  remote: "Handsender",
  pin: "PINs",
};

const statusNames: Readonly<Record<string, string>> = {
  active: "aktiv",
  stock: "im Vorrat",
  suspended: "gesperrt",
  lost: "als verloren gemeldet",
  returned: "zurückgegeben",
};

const date = (written: string): string => {
  const day = parseCivilDay(written);
  return day === undefined ? written : `${germanHours.days[weekdayNumber(day)] ?? ""} ${germanDate(day)}`;
};

/** Statements about several things, each of which may have a comma in it. */
const joined = (parts: readonly string[]): string => parts.join("; ");

const dayType = (name: string): string => (name === "public" ? "Feiertag" : `Tag „${name}“`);
const doors = (count: number): string => germanCount(count, "eine Tür", "Türen");

const first = ({ names, count }: FirstNames): string => (names.length < count ? `${names.join(", ")} und ${count - names.length} weitere` : germanList(names));

const range = ({ facilityCode, first: from, last, count }: NumberRange): string =>
  `${germanNumber(count)} mit den Nummern ${facilityCode === undefined ? "" : `${facilityCode}-`}${from} bis ${last}`;

function facts(definition: Definition): string[] {
  switch (definition.kind) {
    case "level":
      return [
        `Öffnet ${doors(definition.doors)}.`,
        ...definition.actions.map(({ action, doors: count }) => `Außer zu öffnen: ${action}, an ${germanCount(count, "einer Tür", "Türen")}.`),
      ];
    case "unlocking":
      return [
        `${germanCapital(germanCount(definition.doors, "eine Tür ist", "Türen sind"))} zeitweise für alle offen: dann braucht niemand eine Karte.`,
        ...(definition.afterFirstIn === 0 ? [] : [`${germanCapital(doors(definition.afterFirstIn))} erst, wenn jemand hineingegangen ist.`]),
      ];
    case "calendar":
      return [
        definition.count === 0
          ? "Kein Tag der kommenden 13 Monate ist etwas anderes als ein gewöhnlicher Tag."
          : `${germanCapital(germanCount(definition.count, "ein Tag der kommenden 13 Monate ist kein gewöhnlicher", "Tage der kommenden 13 Monate sind keine gewöhnlichen"))}.`,
      ];
    case "stock":
      return [
        `${germanCapital(
          joined(
            definition.states.map(
              ({ status, count, opening }) =>
                `${germanNumber(count)} ${statusNames[status] ?? status}${opening > 0 ? `, davon ${opening === 1 ? "öffnet eine" : `öffnen ${germanNumber(opening)}`} Türen` : ""}`,
            ),
          ),
        )}.`,
        ...(definition.ranges.length === 0
          ? []
          : [
              `In einer Reihe: ${germanList(definition.ranges.map(range))}${definition.moreRanges > 0 ? `, und ${germanCount(definition.moreRanges, "eine weitere Reihe", "weitere Reihen")}` : ""}.`,
            ]),
      ];
    case "privilege":
      return [
        definition.opening === definition.people.count
          ? `${germanCapital(germanCount(definition.people.count, "eine Person hat", "Personen haben"))} es.`
          : `${germanCapital(germanCount(definition.people.count, "eine Person hat", "Personen haben"))} es; ${definition.opening === 1 ? "eine davon öffnet" : `${germanNumber(definition.opening)} davon öffnen`} derzeit überhaupt etwas.`,
      ];
    default:
      return unreachable(definition);
  }
}

function touches(definition: Definition): string {
  switch (definition.kind) {
    case "level":
      return definition.people.count === 0
        ? "In den kommenden 13 Monaten hat sie niemand."
        : `${germanCapital(germanCount(definition.people.count, "eine Person hat", "Personen haben"))} sie: ${first(definition.people)}.`;
    case "unlocking":
      return "Betrifft alle, die vorbeikommen.";
    case "calendar": {
      const { sites, people, doors: count } = definition;
      const where = sites.length === 0 ? "Kein Standort verwendet ihn." : `Gilt an ${germanList(sites)}, für ${doors(count)}.`;
      return people.count === 0
        ? where
        : `${where} ${germanCapital(germanCount(people.count, "einer Person", "Personen"))} folgt er überallhin: ${first(people)}.`;
    }
    case "stock":
      return definition.places.count === 0
        ? "Keine davon würde etwas öffnen."
        : `Wer sie hätte, käme damit, sobald sie aktiv sind, in ${first(definition.places)}.`;
    case "privilege":
      return `${first(definition.people)}.`;
    default:
      return unreachable(definition);
  }
}

function says(part: PartSays): string {
  switch (part.kind) {
    case "hours":
      return `${part.german}${part.actions.length === 0 ? "" : ` (${germanList(part.actions.map((action) => (action === "after-first-in" ? "wenn jemand hineingegangen ist" : action)))})`}`;
    case "day":
      return `${part.name}, ${dayType(part.dayType)}`;
    case "status":
      return statusNames[part.status] ?? part.status;
    case "sites":
      return part.sites === "all" ? "überall" : `an ${germanList(part.sites)}`;
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
      return `Neu: ${name}${told(changed.is)}.`;
    case "gone":
      return `Weg: ${name}${told(changed.was)}.`;
    case "altered":
      return says(changed.was) === says(changed.is) ? `${name}: zu anderen Zeiten als bisher.` : `${name}: war ${says(changed.was)}; ist ${says(changed.is)}.`;
    default:
      return unreachable(changed);
  }
}

const on = (at: string): string => {
  const day = parseCivilDay(at.slice(0, 10));
  return day === undefined ? at : germanDate(day);
};

/** Definitions in German. */
export const germanDefinitions: DefinitionWords = {
  heading: {
    level: "Zutrittsstufen",
    unlocking: "Für alle offen",
    calendar: "Kalender",
    stock: "Ausweise, die niemand hat",
    privilege: "Sonderrechte",
  },
  about: {
    level: "Was jede öffnet, und wann, für alle, die sie haben",
    unlocking: "Türen, die zeitweise ohne Karte offen stehen",
    calendar: "An welchen Tagen andere Stunden gelten",
    stock: "Ersatzkarten, Schachteln und was zurückkam",
    privilege: "Was wenige außer Türen zu öffnen dürfen",
  },
  nextPart: "Nächster Teil",
  partOf: (part, of) => `Teil ${part} von ${of}`,
  title: ({ kind, id, name }) => {
    switch (kind) {
      case "level":
      case "calendar":
        return name;
      case "unlocking":
        return `Türen von ${name}`;
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
    return names.length < count ? `${names.join(", ")} und ${count - names.length} weitere` : germanList(names);
  },
  hours: ({ german }) => `${german}.`,
  moreHours: (count) => `${germanCapital(germanCount(count, "eine weitere Gruppe von Türen hat", "weitere Gruppen von Türen haben"))} andere Stunden.`,
  date,
  span: (from, to) => `${date(from)} – ${date(to)}`,
  dayType,
  dates: (count) => `Alle ${count} Tage und Zeiträume`,
  touches,
  notCertifiedBefore: "Noch nie bestätigt.",
  since: ({ at, count }) => (count === 0 ? `Seit der Bestätigung am ${on(at)} hat sich nichts geändert.` : `Seit der Bestätigung am ${on(at)}:`),
  changes: ({ changes, count }) => [
    ...changes.map(change),
    ...(count > changes.length ? [`Und ${germanCount(count - changes.length, "eine weitere Änderung", "weitere Änderungen")}.`] : []),
  ],
  finding: ({ subject }, finding, timeZone) => {
    if ("sentence" in finding) return finding.sentence;
    const sentence = germanFinding(finding.facts, finding.names, timeZone) ?? finding.facts.rule;
    const { kind, id } = finding.facts.subject;
    return kind === subject.kind && id === subject.id ? sentence : `${finding.names[`${kind} ${id}`] ?? id}: ${sentence}`;
  },
  moreFindings: (count) => `${germanCapital(germanCount(count, "eine weitere Feststellung spricht", "weitere Feststellungen sprechen"))} dagegen.`,
  keep: "So soll es sein",
  change: "Zu ändern …",
  task: "Was soll geändert werden?",
  taskHint: "Es geht in Ihren Worten an die Stelle, die es pflegt.",
  ask: "Diese Änderung verlangen",
  asked: "Geht als Aufgabe hinaus, wenn Sie unterschreiben.",
  keptBefore: (at) => `Am ${on(at)} haben Sie es für richtig befunden.`,
  sameAsBefore: (count) => `Unverändert, seit Sie es für richtig befunden haben: ${germanCount(count, "eine Zeile", "Zeilen")}`,
  keepAll: (count) => (count === 1 ? "Ist noch richtig" : `${count === 2 ? "Beide" : `Alle ${germanNumber(count)}`} sind noch richtig`),
  counts: (counts) =>
    `${[
      germanCapital(germanCount(counts.keep, "eine Festlegung ist, wie sie sein soll", "Festlegungen sind, wie sie sein sollen")),
      germanCount(counts.withdraw, "eine ist zu ändern", "sind zu ändern"),
      ...(counts["pass-on"] > 0 ? [germanCount(counts["pass-on"], "eine wurde weitergegeben", "wurden weitergegeben")] : []),
    ].join(", ")}.`,
  changingHeading: "Zu ändern:",
};

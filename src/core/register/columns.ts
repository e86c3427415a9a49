import type { Position } from "../compile/position-index";
import type { Cardholder, Credential } from "../facility/document";
import type { CompiledFacility } from "../compile/compiled-facility";
import { doorSensitivity } from "../compile/door-sensitivity";
import type { Directory } from "./directory";
import { directoryOf } from "./directory";
import type { RegisterKind } from "./kinds";
import { listOfKind, nameOf } from "./kinds";
import { levelsHeld } from "./levels-held";

/** What stands in a cell; undefined for nothing. */
export type Cell = string | number | undefined;

export interface Column {
  readonly key: string;
  readonly title: string;
  /** Its few values can be chosen from, and lists grouped by it. */
  readonly choices?: true;
  /** Not shown until it is asked for. */
  readonly aside?: true;
  /** Made from other objects: a search looks through the fields of those instead. */
  readonly derived?: true;
  readonly value: (position: Position) => Cell;
}

/** When a credential was last used, as an instant is written. */
export type LastUseOf = (credential: Position) => string | undefined;

/** Privileges of a cardholder, the ones that auditors ask about first. */
const privilegeWords: readonly (readonly [keyof Cardholder, string])[] = [
  ["override", "passes at any time"],
  ["lockdownPass", "passes in a lockdown"],
  ["pinExempt", "needs no PIN"],
  ["firstIn", "starts the day’s unlocking"],
  ["extraTime", "longer opening time"],
  ["holdOpen", "may hold a door open"],
  ["passbackExempt", "exempt from passback"],
];

export const privilegesOf = (cardholder: Cardholder): string[] =>
  privilegeWords.flatMap(([key, words]) => (cardholder[key] === undefined || cardholder[key] === false ? [] : [words]));

/** A card's number as people may have it in hand: with the facility code before it, joined or not. */
const numberForms = ({ facilityCode, number }: Credential): string =>
  number === undefined ? "" : facilityCode === undefined ? number : `${facilityCode}-${number} ${facilityCode}${number}`;

type ColumnsOf = (compiled: CompiledFacility, directory: Directory, lastUseOf: LastUseOf) => Column[];

const text = (key: string, title: string, value: (position: Position) => Cell, more: Pick<Column, "choices" | "aside" | "derived"> = {}): Column => ({
  key,
  title,
  value,
  ...more,
});
const choices = { choices: true } as const;
const aside = { aside: true } as const;

const columnsOfKind: Readonly<Record<RegisterKind, ColumnsOf>> = {
  cardholder: (compiled, directory) => {
    const {
      facility: { cardholders, levels },
      holdings: { credentials },
    } = compiled;
    const levelsOf = levelsHeld(compiled);
    return [
      text("department", "Department", (i) => directory.name("group", cardholders[i]?.department) || undefined, choices),
      text("status", "Status", (i) => cardholders[i]?.status, choices),
      text("type", "Type", (i) => cardholders[i]?.type ?? "employee", choices),
      text("staffNumber", "Staff number", (i) => cardholders[i]?.staffNumber),
      text("credentials", "Credentials", (i) => (credentials.start[i + 1] as number) - (credentials.start[i] as number)),
      text("until", "Until", (i) => cardholders[i]?.until),
      text("from", "From", (i) => cardholders[i]?.from, aside),
      text("statusSince", "Status since", (i) => cardholders[i]?.statusSince, aside),
      text("company", "Company", (i) => cardholders[i]?.company, { ...choices, ...aside }),
      text("email", "Mail", (i) => cardholders[i]?.email, aside),
      text("manager", "Manager", (i) => directory.name("cardholder", cardholders[i]?.manager) || undefined, aside),
      text("sponsor", "Sponsor", (i) => directory.name("cardholder", cardholders[i]?.sponsor) || undefined, aside),
      text(
        "privileges",
        "Privileges",
        (i) => {
          const holder = cardholders[i];
          return (holder && privilegesOf(holder).join(", ")) || undefined;
        },
        { ...choices, ...aside },
      ),
      text("sites", "Sites", (i) => cardholders[i]?.sites?.map((id) => directory.name("site", id)).join(", "), aside),
      text("hours", "Own hours", (i) => directory.name("schedule", cardholders[i]?.hours) || undefined, { ...choices, ...aside }),
      text("calendar", "Own calendar", (i) => directory.name("calendar", cardholders[i]?.calendar) || undefined, { ...choices, ...aside }),
      text(
        "levels",
        "Levels",
        (i) =>
          levelsOf(i)
            .map((level) => levels[level]?.name)
            .join(", ") || undefined,
        { ...aside, derived: true },
      ),
    ];
  },
  credential: ({ facility: { credentials, cardholders } }, directory, lastUseOf) => [
    text("holder", "Cardholder", (i) => directory.name("cardholder", credentials[i]?.cardholder) || undefined),
    text("kind", "Kind", (i) => credentials[i]?.kind, choices),
    text("status", "Status", (i) => credentials[i]?.status, choices),
    text("printedNumber", "Printed number", (i) => credentials[i]?.printedNumber),
    text("until", "Until", (i) => credentials[i]?.until),
    text("lastUse", "Last use", lastUseOf),
    text("facilityCode", "Facility code", (i) => credentials[i]?.facilityCode, { ...choices, ...aside }),
    text(
      "number",
      "Number",
      (i) => {
        const credential = credentials[i];
        return (credential && numberForms(credential)) || undefined;
      },
      aside,
    ),
    text("bitFormat", "Format", (i) => credentials[i]?.bitFormat, { ...choices, ...aside }),
    text(
      "department",
      "Department",
      (i) => directory.name("group", cardholders[directory.position("cardholder", credentials[i]?.cardholder ?? "") ?? -1]?.department) || undefined,
      { ...choices, ...aside },
    ),
    text("statusSince", "Status since", (i) => credentials[i]?.statusSince, aside),
    text("from", "From", (i) => credentials[i]?.from, aside),
    text("issuedAt", "Handed out", (i) => credentials[i]?.issuedAt, aside),
    text("temporary", "Temporary", (i) => (credentials[i]?.temporary ? "temporary" : undefined), { ...choices, ...aside }),
    text("pin", "PIN", (i) => (credentials[i]?.hasPin || credentials[i]?.kind === "pin" || credentials[i]?.pinTag !== undefined ? "has a PIN" : undefined), {
      ...choices,
      ...aside,
    }),
  ],
  group: (compiled, directory) => [
    text("kind", "Kind", (i) => compiled.facility.groups[i]?.kind ?? "group", choices),
    text("parent", "Below", (i) => directory.name("group", compiled.facility.groups[i]?.parent) || undefined, choices),
    text("manager", "Manager", (i) => directory.name("cardholder", compiled.facility.groups[i]?.manager) || undefined),
    text("members", "People in it or below", (i) => compiled.cardholdersIn(i).size),
  ],
  door: (compiled, directory) => [
    text("area", "Leads into", (i) => directory.name("area", compiled.facility.doors[i]?.area) || undefined, choices),
    text("site", "Site", (i) => directory.name("site", compiled.facility.doors[i]?.site), choices),
    text("kind", "Kind", (i) => compiled.facility.doors[i]?.kind ?? "door", choices),
    text("sensitivity", "Sensitivity", (i) => doorSensitivity(compiled, i), choices),
    text("entry", "Entry", (i) => compiled.facility.doors[i]?.entry ?? "card", choices),
    text("unlock", "Unlocked by", (i) => directory.name("schedule", compiled.facility.doors[i]?.unlock) || undefined, choices),
    text("via", "Behind", (i) => directory.name("door", compiled.facility.doors[i]?.via) || undefined, aside),
    text("from", "Leads out of", (i) => directory.name("area", compiled.facility.doors[i]?.from) || undefined, aside),
    text("controller", "Controller", (i) => compiled.facility.doors[i]?.controller, { ...choices, ...aside }),
  ],
  area: ({ facility: { areas } }, directory) => [
    text("site", "Site", (i) => directory.name("site", areas[i]?.site), choices),
    text("parent", "Inside", (i) => directory.name("area", areas[i]?.parent) || undefined, choices),
    text("sensitivity", "Sensitivity", (i) => areas[i]?.sensitivity ?? 0, choices),
    text("owner", "Owner", (i) => directory.name("cardholder", areas[i]?.owner) || undefined),
    text("maxHolders", "At most", (i) => areas[i]?.maxHolders, aside),
  ],
  site: ({ facility: { sites } }, directory) => [
    text("timeZone", "Time zone", (i) => sites[i]?.timeZone, choices),
    text("calendar", "Calendar", (i) => directory.name("calendar", sites[i]?.calendar) || undefined, choices),
  ],
  doorGroup: ({ facility: { doorGroups } }, directory) => [
    text("doors", "Doors of its own", (i) => doorGroups[i]?.doors?.length ?? 0),
    text("groups", "Door groups in it", (i) => doorGroups[i]?.groups?.map((id) => directory.name("doorGroup", id)).join(", ") || undefined),
  ],
  level: ({ facility: { levels } }, directory) => [
    text("rows", "Rows", (i) => levels[i]?.rows?.length ?? 0),
    text(
      "schedules",
      "Schedules",
      (i) => [...new Set((levels[i]?.rows ?? []).map(({ schedule }) => directory.name("schedule", schedule)))].join(", ") || undefined,
      choices,
    ),
  ],
  bundle: ({ facility: { bundles } }, directory) => [
    text("levels", "Levels", (i) => bundles[i]?.levels?.map((id) => directory.name("level", id)).join(", ") || undefined),
  ],
  grant: ({ facility: { grants } }, directory) => [
    text("to", "Given to", (i) => grants[i] && directory.receiver(grants[i])),
    text(
      "receiver",
      "As a",
      (i) => (grants[i]?.to.group !== undefined ? "group" : grants[i]?.to.cardholder !== undefined ? "cardholder" : "credential"),
      choices,
    ),
    text("effect", "Effect", (i) => grants[i]?.effect ?? "allow", choices),
    text("open", "Opens", (i) => grants[i] && directory.target(grants[i])),
    text("schedule", "Narrowed by", (i) => directory.name("schedule", grants[i]?.schedule) || undefined, choices),
    text("until", "Until", (i) => grants[i]?.until),
    text("from", "From", (i) => grants[i]?.from, aside),
    text("inLockdown", "In a lockdown", (i) => (grants[i]?.inLockdown ? "counts" : undefined), { ...choices, ...aside }),
    text("authorised", "Authorised", (i) => [grants[i]?.authorised?.by, grants[i]?.authorised?.reference].filter(Boolean).join(", ") || undefined, aside),
    text("note", "Note", (i) => grants[i]?.note, aside),
  ],
  schedule: ({ facility: { schedules } }) => [
    text("kind", "Kind", (i) => (schedules[i]?.always ? "always" : "weekly"), choices),
    text("onHoliday", "On other day types", (i) => (schedules[i]?.always ? undefined : (schedules[i]?.onHoliday ?? "closed")), choices),
    text("dayTypes", "Rows for day types", (i) => Object.keys(schedules[i]?.holidays ?? {}).join(", ") || undefined),
    text("from", "From", (i) => schedules[i]?.from),
    text("until", "Until", (i) => schedules[i]?.until),
  ],
  calendar: ({ facility: { calendars, sites } }) => [
    text("entries", "Entries", (i) => calendars[i]?.days?.length ?? 0),
    text(
      "sites",
      "Sites",
      (i) =>
        sites
          .filter(({ calendar }) => calendar === calendars[i]?.id)
          .map(({ name }) => name)
          .join(", ") || undefined,
    ),
    text("dayTypes", "Day types", (i) => [...new Set((calendars[i]?.days ?? []).map(({ dayType }) => dayType))].join(", ") || undefined),
  ],
};

/**
 * The columns of a kind: its name and id first, then those that say most. `lastUseOf` tells when credentials were used last, where more is known than what
 * their source says.
 */
export function columnsOf(compiled: CompiledFacility, kind: RegisterKind, lastUseOf?: LastUseOf): Column[] {
  const { facility } = compiled;
  return [
    { key: "name", title: kind === "grant" ? "Grant" : "Name", value: (i) => nameOf(facility, kind, i) },
    ...columnsOfKind[kind](compiled, directoryOf(compiled), lastUseOf ?? ((i) => facility.credentials[i]?.lastUse)),
    ...(kind === "grant" ? [] : [{ key: "id", title: "Id", aside: true as const, value: (i: Position) => idOf(compiled, kind, i) }]),
  ];
}

export const idOf = ({ facility }: CompiledFacility, kind: RegisterKind, position: Position): string => facility[listOfKind[kind]][position]?.id ?? "";

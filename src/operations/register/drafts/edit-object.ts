import { daysOfWeek, weekWords } from "@/core/describe/week-words";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import { cardOfKey } from "@/core/events/told-card";
import type { ListKey } from "@/core/facility/document";
import { listKeys } from "@/core/facility/document";
import type { Plain } from "@/core/facility/object-key";
import { keyOf } from "@/core/facility/object-key";
import { rebase } from "@/core/drafting/change";
import { references } from "@/core/facility/references";
import { fold } from "@/core/register/fold";
import type { RegisterKind } from "@/core/register/kinds";
import { listOfKind } from "@/core/register/kinds";
import { minutesADay } from "@/core/time/civil-day";
import type { CivilDay } from "@/core/time/civil-day";
import type { IntervalSet } from "@/core/time/intervals";
import { openOnDate } from "@/core/time/schedule";
import type { OpenDraft } from "./draft-register";
import { labelOf, namesIn, openDraft, registerObject, withChanges } from "./draft-register";
import type { Suggestion } from "../list-register";
import { suggest } from "../list-register";
import type { Account } from "../../ports/accounts";
import { cardsWithoutOwner } from "../../events/cards-without-owner";
import type { Services } from "../../services";

export interface ScheduleChoice {
  readonly id: string;
  readonly name: string;
  /** Minutes from Monday 00:00 of an ordinary week; undefined for one that is only in the draft. */
  readonly week: IntervalSet | undefined;
  readonly words: string;
}

/** A member of a group or a group of a person, as the draft would have it. */
export interface MembershipRow {
  readonly key: string;
  readonly name: string;
  readonly other: string;
  readonly from: string | undefined;
  readonly until: string | undefined;
  /** Version of the draft's change of it, 0 for none. */
  readonly seen: number;
}

/** Everything that an editor of one object shows. */
export interface EditedObject {
  readonly draft: { readonly id: number; readonly name: string };
  readonly snapshot: number;
  readonly list: ListKey;
  /** Undefined for an object that is not there yet. */
  readonly key: string | undefined;
  /** How the register has it, and how the draft would. */
  readonly present: Plain | undefined;
  readonly value: Plain;
  /** The zone in which dates of the register are read. */
  readonly timeZone: string;
  readonly seen: number;
  readonly label: string;
  /** What the objects that it refers to are called, by list and id. */
  readonly names: Readonly<Record<string, string>>;
  readonly schedules: readonly ScheduleChoice[];
  readonly dayTypes: readonly string[];
  /** Of a group its members of its own, of a cardholder their groups; the first of them. */
  readonly memberships: readonly MembershipRow[];
  readonly membershipCount: number;
  /** Numbers that doors saw and the register does not have, for a credential that is to be added. */
  readonly unknownNumbers: readonly UnknownNumber[];
  readonly also: readonly { readonly draft: number; readonly owner: string }[];
}

/** What doors saw of a card that nobody in the register has: its id or number, how often, and the minute of the last time. */
export interface UnknownNumber {
  readonly credential: string;
  readonly facilityCode: string | undefined;
  readonly times: number;
  readonly lastAt: number;
}

const monday = 4 as CivilDay;
const membershipsShown = 400;
const unknownShown = 200;

function scheduleChoices({ register }: OpenDraft, schedules: readonly { readonly id: string; readonly name: string }[]): ScheduleChoice[] {
  const { facility, schedules: compiled } = register.compiled;
  const position = new Map(facility.schedules.map(({ id }, i) => [id, i]));
  return schedules
    .map(({ id, name }) => {
      const rule = compiled[position.get(id) ?? -1];
      const week =
        rule &&
        Array.from({ length: 7 }, (_, day) => openOnDate(rule, undefined, (monday + day) as CivilDay).map((minute) => minute + day * minutesADay)).flat();
      return { id, name, week, words: week ? weekWords(daysOfWeek(week)) : "" };
    })
    .sort((a, b) => (a.name < b.name ? -1 : 1));
}

/** The ids that an object refers to, by list. */
function referredIds(list: ListKey, object: Plain): { readonly list: ListKey; readonly id: string }[] {
  const walk = (value: unknown, path: readonly string[]): string[] => {
    const [key, ...rest] = path;
    if (key === undefined) return typeof value === "string" ? [value] : [];
    if (key === "*") return Array.isArray(value) ? (value as unknown[]).flatMap((element) => walk(element, rest)) : [];
    return typeof value === "object" && value !== null ? walk((value as Plain)[key], rest) : [];
  };
  return references.filter(({ from }) => from === list).flatMap(({ path, to }) => walk(object, path).map((id) => ({ list: to, id })));
}

function membershipsOf(open: OpenDraft, list: ListKey, key: string): { rows: MembershipRow[]; count: number } {
  if (list !== "groups" && list !== "cardholders") return { rows: [], count: 0 };
  const [own, other] = list === "groups" ? (["group", "cardholder"] as const) : (["cardholder", "group"] as const);
  const name = namesIn(open);
  const standing = new Map(
    open.changes.filter((change) => change.list === "memberships" && change.value).map((change) => [keyOf("memberships", change.value ?? {}), change]),
  );
  const rows = withChanges(open)
    .facility.memberships.filter((membership) => membership[own] === key)
    .map((membership): MembershipRow => {
      const changed = standing.get(keyOf("memberships", membership as unknown as Plain));
      const { from, until } = membership;
      return {
        key: changed?.key ?? keyOf("memberships", membership as unknown as Plain),
        other: membership[other],
        name: name(list === "groups" ? "cardholders" : "groups", membership[other]),
        from,
        until,
        seen: changed?.version ?? 0,
      };
    });
  rows.sort((a, b) => (a.name < b.name ? -1 : a.name > b.name ? 1 : 0));
  return { rows: rows.slice(0, membershipsShown), count: rows.length };
}

/** An object of a draft ready to be edited; a new one begins with what is given. Undefined where there is no such draft or object, or it is not open. */
export async function editObject(
  services: Services,
  account: Account,
  id: number,
  list: ListKey,
  key: string | undefined,
  given: Plain = {},
): Promise<EditedObject | undefined> {
  if (!listKeys.includes(list)) return undefined;
  const open = await openDraft(services, account, id);
  if (open?.draft.state !== "open") return undefined;
  const change = open.changes.find((one) => one.list === list && one.key === key);
  const present = key === undefined ? undefined : registerObject(open.register, list, key);
  const standing = change ? (rebase(change, present).value ?? present ?? change.base) : present;
  if (key !== undefined && standing === undefined) return undefined;
  const name = namesIn(open);
  const value = standing ?? given;
  const { facility } = withChanges(open);
  const memberships = key === undefined ? { rows: [], count: 0 } : membershipsOf(open, list, key);
  const needsSchedules = list === "levels" || list === "grants";
  return {
    draft: { id, name: open.draft.name },
    snapshot: open.register.snapshot.id,
    list,
    key,
    present,
    timeZone: open.register.compiled.facility.timeZone,
    value,
    seen: change?.version ?? 0,
    label: key === undefined ? "" : labelOf(list, value, name),
    names: Object.fromEntries(referredIds(list, value).map((one) => [`${one.list} ${one.id}`, name(one.list, one.id)])),
    schedules: needsSchedules ? scheduleChoices(open, facility.schedules) : [],
    dayTypes:
      list === "schedules" || list === "calendars"
        ? [...new Set(facility.calendars.flatMap(({ days }) => (days ?? []).map(({ dayType }) => dayType)))].sort()
        : [],
    memberships: memberships.rows,
    membershipCount: memberships.count,
    unknownNumbers: list === "credentials" && key === undefined ? await unknownNumbers(services, open.register.compiled) : [],
    also: key === undefined ? [] : await services.drafts.alsoChanging(id, { list, key }),
  };
}

/** Credentials that doors saw and the register does not have, those seen most often first. */
async function unknownNumbers(services: Services, compiled: CompiledFacility): Promise<EditedObject["unknownNumbers"]> {
  const unknown = (await cardsWithoutOwner(services, compiled)).filter(({ isUnknown }) => isUnknown).slice(0, unknownShown);
  return unknown.map(({ card, events, last }) => {
    const { credential, number, facilityCode } = cardOfKey(card);
    return { credential: credential ?? number ?? "", facilityCode, times: events, lastAt: Math.floor(last / 60) };
  });
}

/** Objects of some kinds that a draft can refer to: those of the register with all words in some field, and the draft's own. */
export async function suggestInDraft(
  services: Services,
  account: Account,
  id: number,
  kinds: readonly RegisterKind[],
  text: string,
  limit: number,
): Promise<Suggestion[]> {
  const open = await openDraft(services, account, id);
  if (!open) return [];
  const name = namesIn(open);
  const wanted = fold(text);
  const own = kinds.flatMap((kind) =>
    open.changes
      .filter(({ list, base, value }) => list === listOfKind[kind] && base === undefined && value !== undefined)
      .map(({ list, key, value }): Suggestion => ({ kind, id: key, name: labelOf(list, value ?? {}, name), detail: "in this draft", status: undefined }))
      .filter((suggestion) => fold(`${suggestion.name} ${suggestion.id}`).includes(wanted)),
  );
  return [...own, ...suggest(services, account, open.register, kinds, text, limit).items].slice(0, limit);
}

/** A department with people in it, as the draft would have it. */
export interface BoardColumn {
  readonly id: string | undefined;
  readonly name: string;
  readonly total: number;
  readonly people: readonly { readonly id: string; readonly name: string; readonly moved: boolean }[];
}

export interface PeopleBoard {
  readonly draft: { readonly id: number; readonly name: string };
  readonly departments: readonly { readonly id: string; readonly name: string; readonly count: number }[];
  readonly columns: readonly BoardColumn[];
}

const peopleShown = 150;

/** Departments beside each other with their people, to move these from one to another; the empty id stands for no department. */
export async function peopleBoard(
  services: Services,
  account: Account,
  id: number,
  columns: readonly string[],
  text: string,
): Promise<PeopleBoard | undefined> {
  const open = await openDraft(services, account, id);
  if (open?.draft.state !== "open") return undefined;
  const { facility } = withChanges(open);
  const before = new Map(open.changes.filter(({ list }) => list === "cardholders").map(({ key, base }) => [key, base?.department]));
  const counts = new Map<string, number>();
  for (const { department = "" } of facility.cardholders) counts.set(department, (counts.get(department) ?? 0) + 1);
  const departments = facility.groups
    .filter(({ id: group, kind }) => kind === "department" || counts.has(group))
    .map(({ id: group, name }) => ({ id: group, name, count: counts.get(group) ?? 0 }))
    .sort((a, b) => (a.name < b.name ? -1 : 1));
  const wanted = fold(text);
  const column = (group: string): BoardColumn => {
    const people = facility.cardholders.filter(
      ({ department, name, staffNumber }) => (department ?? "") === group && (wanted === "" || fold(`${name} ${staffNumber ?? ""}`).includes(wanted)),
    );
    people.sort((a, b) => (a.name < b.name ? -1 : a.name > b.name ? 1 : 0));
    return {
      id: group === "" ? undefined : group,
      name: group === "" ? "No department" : (facility.groups.find((one) => one.id === group)?.name ?? group),
      total: people.length,
      people: people
        .slice(0, peopleShown)
        .map(({ id: person, name }) => ({ id: person, name, moved: before.has(person) && (before.get(person) ?? "") !== group })),
    };
  };
  const shown = columns.length > 0 ? columns : ["", ...departments.map((one) => one.id)].slice(0, 3);
  return {
    draft: { id, name: open.draft.name },
    departments: [{ id: "", name: "No department", count: counts.get("") ?? 0 }, ...departments],
    columns: shown.map(column),
  };
}

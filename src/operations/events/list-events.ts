import type { CompiledFacility } from "@/core/compile/compiled-facility";
import { credentialsOf } from "@/core/compile/holdings";
import type { Position } from "@/core/compile/position-index";
import { cardKey, cardOfKey, ownersIn } from "@/core/events/told-card";
import type { ToldCard } from "@/core/events/told-card";
import { credentialLabel } from "@/core/facility/labels";
import { groupBy } from "@/core/kernel/compare";
import { fold } from "@/core/register/fold";
import type { RegisterKind } from "@/core/register/kinds";
import { addDays, formatCivilDay } from "@/core/time/civil-day";
import type { CivilDay } from "@/core/time/civil-day";
import type { EpochMinute } from "@/core/time/instant";
import { firstMinuteFrom, localTime, zoneOf } from "@/core/time/zone";
import type { Account } from "../ports/accounts";
import type { EventFile, EventFilter, EventGroup, EventPlace, StoredEvent } from "../ports/events";
import { listIndexOf } from "../register/list-register";
import type { OpenRegister } from "../register/open-register";
import { demand } from "../rights";
import type { Services } from "../services";
import { cardsWithoutOwner, wordsOfCard } from "./cards-without-owner";
import { heldAgainst } from "./record-of-time";
import type { HeldEvent } from "./record-of-time";

/** What is asked of the list of events. Dates are those of the facility's zone. */
export interface AskedEvents {
  /** Any part of a door's, person's or card's fields, of an unknown number, or of a reason. */
  readonly text: string;
  /** Those at a door, or of a person or a card. */
  readonly about: { readonly kind: "door" | "cardholder" | "credential"; readonly id: string } | undefined;
  /** Those of what events tell of one card; see `cardKey`. */
  readonly card: string | undefined;
  readonly granted: boolean | undefined;
  /** Empty for those without a reason. */
  readonly reason: string | undefined;
  readonly from: CivilDay | undefined;
  /** The last date. */
  readonly to: CivilDay | undefined;
  readonly by: "door" | "person" | "card" | "hour" | undefined;
  readonly behind: EventPlace | undefined;
}

/** What an event tells of a card, as the register knows it. */
export interface CardOfEvent {
  readonly words: string;
  /** Undefined where the register does not know it, or several have its number. */
  readonly credential: string | undefined;
  readonly cardholder: { readonly id: string; readonly name: string } | undefined;
  readonly isOneOfSeveral: boolean;
  /** The number and facility code of a card that the register does not know, where they were told. */
  readonly unknown?: { readonly number: string; readonly facilityCode: string | undefined };
}

export interface ShownEvent extends EventPlace, HeldEvent {
  readonly door: { readonly id: string; readonly name: string; readonly isKnown: boolean };
  /** The zone of the door's clock; the facility's for one that is not known. */
  readonly zone: string;
  readonly card: CardOfEvent;
  readonly granted: boolean;
  readonly reason: string | undefined;
}

export interface ShownEventGroup {
  readonly key: string;
  readonly name: string;
  readonly about: AskedEvents["about"];
  /** What events tell of the card, where the group is of one that the register does not know. */
  readonly card: string | undefined;
  readonly events: number;
  readonly granted: number;
  readonly last: number;
}

export interface EventsPage {
  readonly events: readonly ShownEvent[];
  readonly next: EventPlace | undefined;
  readonly groups: readonly ShownEventGroup[] | undefined;
  readonly reasons: readonly string[];
  readonly span: { readonly from: number; readonly to: number } | undefined;
  /** Cards that nobody in the register has, with how many events each: how many there are, and those seen most often. */
  readonly unknown: { readonly count: number; readonly most: readonly { readonly card: string; readonly words: string; readonly events: number }[] };
  /** What the events are about, by name, where one thing is asked for. */
  readonly aboutName: string | undefined;
  /** Where looking for a text was given up: nothing older than this second was looked at. */
  readonly lookedBackTo: number | undefined;
}

const eventsShown = 100;
const groupsShown = 300;
const unknownNamed = 6;
/** So many ids are named in a statement; of more, events are looked through one by one. */
const idsNamed = 600;
/** So many events are looked through for a text that fits too much to be named. */
const lookedThrough = 60_000;

const nothingFiltered = { filters: {}, sort: "name", group: undefined };

/** Whose events are asked for, as what events tell of cards. */
function cardsOf(compiled: CompiledFacility, about: { readonly kind: "cardholder" | "credential"; readonly id: string }): string[] {
  const owners = ownersIn(compiled);
  const position = (about.kind === "cardholder" ? compiled.cardholderById : compiled.credentialById).get(about.id);
  if (position === undefined) return about.kind === "credential" ? [cardKey({ credential: about.id })] : [];
  if (about.kind === "credential") return [...owners.keysOf(position)];
  return Array.from(credentialsOf(compiled.holdings, position), (at) => owners.keysOf(at)).flat();
}

/** What of a register, of unknown cards and of reasons has all words of a text in it: as what events tell of them. */
async function matching(services: Services, compiled: CompiledFacility, text: string): Promise<NonNullable<EventFilter["either"]>> {
  const words = fold(text).split(/\s+/).filter(Boolean);
  const fits = (candidate: string): boolean => words.every((word) => fold(candidate).includes(word));
  const found = (kind: RegisterKind): Iterable<Position> => listIndexOf(compiled, kind).find({ ...nothingFiltered, text }).positions;
  const credentials = new Set(found("credential"));
  for (const person of found("cardholder")) for (const credential of credentialsOf(compiled.holdings, person)) credentials.add(credential);
  const owners = ownersIn(compiled);
  const cards = Array.from(credentials, (at) => owners.keysOf(at)).flat();
  const unknown = (await cardsWithoutOwner(services, compiled)).filter(({ words }) => fits(words)).map(({ card }) => card);
  return {
    doors: Array.from(found("door"), (at) => compiled.facility.doors[at]?.id ?? ""),
    cards: [...cards, ...unknown],
    reasons: (await services.events.reasons()).filter(fits),
  };
}

function cardOf({ facility, ...compiled }: CompiledFacility, told: ToldCard, owners: ReturnType<typeof ownersIn>): CardOfEvent {
  const owner = owners.ownerOf(told);
  const credential = typeof owner === "number" ? facility.credentials[owner] : undefined;
  if (!credential) {
    const { number, facilityCode } = told;
    const unknown = owner === "unknown" && told.credential === undefined && number !== undefined ? { unknown: { number, facilityCode } } : {};
    return { words: wordsOfCard(told), credential: undefined, cardholder: undefined, isOneOfSeveral: owner === "one-of-several", ...unknown };
  }
  const holder = facility.cardholders[compiled.cardholderById.get(credential.cardholder ?? "") ?? -1];
  return { words: credentialLabel(credential), credential: credential.id, cardholder: holder && { id: holder.id, name: holder.name }, isOneOfSeveral: false };
}

interface Asking {
  readonly filter: EventFilter | undefined;
  /** What cannot be named in a statement is looked at event by event. */
  readonly fits: ((event: StoredEvent) => boolean) | undefined;
}

async function askingOf(services: Services, compiled: CompiledFacility, asked: AskedEvents): Promise<Asking> {
  const zone = zoneOf(compiled.facility.timeZone);
  const { about } = asked;
  const ofCards = about && about.kind !== "door" ? cardsOf(compiled, { kind: about.kind, id: about.id }) : asked.card === undefined ? undefined : [asked.card];
  const filter: EventFilter = {
    ...(about?.kind === "door" && { doors: [about.id] }),
    ...(ofCards && { cards: ofCards }),
    ...(asked.granted !== undefined && { granted: asked.granted }),
    ...(asked.reason !== undefined && { reason: asked.reason }),
    ...(asked.from !== undefined && { from: firstMinuteFrom(zone, asked.from) * 60 }),
    ...(asked.to !== undefined && { before: firstMinuteFrom(zone, addDays(asked.to, 1)) * 60 }),
  };
  if (asked.text.trim() === "") return { filter, fits: undefined };
  const either = await matching(services, compiled, asked.text);
  const named = either.doors.length + either.cards.length + either.reasons.length;
  if (named === 0) return { filter: undefined, fits: undefined };
  if (named <= idsNamed) return { filter: { ...filter, either }, fits: undefined };
  const [doors, cards, reasons] = [new Set(either.doors), new Set(either.cards), new Set(either.reasons)];
  return { filter, fits: (event) => doors.has(event.door) || cards.has(cardKey(event)) || (event.reason !== undefined && reasons.has(event.reason)) };
}

/** The next events that fit, and where looking ended. */
async function nextEvents(
  services: Services,
  { filter, fits }: Asking,
  behind: EventPlace | undefined,
): Promise<{ readonly events: StoredEvent[]; readonly lookedBackTo: number | undefined }> {
  if (!filter) return { events: [], lookedBackTo: undefined };
  if (!fits) return { events: await services.events.page(filter, behind, eventsShown + 1), lookedBackTo: undefined };
  const found: StoredEvent[] = [];
  let at = behind;
  for (let looked = 0; looked < lookedThrough;) {
    const some = await services.events.page(filter, at, 2000);
    for (const event of some) if (fits(event)) found.push(event);
    if (found.length > eventsShown || some.length < 2000) return { events: found.slice(0, eventsShown + 1), lookedBackTo: undefined };
    looked += some.length;
    at = some.at(-1);
  }
  return { events: found, lookedBackTo: at?.second };
}

function groupsOf(compiled: CompiledFacility, by: NonNullable<AskedEvents["by"]>, groups: readonly EventGroup[]): ShownEventGroup[] {
  const owners = ownersIn(compiled);
  const named = groups.map((group): ShownEventGroup => {
    const numbers = { events: group.events, granted: group.granted, last: group.last };
    if (by === "hour") return { ...numbers, key: group.key, name: group.key, about: undefined, card: undefined };
    if (by === "door") {
      const door = compiled.facility.doors[compiled.doorById.get(group.key) ?? -1];
      return { ...numbers, key: group.key, name: door?.name ?? group.key, about: { kind: "door", id: group.key }, card: undefined };
    }
    const card = cardOf(compiled, cardOfKey(group.key), owners);
    if (by === "person" && card.cardholder)
      return {
        ...numbers,
        key: `cardholder ${card.cardholder.id}`,
        name: card.cardholder.name,
        about: { kind: "cardholder", id: card.cardholder.id },
        card: undefined,
      };
    if (card.credential !== undefined)
      return { ...numbers, key: `credential ${card.credential}`, name: card.words, about: { kind: "credential", id: card.credential }, card: undefined };
    return { ...numbers, key: group.key, name: card.words, about: undefined, card: group.key };
  });
  const together = new Map<string, ShownEventGroup>();
  for (const group of named) {
    const known = together.get(group.key);
    const sum = known && { ...known, events: known.events + group.events, granted: known.granted + group.granted, last: Math.max(known.last, group.last) };
    together.set(group.key, sum ?? group);
  }
  return [...together.values()].sort((a, b) => (by === "hour" ? Number(a.key) - Number(b.key) : b.events - a.events)).slice(0, groupsShown);
}

/** Events put together as the store knows them; of cards that are to come to persons all, so that nobody's are left out. */
async function groupedBy(services: Services, compiled: CompiledFacility, filter: EventFilter, by: NonNullable<AskedEvents["by"]>): Promise<EventGroup[]> {
  if (by === "hour") {
    const zones = [...groupBy(compiled.doors, ({ zone }) => zone)].map(([zone, doors]) => ({ zone, doors: doors.map(({ door }) => door.id) }));
    return services.events.hours(filter, { zones, others: zoneOf(compiled.facility.timeZone) });
  }
  return by === "person" ? services.events.groups(filter, "card", Number.MAX_SAFE_INTEGER) : services.events.groups(filter, by, groupsShown);
}

/** Events, the newest first, each with what the record of its time says; or groups of them. */
export async function listEvents(services: Services, account: Account, { compiled }: OpenRegister, asked: AskedEvents): Promise<EventsPage> {
  demand(account, "read-whole");
  const { facility } = compiled;
  const owners = ownersIn(compiled);
  const asking = await askingOf(services, compiled, asked);
  const { about } = asked;
  const aboutName =
    about === undefined
      ? asked.card && wordsOfCard(cardOfKey(asked.card))
      : about.kind === "door"
        ? (facility.doors[compiled.doorById.get(about.id) ?? -1]?.name ?? about.id)
        : about.kind === "cardholder"
          ? (facility.cardholders[compiled.cardholderById.get(about.id) ?? -1]?.name ?? about.id)
          : cardOf(compiled, { credential: about.id }, owners).words;
  const strangers = (await cardsWithoutOwner(services, compiled)).filter(({ isUnknown }) => isUnknown);
  const most = strangers.slice(0, unknownNamed);
  const base = {
    reasons: await services.events.reasons(),
    span: await services.events.span(),
    unknown: { count: strangers.length, most },
    aboutName,
  };
  const { by } = asked;
  if (by !== undefined) {
    // What fits too much to be named is not put together: the text has to say more.
    const groups = asking.filter && !asking.fits ? await groupedBy(services, compiled, asking.filter, by) : [];
    return { ...base, events: [], next: undefined, groups: groupsOf(compiled, by, groups), lookedBackTo: asking.fits ? base.span?.to : undefined };
  }
  const { events, lookedBackTo } = await nextEvents(services, asking, asked.behind);
  const shown = events.slice(0, eventsShown);
  const held = await heldAgainst(services, shown);
  const last = shown.at(-1);
  return {
    ...base,
    groups: undefined,
    lookedBackTo,
    next: events.length > eventsShown && last ? { second: last.second, file: last.file, line: last.line } : undefined,
    events: shown.map((event, i): ShownEvent => {
      const door = compiled.doors[compiled.doorById.get(event.door) ?? -1];
      return {
        second: event.second,
        file: event.file,
        line: event.line,
        door: { id: event.door, name: door?.door.name ?? event.door, isKnown: door !== undefined },
        zone: door?.zone.name ?? facility.timeZone,
        card: cardOf(compiled, event, owners),
        granted: event.granted,
        reason: event.reason,
        ...(held[i] ?? { agreement: { agrees: "cannot-tell", why: "unknown-door" }, snapshot: 0, isLater: false }),
      };
    }),
  };
}

/** The files that events came in, the latest first. */
export async function listEventFiles(services: Services, account: Account): Promise<EventFile[]> {
  demand(account, "read-whole");
  return services.events.files();
}

/** So many dates are held against the record where nobody says otherwise. */
const usualReplayDays = 30;

/** From when to when there are events, as local dates of the facility, and which of these are held against the record first; undefined without a register. */
export async function datesOfEvents(
  services: Services,
  account: Account,
): Promise<
  { readonly span: { readonly from: string; readonly to: string } | undefined; readonly usual: { readonly from: string; readonly to: string } } | undefined
> {
  demand(account, "read-whole");
  const snapshot = await services.snapshots.latest();
  if (!snapshot) return undefined;
  const zone = zoneOf(snapshot.timeZone);
  const dateOf = (second: number): CivilDay => localTime(zone, Math.floor(second / 60) as EpochMinute).date;
  const span = await services.events.span();
  const last = dateOf(Math.min(span?.to ?? Infinity, Date.parse(services.now()) / 1000));
  return {
    span: span && { from: formatCivilDay(dateOf(span.from)), to: formatCivilDay(dateOf(span.to)) },
    usual: { from: formatCivilDay(addDays(last, 1 - usualReplayDays)), to: formatCivilDay(last) },
  };
}

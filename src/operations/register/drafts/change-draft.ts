import type { RebasedChange } from "@/core/drafting/change";
import { fieldChanges, rebase, sameValue } from "@/core/drafting/change";
import type { BoxFault, CardBox } from "@/core/drafting/card-box";
import { cardsOf, faultsOf } from "@/core/drafting/card-box";
import { differingParts } from "@/core/drafting/field-words";
import { applyChanges } from "@/core/drafting/apply-changes";
import { doubtsOfCard } from "@/core/drafting/card-doubts";
import { removalOf } from "@/core/drafting/removal";
import type { Credential, ListKey } from "@/core/facility/document";
import type { Facility } from "@/core/facility/facility";
import type { FacilityChange } from "@/core/facility/facility-change";
import { compareCodePoints } from "@/core/kernel/compare";
import { normalObject } from "@/core/facility/normal-form";
import type { Plain } from "@/core/facility/object-key";
import { keyOf } from "@/core/facility/object-key";
import { checkObject } from "@/intake/formats/facility/check-object";
import { issueWords } from "@/intake/formats/facility/issue-words";
import type { OpenDraft } from "./draft-register";
import { namesIn, openDraft, registerObject } from "./draft-register";
import type { Account } from "../../ports/accounts";
import type { StoredChange, WantedChange } from "../../ports/drafts";
import { demand } from "../../rights";
import type { Services } from "../../services";

/** An object as somebody wants it to be; `seen` is the version of the draft's change that they had before them, 0 for none. */
export interface WantedObject {
  readonly list: ListKey;
  /** Undefined for an object that is to be added. */
  readonly key: string | undefined;
  /** Undefined for an object that is to be taken away. */
  readonly value: Plain | undefined;
  readonly seen: number;
}

/** A change to the register as it is wanted in a draft that has nothing of its object yet. */
export const wantedOf = (change: FacilityChange): WantedObject => ({
  list: change.list,
  key: change.do === "add" ? undefined : change.list === "memberships" ? keyOf("memberships", { ...change.membership }) : change.id,
  value: change.do === "remove" ? undefined : change.object,
  seen: 0,
});

export interface FieldFault {
  /** Way to the value below the object: `rows[2].schedule`; empty for the object itself. */
  readonly path: string;
  readonly message: string;
}

/** What somebody else made of an object meanwhile, against what was to be written. */
export interface Difference {
  readonly list: ListKey;
  readonly key: string;
  readonly changedBy: string;
  readonly changedAt: string;
  /** Version of their change, to write on top of it. */
  readonly version: number;
  readonly fields: readonly { readonly field: string; readonly theirs: readonly string[]; readonly yours: readonly string[] }[];
}

export type ChangeOutcome =
  | { readonly outcome: "written"; readonly revision: number }
  | { readonly outcome: "faulty"; readonly faults: readonly FieldFault[] }
  /** Nothing is wrong with it, and it is seldom meant: it is written where that is said once more. */
  | { readonly outcome: "doubtful"; readonly doubts: readonly FieldFault[] }
  /** What is to be taken out takes other objects with it: they are to be wanted gone as well. */
  | { readonly outcome: "takes-along"; readonly along: readonly (WantedObject & { readonly label: string })[] }
  | { readonly outcome: "changed-meanwhile"; readonly differences: readonly Difference[] }
  | { readonly outcome: "ended" };

const ended: ChangeOutcome = { outcome: "ended" };

async function writable(services: Services, account: Account, id: number): Promise<OpenDraft | undefined> {
  demand(account, "edit-drafts");
  const open = await openDraft(services, account, id);
  return open?.draft.state === "open" ? open : undefined;
}

const changeOf = (changes: readonly StoredChange[], list: ListKey, key: string): StoredChange | undefined =>
  changes.find((change) => change.list === list && change.key === key);

async function write(services: Services, account: Account, open: OpenDraft, wanted: readonly WantedChange[]): Promise<ChangeOutcome> {
  const written = await services.drafts.write(open.draft.id, wanted, account, services.now());
  if (written.outcome !== "changed-meanwhile") return written;
  const latest = { ...open, changes: await services.drafts.changes(open.draft.id) };
  const name = namesIn(latest);
  const differences = wanted.flatMap(({ list, key, value, seen }): Difference[] => {
    const theirs = changeOf(latest.changes, list, key);
    if ((theirs?.version ?? 0) === seen) return [];
    const present = registerObject(open.register, list, key);
    return [
      {
        list,
        key,
        changedBy: theirs?.changedBy ?? "somebody",
        changedAt: theirs?.changedAt ?? "",
        version: theirs?.version ?? 0,
        fields: fieldChanges(theirs ? theirs.value : present, value).map(({ field, before, after }) => {
          const { gone, come } = differingParts(list, field, before, after, name);
          return { field, theirs: gone, yours: come };
        }),
      },
    ];
  });
  return { outcome: "changed-meanwhile", differences };
}

/** The register with the draft's changes in it and those that are wanted on top of them. */
function triedWith(open: OpenDraft, wanted: readonly WantedChange[]): Facility {
  const replaced = new Set(wanted.map(({ list, key }) => `${list} ${key}`));
  return applyChanges(open.register.compiled.facility, [...open.changes.filter(({ list, key }) => !replaced.has(`${list} ${key}`)), ...wanted]).facility;
}

/** What is asked of somebody before objects are taken out; undefined where nothing hangs on them. */
function askedOfRemoval(open: OpenDraft, wanted: readonly WantedChange[]): ChangeOutcome | undefined {
  const removed = wanted.filter(({ value }) => value === undefined);
  if (removed.length === 0) return undefined;
  const { along, holding } = removalOf(triedWith(open, wanted), removed);
  const name = namesIn(open);
  if (holding.length > 0)
    return {
      outcome: "faulty",
      faults: holding
        .slice(0, holdingNamed)
        .map(({ list, key, field, to }) => ({
          path: "",
          message: `${name(list, key)} still names ${name(to.list, to.key)} (${field}); let it name another first.`,
        })),
    };
  if (along.length === 0) return undefined;
  return {
    outcome: "takes-along",
    along: along.map(({ list, key }) => ({ list, key, value: undefined, seen: changeOf(open.changes, list, key)?.version ?? 0, label: name(list, key) })),
  };
}

const holdingNamed = 20;

/** What is asked, or wrong, about the cards that are wanted. */
function doubtsAbout(open: OpenDraft, wanted: readonly WantedChange[]): ReturnType<typeof doubtsOfCard> {
  const cards = wanted.filter(({ list, value, base }) => list === "credentials" && value !== undefined && !sameValue(value, base));
  if (cards.length === 0) return [];
  const { credentials } = triedWith(open, wanted);
  return cards.flatMap(({ value, base }) => {
    const before = base && doubtsOfCard(base as unknown as Credential, credentials);
    // What was so before is not asked again.
    return doubtsOfCard(value as unknown as Credential, credentials).filter(({ message }) => !before?.some((one) => one.message === message));
  });
}

/**
 * Writes objects into a draft as they are wanted, all or none; what is wrong with them is told all at once. What is doubtful is written
 * only `despite` the doubts.
 */
export async function changeDraft(
  services: Services,
  account: Account,
  id: number,
  objects: readonly WantedObject[],
  despite: boolean,
): Promise<ChangeOutcome> {
  const open = await writable(services, account, id);
  if (!open) return ended;
  const faults: FieldFault[] = [];
  const standing = new Map(open.changes.map((change) => [`${change.list} ${change.key}`, change]));
  const wanted = objects.flatMap(({ list, key: given, value, seen }): WantedChange[] => {
    const issues = value === undefined ? [] : checkObject(list, value);
    faults.push(...issues.map((issue) => ({ path: issue.path, message: issueWords(issue) })));
    if (issues.length > 0) return [];
    const normal = value && (normalObject(value, list) as Plain);
    const key = given ?? keyOf(list, normal ?? {});
    const before = standing.get(`${list} ${key}`);
    const present = registerObject(open.register, list, key);
    if (given === undefined && (present !== undefined || before?.value !== undefined)) {
      faults.push({
        path: list === "memberships" ? "cardholder" : "id",
        message: list === "memberships" ? "This membership is there already." : `"${key}" is used already; expected an id of its own.`,
      });
      return [];
    }
    if (given !== undefined && list !== "memberships" && normal && keyOf(list, normal) !== given) {
      faults.push({ path: "id", message: `Found "${keyOf(list, normal)}"; expected "${given}", as an object keeps its id.` });
      return [];
    }
    return [{ list, key, base: before ? before.base : present, value: normal, seen }];
  });
  const doubts = faults.length > 0 ? [] : doubtsAbout(open, wanted);
  const asFault = ({ field, message }: (typeof doubts)[number]): FieldFault => ({ path: field, message });
  faults.push(...doubts.filter(({ isFault }) => isFault).map(asFault));
  if (faults.length > 0) return { outcome: "faulty", faults };
  const asked = askedOfRemoval(open, wanted);
  if (asked) return asked;
  if (doubts.length > 0 && !despite) return { outcome: "doubtful", doubts: doubts.map(asFault) };
  return write(services, account, open, wanted);
}

/** Takes a change back: the object is as the register has it. */
export async function takeBack(
  services: Services,
  account: Account,
  id: number,
  change: { readonly list: ListKey; readonly key: string; readonly seen: number },
): Promise<ChangeOutcome> {
  const open = await writable(services, account, id);
  const standing = open && changeOf(open.changes, change.list, change.key);
  return standing ? write(services, account, open, [{ ...standing, value: standing.base, seen: change.seen }]) : ended;
}

/** Takes all changes of a kind back, if the draft is as it was seen. */
export async function takeBackAll(services: Services, account: Account, id: number, list: ListKey, revision: number): Promise<ChangeOutcome> {
  const open = await writable(services, account, id);
  const standing = open?.changes.filter((change) => change.list === list) ?? [];
  if (!open || standing.length === 0) return ended;
  if (open.draft.revision !== revision) return { outcome: "changed-meanwhile", differences: [] };
  return write(
    services,
    account,
    open,
    standing.map((change) => ({ ...change, value: change.base, seen: change.version })),
  );
}

const withPresent = ({ value, present, clashes }: RebasedChange): Plain | undefined => {
  if (clashes.some(({ field }) => field === "")) return present;
  const taken: Record<string, unknown> = { ...value };
  for (const { field, present: now } of clashes)
    if (now === undefined) delete taken[field];
    else taken[field] = now;
  return taken;
};

/** Settles what both the draft and the register have changed: by the draft's wish, or by what the register says now. */
export async function settleClash(
  services: Services,
  account: Account,
  id: number,
  change: { readonly list: ListKey; readonly key: string; readonly seen: number },
  take: "draft" | "register",
): Promise<ChangeOutcome> {
  const open = await writable(services, account, id);
  const standing = open && changeOf(open.changes, change.list, change.key);
  if (!standing) return ended;
  const onTop = rebase(standing, registerObject(open.register, change.list, change.key));
  return write(services, account, open, [
    { list: change.list, key: change.key, base: onTop.present, value: take === "draft" ? onTop.value : withPresent(onTop), seen: change.seen },
  ]);
}

export type BoxOutcome =
  | ChangeOutcome
  | {
      readonly outcome: "faulty-box";
      readonly faults: readonly BoxFault[];
      readonly taken: readonly { readonly number: string; readonly by: string }[];
      readonly takenCount: number;
    };

const takenShown = 12;

/** Adds a box of cards to a draft; refused where one of its cards is there already, by id, by facility code and number, or by the number in print. */
export async function addBox(services: Services, account: Account, id: number, box: CardBox): Promise<BoxOutcome> {
  const open = await writable(services, account, id);
  if (!open) return ended;
  const faults = faultsOf(box);
  if (faults.length > 0) return { outcome: "faulty-box", faults, taken: [], takenCount: 0 };
  const cards = cardsOf(box);
  const numberKey = (facilityCode: unknown, number: unknown): string => `${String(facilityCode)} ${String(number).replace(/^0+(?=\d)/, "")}`;
  const wantedNumbers = new Set(cards.map(({ facilityCode, number }) => numberKey(facilityCode, number)));
  const printed = new Set(cards.flatMap(({ printedNumber }) => (printedNumber === undefined ? [] : [printedNumber.replace(/^0+(?=\d)/, "")])));
  const wantedIds = new Set(cards.map((card) => card.id));
  const taken: { number: string; by: string }[] = [];
  const look = (credential: Plain): void => {
    const isPrinted = typeof credential.printedNumber === "string" && printed.has(credential.printedNumber.replace(/^0+(?=\d)/, ""));
    if (
      isPrinted ||
      wantedIds.has(String(credential.id)) ||
      (credential.number !== undefined && wantedNumbers.has(numberKey(credential.facilityCode, credential.number)))
    )
      taken.push({ number: String(credential.number ?? credential.id), by: String(credential.id) });
  };
  for (const credential of open.register.compiled.facility.credentials) look(credential as unknown as Plain);
  for (const { list, value, base } of open.changes) if (list === "credentials" && value && base === undefined) look(value);
  taken.sort((a, b) => compareCodePoints(a.number, b.number));
  if (taken.length > 0) return { outcome: "faulty-box", faults: [], taken: taken.slice(0, takenShown), takenCount: taken.length };
  return write(
    services,
    account,
    open,
    cards.map((card): WantedChange => ({
      list: "credentials",
      key: card.id,
      base: undefined,
      value: normalObject(card as unknown as Record<string, unknown>, "credentials"),
      seen: 0,
    })),
  );
}

/** People to be moved, with the department in which they were seen. */
export interface Move {
  readonly cardholder: string;
  readonly seenIn: string | undefined;
}

/** Moves people to a department (undefined: to none). Whoever is not where they were seen any more is not moved but told. */
export async function movePeople(
  services: Services,
  account: Account,
  id: number,
  moves: readonly Move[],
  to: string | undefined,
): Promise<ChangeOutcome | { readonly outcome: "moved-meanwhile"; readonly people: readonly string[] }> {
  const open = await writable(services, account, id);
  if (!open) return ended;
  const name = namesIn(open);
  const elsewhere: string[] = [];
  const wanted = moves.flatMap(({ cardholder, seenIn }): WantedChange[] => {
    const before = changeOf(open.changes, "cardholders", cardholder);
    const present = registerObject(open.register, "cardholders", cardholder);
    const now = before ? before.value : present;
    if (!now || !sameValue(now.department, seenIn)) {
      elsewhere.push(name("cardholders", cardholder));
      return [];
    }
    const { department: _left, ...rest } = now;
    return [
      {
        list: "cardholders",
        key: cardholder,
        base: before ? before.base : present,
        value: to === undefined ? rest : { ...rest, department: to },
        seen: before?.version ?? 0,
      },
    ];
  });
  if (elsewhere.length > 0) return { outcome: "moved-meanwhile", people: elsewhere };
  return write(services, account, open, wanted);
}

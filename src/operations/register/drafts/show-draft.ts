import { fieldChanges } from "@/core/drafting/change";
import type { RebasedChange } from "@/core/drafting/change";
import type { NameOf } from "@/core/drafting/field-words";
import { differingParts } from "@/core/drafting/field-words";
import { settleDraft } from "@/core/drafting/settle-draft";
import type { DraftOrder } from "@/core/drafting/settle-draft";
import type { ListKey } from "@/core/facility/document";
import type { Ownership } from "@/core/facility/ownership";
import { ownedPart, ownershipOf } from "@/core/facility/ownership";
import type { OpenDraft } from "./draft-register";
import { labelOf, namesIn, openDraft, registerObject, withChanges } from "./draft-register";
import { whoCouldShare } from "./open-draft";
import type { Account } from "../../ports/accounts";
import type { Draft, StoredChange } from "../../ports/drafts";
import { may } from "../../rights";
import type { Services } from "../../services";

export interface ShownField {
  readonly field: string;
  /** Parts of the value that go, and parts that come. */
  readonly gone: readonly string[];
  readonly come: readonly string[];
  /** The source that owns the field; undefined for Nomade. */
  readonly owner: string | undefined;
}

export interface ShownChange {
  readonly list: ListKey;
  readonly key: string;
  readonly name: string;
  readonly action: "add" | "change" | "end";
  readonly fields: readonly ShownField[];
  readonly clashes: readonly { readonly field: string; readonly register: readonly string[]; readonly draft: readonly string[] }[];
  /** The register has come to be just so by itself. */
  readonly settled: boolean;
  readonly version: number;
  readonly changedBy: string;
  readonly changedAt: string;
  /** Others who change the same object in open drafts of theirs. */
  readonly also: readonly { readonly draft: number; readonly owner: string }[];
}

export interface ShownOrder {
  readonly id: number;
  readonly source: string;
  readonly action: DraftOrder["action"];
  readonly list: ListKey;
  readonly key: string;
  readonly name: string;
  readonly fields: readonly Omit<ShownField, "owner">[];
  readonly madeAt: string;
  /** Whether the register says so by now. */
  readonly done: boolean;
}

export interface DraftSheet {
  readonly draft: Draft;
  readonly snapshot: number;
  /** By kind, how many changes there are; those beyond what is shown are counted only. */
  readonly counts: readonly { readonly list: ListKey; readonly count: number }[];
  readonly changes: readonly ShownChange[];
  readonly clashing: number;
  /** What closing would come to: changes of what Nomade owns, and orders by source. */
  readonly applied: number;
  readonly ordersBySource: readonly { readonly source: string; readonly count: number }[];
  readonly orders: readonly ShownOrder[];
  readonly mayEdit: boolean;
  readonly couldShareWith: readonly Pick<Account, "id" | "name">[];
}

/** So many changes of a kind are listed, and so many new objects: a box of cards is rather counted. */
const shownOfAKind = { add: 8, change: 60, end: 60 };

/** Who owns what now: what each source brought last, as far as its profile lets it own that. */
export async function readOwnership(services: Services): Promise<Ownership> {
  const brought = await services.sources.brought();
  return ownershipOf(
    await Promise.all(brought.map(async ({ source, brings }) => ({ source, brings: ownedPart(brings, await services.sources.owns(source)) }))),
  );
}

const actionOf = ({ base, value }: Pick<StoredChange, "base" | "value">): ShownChange["action"] =>
  value === undefined ? "end" : base === undefined ? "add" : "change";

function shownFields({ change, present, value }: RebasedChange, name: NameOf, ownership: Ownership): ShownField[] {
  const action = actionOf(change);
  return fieldChanges(present, value).flatMap(({ field, before, after }) =>
    field === "id" || (action === "end" && field !== "name")
      ? []
      : [
          {
            field,
            ...differingParts(change.list, field, before, after, name),
            owner: action === "change" ? ownership.ofField(change.list, field) : ownership.ofObjects(change.list),
          },
        ],
  );
}

async function shownChanges(services: Services, open: OpenDraft, name: NameOf, ownership: Ownership, all: boolean): Promise<ShownChange[]> {
  const stored = new Map(open.changes.map((change) => [change as object, change]));
  const others = await services.drafts.alsoChanging(open.draft.id);
  const ofKind = new Map<string, number>();
  const shown: ShownChange[] = [];
  // What clashes has to be looked at: it comes first, and all of it.
  const rebased = [...withChanges(open).rebased].sort((a, b) => Number(b.clashes.length > 0) - Number(a.clashes.length > 0));
  for (const onTop of rebased) {
    const change = stored.get(onTop.change);
    if (!change) continue;
    const action = actionOf(change);
    const count = (ofKind.get(`${action} ${change.list}`) ?? 0) + 1;
    ofKind.set(`${action} ${change.list}`, count);
    if (count > shownOfAKind[action] && !all && onTop.clashes.length === 0) continue;
    shown.push({
      list: change.list,
      key: change.key,
      name: labelOf(change.list, change.value ?? change.base ?? {}, name),
      action,
      fields: shownFields(onTop, name, ownership),
      clashes: onTop.clashes.map(({ field, present, wanted }) => {
        const { gone, come } =
          field === ""
            ? {
                gone: present === undefined ? ["gone from the register"] : ["changed in the register"],
                come: wanted === undefined ? ["taken away"] : ["kept, as the draft has it"],
              }
            : differingParts(change.list, field, present, wanted, name);
        return { field, register: gone, draft: come };
      }),
      settled: onTop.settled,
      version: change.version,
      changedBy: change.changedBy,
      changedAt: change.changedAt,
      also: others.filter(({ list, key }) => list === change.list && key === change.key),
    });
  }
  return shown;
}

/** A draft with its changes (the first of each kind, or all) against the present register, what closing it would come to, and the orders of a closed one. */
export async function showDraft(services: Services, account: Account, id: number, all = false): Promise<DraftSheet | undefined> {
  const open = await openDraft(services, account, id);
  if (!open) return undefined;
  const { draft, register, changes } = open;
  const name = namesIn(open);
  const ownership = await readOwnership(services);
  const { rebased } = withChanges(open);
  const { applied, orders } = settleDraft(rebased, ownership);
  const sources = new Map<string, number>();
  for (const { source } of orders) sources.set(source, (sources.get(source) ?? 0) + 1);
  const counts = new Map<ListKey, number>();
  for (const { list } of changes) counts.set(list, (counts.get(list) ?? 0) + 1);
  const isOpen = draft.state === "open";
  return {
    draft,
    snapshot: register.snapshot.id,
    counts: [...counts].map(([list, count]) => ({ list, count })),
    changes: isOpen ? await shownChanges(services, open, name, ownership, all) : [],
    clashing: rebased.filter(({ clashes }) => clashes.length > 0).length,
    applied: applied.length,
    ordersBySource: [...sources].map(([source, count]) => ({ source, count })),
    orders: draft.state === "closed" ? await shownOrders(services, open, name) : [],
    mayEdit: isOpen && may(account, "edit-drafts"),
    couldShareWith: isOpen ? (await whoCouldShare(services, draft)).map(({ id: other, name: called }) => ({ id: other, name: called })) : [],
  };
}

/** Whether the register says by now what an order asked for. */
function isDone({ register }: OpenDraft, { action, list, key, fields }: DraftOrder): boolean {
  const present = registerObject(register, list, key);
  if (action === "end") return present === undefined;
  return present !== undefined && fields.every(({ field, after }) => fieldChanges({ [field]: present[field] }, { [field]: after }).length === 0);
}

async function shownOrders(services: Services, open: OpenDraft, name: NameOf): Promise<ShownOrder[]> {
  return (await services.drafts.orders(open.draft.id)).map((order) => ({
    id: order.id,
    source: order.source,
    action: order.action,
    list: order.list,
    key: order.key,
    name: name(order.list, order.key),
    fields: order.fields
      .filter(({ field }) => field !== "id")
      .map(({ field, before, after }) => ({ field, ...differingParts(order.list, field, before, after, name) })),
    madeAt: order.madeAt,
    done: isDone(open, order),
  }));
}

/** The orders of a closed draft, with names; undefined where an account may not see it. */
export async function ordersOfDraft(services: Services, account: Account, id: number): Promise<ShownOrder[] | undefined> {
  const open = await openDraft(services, account, id);
  return open && shownOrders(services, open, namesIn(open));
}

/** The same as they leave Nomade, which stands in the record. */
export async function exportDraftOrders(services: Services, account: Account, id: number): Promise<ShownOrder[] | undefined> {
  const orders = await ordersOfDraft(services, account, id);
  if (orders) await services.record.append(account, services.now(), { what: "orders.exported", on: `draft ${id}` });
  return orders;
}

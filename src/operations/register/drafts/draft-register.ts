import { applyChanges } from "@/core/drafting/apply-changes";
import type { ChangedFacility } from "@/core/drafting/apply-changes";
import type { NameOf } from "@/core/drafting/field-words";
import type { ListKey } from "@/core/facility/document";
import type { Plain } from "@/core/facility/object-key";
import { keyOf } from "@/core/facility/object-key";
import { directoryOf } from "@/core/register/directory";
import type { RegisterKind } from "@/core/register/kinds";
import { listOfKind } from "@/core/register/kinds";
import { credentialLabel } from "@/core/facility/labels";
import type { Credential, Membership } from "@/core/facility/document";
import type { OpenRegister } from "../open-register";
import { openRegister } from "../open-register";
import type { Account } from "../../ports/accounts";
import type { Draft, StoredChange } from "../../ports/drafts";
import { demand, may } from "../../rights";
import type { Services } from "../../services";

/** A draft on top of the register as it stands now. */
export interface OpenDraft {
  readonly draft: Draft;
  readonly register: OpenRegister;
  readonly changes: readonly StoredChange[];
}

/** Its owner and those it is shared with see a draft; one that is closed, everybody who may read the register. */
export function maySee(account: Account, draft: Draft): boolean {
  const isTheirs = may(account, "edit-drafts") && (draft.owner.id === account.id || draft.sharedWith.some(({ id }) => id === account.id));
  return isTheirs || (draft.state === "closed" && may(account, "read-register"));
}

/** A draft that an account may see, with its changes and the present register; undefined where there is none. */
export async function openDraft(services: Services, account: Account, id: number): Promise<OpenDraft | undefined> {
  demand(account, "read-whole");
  const draft = await services.drafts.byId(id);
  if (!draft || !maySee(account, draft)) return undefined;
  const register = await openRegister(services);
  return register && { draft, register, changes: await services.drafts.changes(id) };
}

const kindOfList = Object.fromEntries(Object.entries(listOfKind).map(([kind, list]) => [list, kind])) as Partial<Record<ListKey, RegisterKind>>;

export const kindOf = (list: ListKey): RegisterKind | undefined => kindOfList[list];

/** An object as the register has it now; undefined where it has none. Memberships are looked for one by one. */
export function registerObject({ compiled }: OpenRegister, list: ListKey, key: string): Plain | undefined {
  const kind = kindOf(list);
  if (!kind) return (compiled.facility.memberships as unknown as readonly Plain[]).find((object) => keyOf(list, object) === key);
  const position = directoryOf(compiled).position(kind, key);
  return position === undefined ? undefined : (compiled.facility[list][position] as unknown as Plain);
}

const changedFacilities = new WeakMap<OpenDraft, ChangedFacility>();

/** The register with the draft's changes in it; worked out once for each opening. */
export function withChanges(open: OpenDraft): ChangedFacility {
  const known = changedFacilities.get(open) ?? applyChanges(open.register.compiled.facility, open.changes);
  changedFacilities.set(open, known);
  return known;
}

/** What objects are called, those that only the draft has among them. */
export function namesIn({ register, changes }: OpenDraft): NameOf {
  const directory = directoryOf(register.compiled);
  const own = new Map(changes.flatMap(({ list, key, value, base }) => (value ?? base ? [[`${list} ${key}`, (value ?? base) as Plain] as const] : [])));
  const name: NameOf = (list, id) => {
    const object = own.get(`${list} ${id}`);
    if (object) return labelOf(list, object, name);
    const kind = kindOf(list);
    if (!kind) {
      const [group = "", cardholder = ""] = JSON.parse(id) as string[];
      return labelOf(list, { group, cardholder }, name);
    }
    if (kind === "credential") return directory.credentialName(id);
    if (kind !== "grant") return directory.name(kind, id);
    const grant = register.compiled.facility.grants[directory.position("grant", id) ?? -1];
    return grant ? labelOf(list, grant as unknown as Plain, name) : id;
  };
  return name;
}

/** What one object is called: by its name; cards by their number, grants and memberships by what they join. */
export function labelOf(list: ListKey, object: Plain, name: NameOf): string {
  if (list === "credentials") return credentialLabel(object as unknown as Credential);
  if (list === "memberships") {
    const { group, cardholder } = object as unknown as Membership;
    return `${name("cardholders", cardholder)} in ${name("groups", group)}`;
  }
  if (list === "grants") {
    const side = (key: "to" | "open") => {
      const [kind, id] = Object.entries((object[key] ?? {}) as Record<string, string>)[0] ?? ["", ""];
      const found = listOfKind[kind as RegisterKind] as ListKey | undefined;
      return found ? name(found, id) : id;
    };
    return `${side("to")} ${object.effect === "block" ? "may not open" : "opens"} ${side("open")}`;
  }
  return [object.name, object.id].find((part): part is string => typeof part === "string") ?? "";
}

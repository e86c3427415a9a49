import { compileFacility } from "@/core/compile/compile-facility";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import type { Account } from "../../ports/accounts";
import type { Services } from "../../services";
import type { OpenRegister } from "../open-register";
import { errorsOf } from "./draft-effect";
import type { OpenDraft } from "./draft-register";
import { openDraft, withChanges } from "./draft-register";

/** Registers with a draft's changes in them, by draft and revision, for each register that they were made in. */
const known = new WeakMap<CompiledFacility, Map<string, CompiledFacility>>();
/** So many are remembered: one draft is asked about several times before the next one is, and each holds as much as a register does. */
const remembered = 1;

/** A draft that can still be changed, on top of the present register; undefined where there is none that the account may see. */
async function openOne(services: Services, account: Account, id: number): Promise<OpenDraft | undefined> {
  const open = await openDraft(services, account, id);
  return open?.draft.state === "open" ? open : undefined;
}

/** A draft as questions are asked on it: what it is called, and whether the register would hold together with it. */
export interface DraftToAsk {
  readonly id: number;
  readonly name: string;
  readonly isPossible: boolean;
}

/** A draft that questions can be asked on; undefined where there is none that the account may see, or it is over. */
export async function draftToAsk(services: Services, account: Account, id: number): Promise<DraftToAsk | undefined> {
  const open = await openOne(services, account, id);
  return open && { id, name: open.draft.name, isPossible: errorsOf(open).length === 0 };
}

/** The present register with a draft's changes made in it; undefined where there is no such draft, or the register would not hold together. */
export async function openWithDraft(services: Services, account: Account, id: number): Promise<OpenRegister | undefined> {
  const open = await openOne(services, account, id);
  if (!open) return undefined;
  const { register, draft } = open;
  const ofRegister = known.get(register.compiled) ?? new Map<string, CompiledFacility>();
  known.set(register.compiled, ofRegister);
  const key = `${id} ${draft.revision}`;
  let compiled = ofRegister.get(key);
  if (!compiled) {
    if (errorsOf(open).length > 0) return undefined;
    compiled = compileFacility(withChanges(open).facility, register.compiled);
    ofRegister.set(key, compiled);
    for (const oldest of ofRegister.keys()) {
      if (ofRegister.size <= remembered) break;
      ofRegister.delete(oldest);
    }
  }
  return { snapshot: register.snapshot, compiled, isDraft: true };
}

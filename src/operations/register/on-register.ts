import type { Account } from "../ports/accounts";
import type { Services } from "../services";
import { openWithDraft } from "./drafts/open-with-draft";
import type { OpenRegister } from "./open-register";
import { openRegister } from "./open-register";

/** Which register is asked: a snapshot by its number, the latest where that is undefined, or the latest with a draft's changes made in it. */
export type AskedRegister = number | { readonly draft: number } | undefined;

/** A register as far as somebody may see it. */
async function openFor(services: Services, account: Account, id: AskedRegister): Promise<OpenRegister | undefined> {
  if (typeof id === "object") return openWithDraft(services, account, id.draft);
  const { sites } = account;
  if (sites === undefined) return openRegister(services, id);
  const snapshot = id === undefined ? await services.snapshots.latest() : await services.snapshots.byId(id);
  return snapshot && { snapshot, compiled: await services.limited(snapshot, sites), sites };
}

/**
 * An operation on a register, as one on whichever is asked: it is opened first, as far as the account may see it. Gives undefined where there is none such.
 */
export const onRegister =
  <A extends unknown[], R>(operation: (services: Services, account: Account, register: OpenRegister, ...asked: A) => R) =>
  async (services: Services, account: Account, wanted: AskedRegister, ...asked: A): Promise<Awaited<R> | undefined> => {
    const register = await openFor(services, account, wanted);
    return register && (await operation(services, account, register, ...asked));
  };

/** The same of an operation that asks who opens what: the register is laid out first. */
export const onHorizon = <A extends unknown[], R>(operation: (services: Services, account: Account, register: OpenRegister, ...asked: A) => R) =>
  onRegister(async (services, account, register, ...asked: A): Promise<Awaited<R>> => {
    // What is kept on the disk is of whole snapshots.
    if (register.sites === undefined && !register.isDraft) await services.layOut(register.snapshot, register.compiled);
    return await operation(services, account, register, ...asked);
  });

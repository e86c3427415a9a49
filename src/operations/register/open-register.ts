import type { CompiledFacility } from "@/core/compile/compiled-facility";
import type { Position } from "@/core/compile/position-index";
import type { Account } from "../ports/accounts";
import type { Snapshot } from "../ports/snapshots";
import type { Services } from "../services";

export interface OpenRegister {
  readonly snapshot: Snapshot;
  readonly compiled: CompiledFacility;
  /** The sites that it is limited to; undefined for the whole. */
  readonly sites?: readonly string[] | undefined;
  /** The credentials that last longer by uses since its export, where these are laid over it. */
  readonly prolonged?: ReadonlySet<Position>;
}

/** A snapshot, the latest unless another is asked for, with its compiled register; undefined where there is none yet. */
export async function openRegister(services: Pick<Services, "snapshots" | "compiled">, id?: number): Promise<OpenRegister | undefined> {
  const snapshot = id === undefined ? await services.snapshots.latest() : await services.snapshots.byId(id);
  return snapshot && { snapshot, compiled: await services.compiled(snapshot) };
}

/** A register as far as somebody may see it. */
async function openFor(services: Services, { sites }: Account, id: number | undefined): Promise<OpenRegister | undefined> {
  if (sites === undefined) return openRegister(services, id);
  const snapshot = id === undefined ? await services.snapshots.latest() : await services.snapshots.byId(id);
  return snapshot && { snapshot, compiled: await services.limited(snapshot, sites), sites };
}

/**
 * An operation on a register, as one on the snapshot of a number, or on the latest where that is undefined: it is opened first, as far as the account may see
 * it. Gives undefined where there is no such snapshot.
 */
export const onRegister =
  <A extends unknown[], R>(operation: (services: Services, account: Account, register: OpenRegister, ...asked: A) => R) =>
  async (services: Services, account: Account, snapshot: number | undefined, ...asked: A): Promise<Awaited<R> | undefined> => {
    const register = await openFor(services, account, snapshot);
    return register && (await operation(services, account, register, ...asked));
  };

/** The same of an operation that asks who opens what: the register is laid out first. */
export const onHorizon = <A extends unknown[], R>(operation: (services: Services, account: Account, register: OpenRegister, ...asked: A) => R) =>
  onRegister(async (services, account, register, ...asked: A): Promise<Awaited<R>> => {
    // What is kept on the disk is of the whole.
    if (register.sites === undefined) await services.layOut(register.snapshot, register.compiled);
    return await operation(services, account, register, ...asked);
  });

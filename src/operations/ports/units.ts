import type { UnitErring, UnitMemory } from "@/core/units/unit-memory";
import type { MemoryPage, MemoryPart, UnitChanges, UnitEvents, UnitStatus } from "@/core/units/unit-protocol";
import type { Shortfall } from "@/core/units/within-limits";
import type { Actor } from "./record";

/** A unit at the doors as it was made known: doors name it by its id. */
export interface KnownUnit {
  readonly id: string;
  readonly address: string;
  /** Whether what it holds is sent from here; otherwise another system sends it, and here it is only read. */
  readonly isSentFromHere: boolean;
  readonly erring: UnitErring;
}

/** What sending to a unit has come to, while it does not hold what it should. */
export interface UnitSending {
  readonly since: string;
  readonly sum: string;
  readonly of: number;
  readonly done: number;
  readonly tries: number;
  /** When it was tried last. */
  readonly triedAt: string;
  /** Why it did not go on the last time. */
  readonly problem?: string;
}

/** What a unit holds, held against a snapshot, by access. */
export interface UnitChecked {
  readonly snapshot: number;
  readonly sum: string;
  /** Cards for which it opens a door at times at which it should not, and for which it does not when it should. */
  readonly more: number;
  readonly less: number;
  /** Doors that stand free otherwise, which goes for anybody. */
  readonly free: number;
  /** Steps that lead from what it holds to what it should, as far as it has room. */
  readonly lacks: number;
  /** Doors at which it asks for something else to be presented. */
  readonly entry: number;
  readonly shortfalls: readonly Shortfall[];
}

/** What is known of how a unit is; times are instants. */
export interface UnitState {
  readonly status?: UnitStatus;
  /** When it answered last, and by how many seconds its clock was ahead then. */
  readonly answeredAt?: string;
  readonly clockOff?: number;
  readonly failing?: { readonly since: string; readonly triedAt: string; readonly words: string };
  /** What it held when it was last read. */
  readonly held?: { readonly sum: string; readonly readAt: string };
  readonly sending?: UnitSending;
  readonly checked?: UnitChecked;
}

export interface UnitOfRegister extends KnownUnit {
  readonly state: UnitState;
}

export interface UnitStore {
  /** All units that were made known, by id. */
  readonly all: () => Promise<readonly UnitOfRegister[]>;
  readonly byId: (id: string) => Promise<UnitOfRegister | undefined>;
  /** Makes a unit known, or changes what is known; a token that is left out stays as it is. */
  readonly keep: (unit: KnownUnit, token: string | undefined, who: Actor, at: string) => Promise<void>;
  readonly drop: (id: string, who: Actor, at: string) => Promise<boolean>;
  readonly tokenOf: (id: string) => Promise<string | undefined>;
  /** Keeps how a unit is; parts that are left out stay. A part that is null is not so any more. */
  readonly tell: (id: string, state: { readonly [K in keyof UnitState]: UnitState[K] | null }) => Promise<void>;
  /** Keeps what a unit holds, as it told it. */
  readonly read: (id: string, memory: UnitMemory, sum: string, at: string) => Promise<void>;
  readonly memoryOf: (id: string) => Promise<UnitMemory | undefined>;
}

/** Where a unit is, and what opens it. */
export interface UnitAccess {
  readonly address: string;
  readonly token: string;
}

/** What a unit answered that it will not do, in its own words. */
export interface UnitRefused {
  readonly refused: string;
  readonly done?: number;
}

/** Speaks to units. Whatever is not answered, or not as the protocol has it, is thrown with words for a person. */
export interface UnitDriver {
  readonly status: (unit: UnitAccess) => Promise<UnitStatus>;
  readonly setClock: (unit: UnitAccess, at: string) => Promise<UnitStatus>;
  readonly setLockdown: (unit: UnitAccess, raised: boolean) => Promise<UnitStatus>;
  readonly memory: <Part extends MemoryPart>(unit: UnitAccess, part: Part, after: string | undefined) => Promise<MemoryPage<Part>>;
  readonly change: (unit: UnitAccess, changes: UnitChanges) => Promise<{ readonly done: number } | UnitRefused>;
  readonly events: (unit: UnitAccess, after: number) => Promise<UnitEvents>;
  readonly acknowledge: (unit: UnitAccess, run: string, through: number) => Promise<void>;
}

/** What somebody does at the doors of units that ship, which no real unit would be told; there where these run. */
export interface StandInDoors {
  readonly present: (unit: string, presented: object) => Promise<object>;
  readonly happen: (unit: string, door: string, what: "forced" | "held") => Promise<object>;
  readonly treat: (unit: string, treatment: object) => Promise<object>;
}

import type { Language } from "@/core/certification/signing-statement";
import type { Actor } from "./record";

export const roles = ["administrator", "reviewer", "manager", "owner", "auditor"] as const;
export type Role = (typeof roles)[number];

export interface Account {
  readonly id: number;
  readonly signIn: string;
  readonly name: string;
  readonly role: Role;
  /** Who they are in the register; certifiers need it. */
  readonly cardholder: string | undefined;
  /** The language of their dockets and mails; undefined where nobody said. */
  readonly language?: Language | undefined;
  /** The sites that a reviewer or an auditor is limited to; undefined for all. */
  readonly sites?: readonly string[] | undefined;
  /** What they have to set up before anything else, as their role asks; of an account that a session opens. */
  readonly setUp?: "second-factor";
}

export interface NewAccount extends Omit<Account, "id" | "setUp"> {
  /** Empty where there is none yet: nobody signs in by it. */
  readonly passwordHash: string;
  readonly email?: string | undefined;
}

/** An account as an administrator sees it. */
export interface AccountDetails extends Omit<Account, "setUp"> {
  readonly email: string | undefined;
  readonly endedAt: string | undefined;
  readonly lastSignIn: string | undefined;
  readonly hasPassword: boolean;
  readonly hasSecondFactor: boolean;
  readonly sessions: number;
}

/** What of an account can be changed. */
export type AccountChange = Pick<AccountDetails, "name" | "role" | "cardholder" | "email" | "language" | "sites">;

/** A second factor as it is kept: its secret sealed, the hashes of recovery codes that were not used, and the last time step of which a code was. */
export interface SecondFactor {
  readonly sealed: string;
  readonly recovery: readonly string[];
  readonly lastStep: number;
}

export interface AccountStore {
  /** An account that is not ended. */
  readonly bySignIn: (signIn: string) => Promise<(Account & { readonly passwordHash: string; readonly secondFactor: SecondFactor | undefined }) | undefined>;
  readonly byCardholder: (cardholder: string) => Promise<Account | undefined>;
  /** Accounts that are not ended. */
  readonly all: () => Promise<Account[]>;
  readonly details: () => Promise<AccountDetails[]>;
  /** Adds an account, or changes the one of its sign-in name; the sessions of that end at once. It stands in the record. */
  readonly put: (account: NewAccount, who: Actor, at: string) => Promise<void>;
  /** Adds an account; refused where its sign-in name or its cardholder has one already. */
  readonly add: (account: NewAccount, who: Actor, at: string) => Promise<"added" | "name-taken" | "cardholder-taken">;
  /** Changes an account; its sessions end where its role or its cardholder changes. False where there is none, or the cardholder has another one. */
  readonly change: (id: number, to: AccountChange, who: Actor, at: string) => Promise<boolean>;
  /** Ends an account, or takes its end back; its sessions end at once, its links lead nowhere. */
  readonly end: (id: number, isEnded: boolean, who: Actor, at: string) => Promise<boolean>;
  /** Takes password and second factor away and ends all sessions. */
  readonly reset: (id: number, who: Actor, at: string) => Promise<boolean>;
  /** Sets a password and ends all sessions but one. */
  readonly setPassword: (id: number, passwordHash: string, keep: string | undefined, who: Actor, at: string) => Promise<void>;
  readonly secondFactor: (id: number) => Promise<SecondFactor | undefined>;
  /** Sets or takes away a second factor; all sessions but one end. */
  readonly setSecondFactor: (id: number, factor: SecondFactor | undefined, keep: string | undefined, who: Actor, at: string) => Promise<void>;
  /** Notes that a code was used, if none of its time step or a later one was meanwhile, or that recovery code; gives whether it was not. */
  readonly useSecondFactor: (id: number, instead: SecondFactor, factor: SecondFactor) => Promise<boolean>;
  readonly rolesWithSecondFactor: () => Promise<readonly Role[]>;
  readonly askSecondFactor: (role: Role, isAsked: boolean, who: Actor, at: string) => Promise<void>;
  /** Keeps a link that signs in once; `tokenHash` is all that is kept of it. */
  readonly makeLink: (
    link: { readonly tokenHash: string; readonly account: number; readonly path: string; readonly until: string },
    at: string,
  ) => Promise<void>;
  /** Where a link leads and for whom, without using it; undefined where it was used, is over, or is none. */
  readonly link: (tokenHash: string, at: string) => Promise<{ readonly account: Account; readonly path: string } | undefined>;
  /** Uses a link up; false where it was meanwhile. */
  readonly useLink: (tokenHash: string, at: string) => Promise<boolean>;
}

/** A session as its own account sees it; `id` is the beginning of its hash. */
export interface OpenSession {
  readonly id: string;
  readonly openedAt: string;
  readonly lastUsedAt: string;
  readonly agent: string;
  readonly isThis: boolean;
}

export interface SessionStore {
  /** Opens a session, if the account still has the password of this hash, or none is asked; gives whether it was opened. */
  readonly open: (
    session: { readonly tokenHash: string; readonly account: number; readonly agent: string },
    passwordHash: string | undefined,
    at: string,
  ) => Promise<boolean>;
  /** The account of a session that was opened and last used since then; its last use is moved to `at`. */
  readonly use: (tokenHash: string, since: { readonly usedSince: string; readonly openedSince: string }, at: string) => Promise<Account | undefined>;
  readonly ofAccount: (account: number, tokenHash: string, openedSince: string) => Promise<OpenSession[]>;
  readonly close: (tokenHash: string) => Promise<void>;
  /** Closes one of an account's sessions by its id. */
  readonly closeOne: (account: number, id: string) => Promise<boolean>;
}

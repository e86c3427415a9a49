import type { Actor } from "./record";

export type Role = "administrator" | "reviewer" | "manager" | "owner" | "auditor";

export interface Account {
  readonly id: number;
  readonly signIn: string;
  readonly name: string;
  readonly role: Role;
  /** Who they are in the register; certifiers need it. */
  readonly cardholder: string | undefined;
}

export interface NewAccount extends Omit<Account, "id"> {
  readonly passwordHash: string;
}

export interface AccountStore {
  readonly bySignIn: (signIn: string) => Promise<(Account & { readonly passwordHash: string }) | undefined>;
  readonly byCardholder: (cardholder: string) => Promise<Account | undefined>;
  readonly all: () => Promise<Account[]>;
  /** Adds an account, or changes the one of its sign-in name; the sessions of that end at once. It stands in the record. */
  readonly put: (account: NewAccount, who: Actor, at: string) => Promise<void>;
}

export interface SessionStore {
  /** Opens a session, if the account still has the password of this hash; gives whether it has. */
  readonly open: (tokenHash: string, account: number, passwordHash: string, at: string) => Promise<boolean>;
  /** The account of a session that was opened and last used since then; its last use is moved to `at`. */
  readonly use: (tokenHash: string, since: { readonly usedSince: string; readonly openedSince: string }, at: string) => Promise<Account | undefined>;
  readonly close: (tokenHash: string) => Promise<void>;
}

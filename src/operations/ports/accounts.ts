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
  readonly bySignIn: (signIn: string) => Promise<(Account & { readonly passwordHash: string; readonly barredUntil: string | undefined }) | undefined>;
  readonly byCardholder: (cardholder: string) => Promise<Account | undefined>;
  readonly all: () => Promise<Account[]>;
  readonly put: (account: NewAccount) => Promise<void>;
  /** Counts a failed sign-in and bars further ones until then, if given. */
  readonly noteFailure: (account: number, barAfter: number, barredUntil: string) => Promise<void>;
  readonly clearFailures: (account: number) => Promise<void>;
}

export interface SessionStore {
  readonly open: (tokenHash: string, account: number, at: string) => Promise<void>;
  /** The account of a session used after `notBefore`, whose last use is moved to `at`. */
  readonly use: (tokenHash: string, notBefore: string, at: string) => Promise<Account | undefined>;
  readonly close: (tokenHash: string) => Promise<void>;
}

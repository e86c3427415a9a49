import type { Language } from "@/core/certification/signing-statement";
import type { Account, AccountDetails, Role, SecondFactor } from "@/operations/ports/accounts";

export interface AccountRow {
  readonly id: number;
  readonly sign_in: string;
  readonly name: string;
  readonly role: Role;
  readonly cardholder: string | null;
  readonly password_hash: string;
  readonly second_factor: string | null;
  readonly sites: string | null;
  readonly language: Language | null;
}

export const accountColumns = "a.id, a.sign_in, a.name, a.role, a.cardholder, a.password_hash, a.second_factor, a.sites, a.language";

export const asAccount = (row: Omit<AccountRow, "password_hash" | "second_factor">): Account => ({
  id: row.id,
  signIn: row.sign_in,
  name: row.name,
  role: row.role,
  cardholder: row.cardholder ?? undefined,
  ...(row.language !== null && { language: row.language }),
  ...(row.sites !== null && { sites: JSON.parse(row.sites) as string[] }),
});

export const asSecondFactor = (text: string | null): SecondFactor | undefined => (text === null ? undefined : (JSON.parse(text) as SecondFactor));

export interface DetailsRow extends AccountRow {
  readonly email: string | null;
  readonly ended_at: string | null;
  readonly last_sign_in: string | null;
  readonly session_count: number;
}

export const asDetails = (row: DetailsRow): AccountDetails => ({
  ...asAccount(row),
  email: row.email ?? undefined,
  language: row.language ?? undefined,
  endedAt: row.ended_at ?? undefined,
  lastSignIn: row.last_sign_in ?? undefined,
  hasPassword: row.password_hash !== "",
  hasSecondFactor: row.second_factor !== null,
  sessions: Number(row.session_count),
});

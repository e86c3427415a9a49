import { addMonths, formatCivilDay, parseCivilDay } from "@/core/time/civil-day";
import type { Account } from "../ports/accounts";
import { demand } from "../rights";
import type { Services } from "../services";
import { todayOf } from "./today";

/** A waiver holds a year at most: then somebody looks again. */
const longestWaiverMonths = 12;
const shortestReason = 10;
const longestText = 2000;

export interface AskedWaiver {
  readonly snapshot: number;
  readonly fingerprint: string;
  readonly reason: string;
  /** The last date on which it hides. */
  readonly until: string;
}

export type WaiverOutcome =
  | { readonly outcome: "waived" }
  /** Somebody else must confirm it. */
  | { readonly outcome: "waits" }
  | { readonly outcome: "refused"; readonly why: WaiverRefusal };

export type WaiverRefusal = "no-finding" | "reason-too-short" | "reason-too-long" | "no-date" | "date-past" | "date-too-far" | "waived-already";

const refused = (why: WaiverRefusal): WaiverOutcome => ({ outcome: "refused", why });

/** Accepts a finding, with a reason, until a date: it hides it once it is confirmed, which a second person does where it weighs much. */
export async function waiveFinding(services: Services, account: Account, { snapshot, fingerprint, reason, until }: AskedWaiver): Promise<WaiverOutcome> {
  demand(account, "triage");
  const said = reason.trim();
  if (said.length < shortestReason) return refused("reason-too-short");
  if (said.length > longestText) return refused("reason-too-long");
  const today = todayOf(services);
  const [last, now] = [parseCivilDay(until), parseCivilDay(today)];
  if (last === undefined || now === undefined) return refused("no-date");
  if (last < now) return refused("date-past");
  if (last > addMonths(now, longestWaiverMonths)) return refused("date-too-far");
  const finding = await services.findings.byFingerprint(snapshot, fingerprint);
  if (!finding) return refused("no-finding");
  const isConfirmed = finding.risk < (await services.ruleSettings.current()).secondPersonFrom;
  const waiver = { fingerprint, reason: said, until: formatCivilDay(last), risk: finding.risk };
  const made = await services.triage.waive(waiver, isConfirmed, today, { signIn: account.signIn }, services.now());
  if (made === undefined) return refused("waived-already");
  return { outcome: isConfirmed ? "waived" : "waits" };
}

/** Confirms a waiver that somebody else asked for; false where it does not wait for that, or its last date is past. */
export async function confirmWaiver(services: Services, account: Account, id: number): Promise<boolean> {
  demand(account, "triage");
  return services.triage.confirm(id, todayOf(services), { signIn: account.signIn }, services.now());
}

/** Ends a waiver, or takes back one that waits; false where there is none. */
export async function endWaiver(services: Services, account: Account, id: number): Promise<boolean> {
  demand(account, "triage");
  return services.triage.end(id, { signIn: account.signIn }, services.now());
}

/** Writes a note to a finding; false where nothing, or too much, is written. */
export async function noteFinding(services: Services, account: Account, fingerprint: string, note: string): Promise<boolean> {
  demand(account, "triage");
  const text = note.trim();
  if (text === "" || text.length > longestText) return false;
  await services.triage.note(fingerprint, text, { signIn: account.signIn }, services.now());
  return true;
}

/** Makes a finding the task of an account, or nobody's; false where there is no such account, or it may not read findings. */
export async function assignFinding(services: Services, account: Account, fingerprint: string, assignee: string | undefined): Promise<boolean> {
  demand(account, "triage");
  if (assignee !== undefined) {
    const known = await services.accounts.bySignIn(assignee);
    if (!known || (known.role !== "reviewer" && known.role !== "administrator")) return false;
  }
  await services.triage.assign(fingerprint, assignee, { signIn: account.signIn }, services.now());
  return true;
}

/** From which risk on a second person must confirm a waiver. */
export async function secondPersonFrom(services: Services, account: Account): Promise<number> {
  demand(account, "read-findings");
  return (await services.ruleSettings.current()).secondPersonFrom;
}

/** Sign-in names of those whose task a finding can be. */
export async function assignees(services: Services, account: Account): Promise<readonly string[]> {
  demand(account, "triage");
  return (await services.accounts.all()).filter(({ role }) => role === "reviewer" || role === "administrator").map(({ signIn }) => signIn);
}

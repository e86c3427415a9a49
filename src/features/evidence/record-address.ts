import type { StoredEntry } from "@/operations/ports/record";
import { findingHref } from "../findings/findings-address";

/** What the address of the record asks for. `on` is one thing, or several; `finding` a fingerprint; `object` a list and an id, as "cardholders c1". */
export interface RecordAddress {
  readonly text?: string;
  readonly what?: string;
  readonly who?: string;
  readonly from?: string;
  readonly until?: string;
  readonly on?: readonly string[];
  readonly finding?: string;
  readonly object?: string;
  readonly before?: number;
}

/** Where entries are that fit what is asked. */
export function recordHref({ before, on = [], ...asked }: RecordAddress): string {
  const query = new URLSearchParams();
  for (const [name, value] of Object.entries(asked)) if (value !== undefined && value !== "") query.set(name, value);
  for (const one of on) query.append("on", one);
  if (before !== undefined) query.set("before", String(before));
  const text = query.toString();
  return text === "" ? "/evidence" : `/evidence?${text}`;
}

const pages: readonly (readonly [RegExp, (id: string) => string])[] = [
  [/^snapshot (\d+)$/, (id) => `/register?snapshot=${id}`],
  [/^(?:order \d+ of )?round (\d+)$/, (id) => `/certification/${id}`],
  [/^(?:line \d+ of )?docket (\d+)$/, (id) => `/docket/${id}`],
  [/^draft (\d+)$/, (id) => `/register/drafts/${id}`],
  [/^event file \d+$/, () => "/register/events/files"],
  [/^calendar (.+)$/, (id) => `/register/calendar/${encodeURIComponent(id)}`],
  [/^rules$/, () => "/findings/settings"],
  [/^occasion /, () => "/certification/occasions"],
];

function fingerprintOf(content: string | undefined): string | undefined {
  if (content === undefined) return undefined;
  const { before, after } = JSON.parse(content) as Readonly<Record<"before" | "after", { readonly fingerprint?: unknown } | null | undefined>>;
  const fingerprint = after?.fingerprint ?? before?.fingerprint;
  return typeof fingerprint === "string" ? fingerprint : undefined;
}

/** Where that is which an entry speaks of; undefined where it has no page of its own. Accounts have one for administrators alone. */
export function subjectHref({ what, on, content }: Pick<StoredEntry, "what" | "on" | "content">, seesAccounts: boolean): string | undefined {
  if (what === "retention.dropped") return undefined;
  for (const [subject, href] of pages) {
    const id = subject.exec(on);
    if (id) return href(id[1] ?? "");
  }
  if (what.startsWith("finding.")) {
    const fingerprint = fingerprintOf(content);
    return fingerprint === undefined ? undefined : findingHref(fingerprint, undefined);
  }
  return seesAccounts && (what === "account.put" || /^account \d+$/.test(on)) ? "/accounts" : undefined;
}

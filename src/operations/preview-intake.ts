import { canonicalJson } from "@/core/facility/canonical-json";
import { compileFacility } from "@/core/compile/compile-facility";
import { countsOf, withAllLists } from "@/core/facility/facility";
import type { Facility } from "@/core/facility/facility";
import { listKeys } from "@/core/facility/draft";
import type { FacilityDraft } from "@/core/facility/draft";
import { effectOnAccess } from "./effect-on-access";
import type { DataIssue } from "@/core/facility/issue";
import { normalFacility, normalText } from "@/core/facility/normal-form";
import type { Brings } from "@/core/facility/ownership";
import type { CheckedFacility } from "@/core/facility/check-facility";
import { issueWords } from "@/intake/issue-words";
import { readFacility } from "@/intake/read-facility";
import type { TableHeaders } from "@/intake/bundle/read-bundle";
import type { RefusedRow } from "@/intake/bundle/read-table";
import type { IntakeFile, NewSnapshot, PrintedIssue, Report } from "./ports";
import type { IntakePreview, Services } from "./services";

/** More issues than this are counted, not listed; the command line lists them all. */
const issuesListed = 200;

export const printIssue = (issue: DataIssue): PrintedIssue => ({ level: issue.level, path: issue.path, code: issue.code, message: issueWords(issue) });

export interface RefusedFile {
  readonly errors: readonly PrintedIssue[];
  readonly errorCount: number;
}

export const refusalOf = (errors: readonly DataIssue[]): RefusedFile => ({
  errors: errors.slice(0, issuesListed).map(printIssue),
  errorCount: errors.length,
});

/** A checked facility as it came: from one document, or put together from files of which rows may be missing. */
export interface Brought {
  readonly checked: CheckedFacility;
  /** SHA-256 of the file that came. */
  readonly fileHash: string;
  readonly leftOut: number;
  readonly files: readonly IntakeFile[];
  readonly brings: Brings;
}

/** A facility document speaks of everything in the lists that it has. */
export const broughtByDocument = (facility: Facility): Brings => Object.fromEntries(listKeys.flatMap((list) => (facility[list].length > 0 ? [[list, "all" as const]] : [])));

/** What a checked facility becomes when it is stored: its normal form, the hash of that, counts and notes. */
export function snapshotOf(services: Pick<Services, "digest">, { checked: { facility, notes }, fileHash, leftOut, files, brings }: Brought, source: string): NewSnapshot {
  const normal = normalFacility(facility);
  const text = normalText(normal);
  return { hash: services.digest(text), normal, normalText: text, counts: countsOf(normal), notes: notes.map(printIssue), source, fileHash, leftOut, files, brings };
}

/** By list, how many objects are new, changed and gone; a membership has no id, so that a changed one is one gone and one new. */
function differences(present: Facility, next: Facility): Record<string, { added: number; changed: number; gone: number }> {
  return Object.fromEntries(
    listKeys.map((list) => {
      const keyed = (facility: Facility) =>
        new Map(
          (facility[list] as readonly { readonly id?: string }[]).map((object) => {
            const text = canonicalJson(object);
            return [object.id ?? text, text] as const;
          }),
        );
      const [before, after] = [keyed(present), keyed(next)];
      let changed = 0;
      let kept = 0;
      for (const [key, text] of after) {
        if (!before.has(key)) continue;
        kept++;
        if (before.get(key) !== text) changed++;
      }
      return [list, { added: after.size - kept, changed, gone: before.size - kept }];
    }),
  );
}

/** What the text of a facility document would bring, against the present register; stores nothing. */
export async function previewFacility(services: Pick<Services, "digest" | "snapshots">, text: string, fileName: string, report: Report): Promise<IntakePreview> {
  report({ step: "checking", done: 0, of: 1 });
  const checked = readFacility(text);
  if (!checked.ok) return { kind: "refused", fileName, ...refusalOf(checked.error) };
  return previewBrought(services, { checked: checked.value, fileHash: "", leftOut: 0, files: [], brings: broughtByDocument(checked.value.facility) }, fileName, report, nothingRefused);
}

/** What of the files of an intake is not read, and what is kept although they do not bring it any more. */
export interface Remainder {
  readonly refused: readonly RefusedRow[];
  readonly kept: readonly { readonly list: string; readonly id: string }[];
  /** The tables of a bundle as their headers were understood. */
  readonly tables?: readonly TableHeaders[];
}

const nothingRefused: Remainder = { refused: [], kept: [] };

/** What a checked facility would bring, against the present register. */
export async function previewBrought(services: Pick<Services, "digest" | "snapshots">, brought: Brought, fileName: string, report: Report, { refused, kept, tables }: Remainder): Promise<IntakePreview> {
  const next = snapshotOf(services, brought, "");
  const latest = await services.snapshots.latest();
  const present = latest && withAllLists(JSON.parse(await services.snapshots.frozen(latest.id)) as FacilityDraft);
  const unchanged = latest?.hash === next.hash;
  report({ step: "access", done: 0, of: 1 });
  return {
    kind: "facility",
    fileName,
    facilityName: next.normal.name,
    asOf: next.normal.asOf,
    hash: next.hash,
    counts: next.counts,
    notes: next.notes.slice(0, issuesListed),
    noteCount: next.notes.length,
    leftOut: brought.leftOut,
    refused: refused.slice(0, issuesListed),
    refusedCount: refused.length,
    kept: kept.slice(0, issuesListed),
    keptCount: kept.length,
    ...(tables && { tables }),
    against: present && differences(present, next.normal),
    effect: present && !unchanged ? effectOnAccess(compileFacility(present), compileFacility(next.normal)) : undefined,
    unchanged,
  };
}

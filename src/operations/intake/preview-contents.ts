import { canonicalJson } from "@/core/facility/canonical-json";
import { compileFacility } from "@/core/compile/compile-facility";
import { countsOf } from "@/core/facility/facility";
import type { Facility } from "@/core/facility/facility";
import { listKeys } from "@/core/facility/document";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import { horizonOf } from "@/core/table/horizon";
import type { AccessEffect } from "../register/effect-on-access";
import { openRegister } from "../register/open-register";
import { effectOnAccess } from "../register/effect-on-access";
import type { DataIssue } from "@/core/facility/issue";
import { normalFacility, normalText } from "@/core/facility/normal-form";
import type { Brings, OwnershipProfile } from "@/core/facility/ownership";
import type { CheckedFacility } from "@/core/facility/check-facility";
import { issueWords } from "@/intake/formats/facility/issue-words";
import { bundleOfDocument, settleOwned } from "@/intake/formats/tables/owned-bundle";
import { rowsLeftOut } from "@/intake/formats/tables/settle-bundle";
import { readFacility } from "@/intake/formats/facility/read-facility";
import type { RefusedRow } from "@/intake/formats/tables/bundle-file";
import type { NewDelivery } from "../ports/deliveries";
import type { IntakeFile, NewSnapshot, PrintedIssue } from "../ports/snapshots";
import type { Report } from "../ports/progress";
import type { CalendarEvents, IntakePreview, Services, TablesRead } from "../services";

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
export interface IntakeContents {
  readonly checked: CheckedFacility;
  /** SHA-256 of the file that came. */
  readonly fileHash: string;
  readonly leftOut: number;
  readonly files: readonly IntakeFile[];
  readonly brings: Brings;
  /** What was sent, without the name of who sent it; undefined where nobody sent it. */
  readonly delivery?: Omit<NewDelivery, "source">;
}

/** Whom files name, where their source lists everybody; undefined where it does not, or says nothing of people. */
export const peopleNamed = ({ cardholders }: Brings, owns: OwnershipProfile, ids: readonly string[]): readonly string[] | undefined =>
  cardholders === undefined || owns.cardholders?.complete === false || owns.cardholders?.fields?.length === 0 ? undefined : ids;

/** A facility document speaks of everything in the lists that it has. */
export const broughtByDocument = (facility: Facility): Brings =>
  Object.fromEntries(listKeys.flatMap((list) => (facility[list].length > 0 ? [[list, "all" as const]] : [])));

/** What a checked facility becomes when it is stored: its normal form, the hash of that, counts and notes. */
export function snapshotOf(
  services: Pick<Services, "digest">,
  { checked: { facility, notes }, fileHash, leftOut, files, brings, delivery }: IntakeContents,
  source: string,
): NewSnapshot {
  const normal = normalFacility(facility);
  const text = normalText(normal);
  return {
    hash: services.digest(text),
    normal,
    normalText: text,
    counts: countsOf(normal),
    notes: notes.map(printIssue),
    source,
    fileHash,
    leftOut,
    files,
    brings,
    ...(delivery && { delivery: { ...delivery, source } }),
  };
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

/** A facility document as it came, or what of it its source owns on top of the register. */
export async function broughtDocument(
  services: Pick<Services, "snapshots" | "compiled" | "digest" | "now">,
  text: string,
  fileName: string,
  owns: OwnershipProfile,
): Promise<{ readonly brought: IntakeContents; readonly remainder: Remainder } | RefusedFile> {
  const checked = readFacility(text);
  if (!checked.ok) return refusalOf(checked.error);
  const { facility } = checked.value;
  const fileHash = services.digest(text);
  const files = [{ name: fileName, hash: fileHash, rows: undefined, leftOut: 0 }];
  const brings = broughtByDocument(facility);
  const people = peopleNamed(
    brings,
    owns,
    facility.cardholders.map(({ id }) => id),
  );
  const delivery = { name: fileName, asOf: facility.asOf, ...(people && { people }) };
  const latest = Object.keys(owns).length > 0 ? await services.snapshots.latest() : undefined;
  if (!latest) return { brought: { checked: checked.value, fileHash, leftOut: 0, files, brings, delivery }, remainder: nothingRefused };
  const { facility: present } = await services.compiled(latest);
  const settled = settleOwned(bundleOfDocument(facility, brings, fileName), present, services.now(), owns);
  const leftOut = rowsLeftOut(settled.refused);
  if (!settled.checked)
    return {
      errors: settled.refused
        .slice(0, issuesListed)
        .map(({ column, value, reason }) => ({ level: "error", path: column, code: "refused-row", message: `Found ${value}; ${reason}.` })),
      errorCount: settled.refused.length,
    };
  return {
    brought: { checked: settled.checked, fileHash, leftOut, files: files.map((file) => ({ ...file, leftOut })), brings, delivery },
    remainder: { refused: settled.refused, kept: settled.kept },
  };
}

/** What the text of a facility document would bring, against the present register; stores nothing. */
export async function previewFacility(
  services: Pick<Services, "digest" | "snapshots" | "compiled" | "now">,
  text: string,
  fileName: string,
  report: Report,
  owns: OwnershipProfile = {},
): Promise<IntakePreview> {
  report({ step: "checking", done: 0, of: 1 });
  const document = await broughtDocument(services, text, fileName, owns);
  if ("errors" in document) return { kind: "refused", fileName, ...document };
  return previewContents(services, document.brought, fileName, report, document.remainder);
}

/** What of the files of an intake is not read, and what is kept although they do not bring it any more. */
export interface Remainder {
  readonly refused: readonly RefusedRow[];
  readonly kept: readonly { readonly list: string; readonly id: string }[];
  /** What is to be known of tables. */
  readonly tables?: TablesRead;
  readonly events?: CalendarEvents;
}

const nothingRefused: Remainder = { refused: [], kept: [] };

/** What the register would be is laid out first, over its own minutes, and the present one beside it. */
function effectOfIntake(present: CompiledFacility, next: Facility): AccessEffect {
  const horizon = horizonOf(compileFacility(next, present));
  return effectOnAccess(horizon.beside(present), horizon);
}

/** What a checked facility would bring, against the present register. */
export async function previewContents(
  services: Pick<Services, "digest" | "snapshots" | "compiled">,
  brought: IntakeContents,
  fileName: string,
  report: Report,
  { refused, kept, tables, events }: Remainder,
): Promise<IntakePreview> {
  const next = snapshotOf(services, brought, "");
  const register = await openRegister(services);
  const present = register?.compiled.facility;
  const unchanged = register?.snapshot.hash === next.hash;
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
    ...(events && { events }),
    against: present && differences(present, next.normal),
    effect: register && !unchanged ? effectOfIntake(register.compiled, next.normal) : undefined,
    unchanged,
    on: register?.snapshot.id ?? null,
  };
}

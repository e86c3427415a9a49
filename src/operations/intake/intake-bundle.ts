import { createHash } from "node:crypto";
import { stringify } from "csv-stringify/sync";
import type { Facility } from "@/core/facility/facility";
import type { Brings } from "@/core/facility/ownership";
import { BundleError } from "@/intake/formats/tables/bundle-error";
import type { UnreadFile } from "@/intake/formats/tables/bundle-files";
import { settleOwned } from "@/intake/formats/tables/owned-bundle";
import type { RefusedRow } from "@/intake/formats/tables/bundle-file";
import type { SettledBundle } from "@/intake/formats/tables/settle-bundle";
import { asText } from "@/intake/formats/tables/tables";
import { rowsLeftOut } from "@/intake/formats/tables/settle-bundle";
import type { SourceProfile } from "@/intake/profile/source-profile";
import type { Actor } from "@/operations/ports/record";
import type { IntakeFile, PrintedIssue } from "@/operations/ports/snapshots";
import type { Report } from "@/operations/ports/progress";
import type { SourceFile } from "@/operations/ports/source-files";
import { openRegister } from "@/operations/register/open-register";
import type { IntakeContents } from "@/operations/intake/preview-contents";
import { peopleNamed, previewContents } from "@/operations/intake/preview-contents";
import type { AsOfFrom, IntakeOutcome, IntakePreview, ReadAs, Services } from "@/operations/services";
import { storeContents } from "@/operations/intake/store-contents";
import { keepProfile } from "./keep-profile";
import { kindOfFile, openSource } from "./open-source";
import type { ReadTables } from "./read-tables";
import { asOfFromName, hashedWhileRead, readTables } from "./read-tables";

export const asItIs: ReadAs = { profile: undefined, owns: {} };

/** A folder has no bytes of its own: what stands for it are the hashes of its files. */
const hashOfBundle = (file: SourceFile, hashes: readonly string[]): Promise<string> | string =>
  file.isFolder ? createHash("sha256").update(hashes.join("\n")).digest("hex") : file.hash();

interface OpenedBundle extends SettledBundle {
  readonly brings: Brings;
  readonly fileHash: string;
  readonly summaries: readonly IntakeFile[];
  readonly read: ReadTables;
  readonly unread: readonly UnreadFile[];
  readonly asOf: { readonly at: string; readonly from: AsOfFrom };
  readonly delivery: NonNullable<IntakeContents["delivery"]>;
}

/** The moment for which files speak: what they say, what was typed, what their name says; the clock only where there is nothing else, and then it is said. */
function asOfOf(head: ReadTables["head"], file: SourceFile, { asOf, profile }: ReadAs, zone: string, now: string): OpenedBundle["asOf"] {
  if (typeof head?.asOf === "string") return { at: head.asOf, from: "file" };
  if (asOf !== undefined) return { at: asOf, from: "typed" };
  const named = profile?.asOf === "file-name" ? asOfFromName(file.name, zone) : undefined;
  return named === undefined ? { at: now, from: "clock" } : { at: named, from: "name" };
}

/** What the whole is called: by its files, by the profile where there is no register yet. */
function headOf(head: ReadTables["head"], profile: SourceProfile | undefined, present: Facility | undefined, at: string): ReadTables["head"] {
  if (head) return { ...head, asOf: head.asOf ?? at };
  // The register's moment is the latest of its sources'.
  if (present) return { name: present.name, timeZone: present.timeZone, asOf: Date.parse(present.asOf) > Date.parse(at) ? present.asOf : at };
  const { name, timeZone } = profile?.facility ?? {};
  return name === undefined || timeZone === undefined ? undefined : { name, timeZone, asOf: at };
}

async function openBundle(services: Services, source: SourceFile, readAs: ReadAs, report: Report): Promise<OpenedBundle> {
  const { profile, owns } = readAs;
  const { files: found, unread, close } = await openSource(source, services.limits);
  try {
    const { files, hashOf } = hashedWhileRead(found);
    const present = (await openRegister(services))?.compiled.facility;
    const read = await readTables(services, files, profile, present);
    report({ step: "checking", done: 0, of: 1 });
    const asOf = asOfOf(read.head, source, readAs, present?.timeZone ?? profile?.facility?.timeZone ?? "UTC", services.now());
    const head = headOf(read.head, profile, present, asOf.at);
    const settled = settleOwned({ ...read, head }, present, asOf.at, owns, read.onlyNamed, profile?.missing);
    const hashes = new Map<string, string>();
    const originals = await services.files.originalHashes(source);
    // A sheet has no bytes of its own: what stands for it is the hash of its workbook.
    const workbook = (await kindOfFile(source)) === "workbook" ? await source.hash() : undefined;
    for (const file of files) hashes.set(file.name, workbook ?? originals?.files[file.name] ?? (await hashOf(file)));
    const totals = read.files.find(({ name }) => /(^|\/)totals\.csv$/i.test(name))?.name ?? "";
    const otherHashes = read.files.flatMap(({ name, stated }): RefusedRow[] =>
      stated?.sha256 === undefined || stated.sha256 === hashes.get(name)
        ? []
        : [
            {
              file: totals,
              line: stated.line,
              column: "sha256",
              value: stated.sha256,
              reason: `${name} has ${hashes.get(name) ?? ""}; expected the one that the source states`,
            },
          ],
    );
    const refusedRows = [...settled.refused, ...otherHashes];
    const leftOutOf = (name: string): number => rowsLeftOut(refusedRows.filter(({ file }) => file === name));
    // A row that could be read and does not hold is among those left out, no longer among those taken in.
    const summaries = read.files.map(({ name, rows, refused, stated }) => ({
      name,
      hash: hashes.get(name) ?? "",
      rows: rows - (leftOutOf(name) - refused),
      leftOut: leftOutOf(name),
      ...(stated?.rows !== undefined && { stated: stated.rows }),
    }));
    const people = read.onlyNamed.includes("cardholders")
      ? undefined
      : peopleNamed(
          read.brings,
          owns,
          (read.lists.cardholders ?? []).map(({ id }) => asText(id)),
        );
    return {
      ...settled,
      delivery: { name: source.name, asOf: asOf.from === "clock" ? undefined : asOf.at, ...(people && { people }) },
      refused: refusedRows,
      read,
      brings: read.brings,
      summaries,
      asOf,
      unread: [
        ...unread,
        ...files
          .filter((file) => file.isHidden && !(profile?.tables ?? []).some(({ name, makes }) => `${name}.csv` === file.name && makes.length > 0))
          .map(({ name }) => ({ name, why: "this sheet is hidden, and nobody chose to read it" })),
      ],
      fileHash: originals?.bundle ?? (await hashOfBundle(source, [...hashes.values()])),
    };
  } finally {
    close();
  }
}

const refusedColumns = ["file", "line", "column", "value", "reason"] as const;

export const refusedCsv = (refused: readonly RefusedRow[]): string =>
  stringify([refusedColumns, ...refused.map((row) => refusedColumns.map((column) => String(row[column])))], {
    record_delimiter: "windows",
    quoted_match: /[\r\n]/,
    escape_formulas: true,
  });

export const printedRow = ({ file, line, column, value, reason }: RefusedRow): PrintedIssue => ({
  level: "error",
  path: [file, line > 0 ? `line ${line}` : "", column].filter(Boolean).join(", "),
  code: "refused-row",
  message: value === "" ? `${reason}.` : `Found ${value}; ${reason}.`,
});

const errorsListed = 200;
const refusal = (refused: readonly RefusedRow[]) => ({ errors: refused.slice(0, errorsListed).map(printedRow), errorCount: refused.length });
const notOpened = (error: BundleError, name: string): PrintedIssue => ({ level: "error", path: name, code: "not-a-bundle", message: error.message });

/** What a bundle would bring. The rows that are refused are written beside it as CSV. */
export async function previewBundle(services: Services, file: SourceFile, report: Report, readAs: ReadAs = asItIs): Promise<IntakePreview> {
  const { name } = file;
  try {
    const { checked, refused, kept, summaries, fileHash, read, brings, unread, asOf } = await openBundle(services, file, readAs, report);
    if (refused.length > 0) await services.files.keepRefusedRows(file, refusedCsv(refused));
    if (!checked || refused.some(({ whole }) => whole))
      return { kind: "refused", fileName: name, ...refusal(refused), isTables: true, needsProfile: read.needsProfile };
    return await previewContents(services, { checked, fileHash, leftOut: rowsLeftOut(refused), files: summaries, brings }, name, report, {
      refused,
      kept,
      tables: { asOfFrom: asOf.from, unread, madeFromNames: read.madeFromNames },
    });
  } catch (error) {
    if (error instanceof BundleError) return { kind: "refused", fileName: name, errors: [notOpened(error, name)], errorCount: 1 };
    throw error;
  }
}

/** Takes a bundle in, all or nothing; rows that are refused stop it, unless just so many may be left out. */
export async function storeBundle(
  services: Services,
  file: SourceFile,
  source: string,
  who: Actor,
  leaveOut: number,
  report: Report,
  readAs: ReadAs = asItIs,
  on?: number | null,
): Promise<IntakeOutcome> {
  try {
    const { checked, refused, summaries, fileHash, brings, delivery } = await openBundle(services, file, readAs, report);
    const leftOut = rowsLeftOut(refused);
    if (!checked || refused.some(({ whole }) => whole) || leftOut !== leaveOut) return { outcome: "refused", ...refusal(refused) };
    const stored = await storeContents(services, { checked, fileHash, leftOut, files: summaries, brings, delivery }, source, who, report, on);
    await keepProfile(services, source, readAs.profile, who);
    return stored;
  } catch (error) {
    if (error instanceof BundleError) return { outcome: "refused", errors: [notOpened(error, file.name)], errorCount: 1 };
    throw error;
  }
}

import { createHash } from "node:crypto";
import { stringify } from "csv-stringify/sync";
import type { Brings } from "@/core/facility/ownership";
import type { SettledBundle } from "@/intake/formats/tables/settle-bundle";
import { settleOwned } from "@/intake/formats/tables/owned-bundle";
import { rowsLeftOut } from "@/intake/formats/tables/settle-bundle";
import { BundleError, folderFiles, zipFiles } from "@/intake/formats/tables/bundle-files";
import { isWorkbook, workbookFiles } from "@/intake/formats/tables/workbook";
import type { TableHeaders } from "@/intake/formats/tables/read-bundle";
import { readBundle } from "@/intake/formats/tables/read-bundle";
import type { BundleFile, RefusedRow } from "@/intake/formats/tables/read-table";
import type { Actor } from "@/operations/ports/record";
import type { IntakeFile, PrintedIssue } from "@/operations/ports/snapshots";
import type { Report } from "@/operations/ports/progress";
import type { SourceFile } from "@/operations/ports/source-files";
import { openRegister } from "@/operations/register/open-register";
import { previewContents } from "@/operations/intake/preview-contents";
import type { IntakeOutcome, IntakePreview, ReadAs, Services } from "@/operations/services";
import { storeContents } from "@/operations/intake/store-contents";
import { keepMapping } from "./keep-mapping";

export const asItIs: ReadAs = { mapping: {}, owns: {} };

export const isBundle = ({ name, isFolder }: SourceFile): boolean => isFolder || /\.zip$/i.test(name) || isWorkbook(name);

/** The files of a bundle, each hashed while it is read, so that it is read once; what nobody reads to its end is hashed when it is asked for. */
function hashedWhileRead(files: readonly BundleFile[]): { readonly files: BundleFile[]; readonly hashOf: (file: BundleFile) => Promise<string> } {
  const hashes = new Map<string, string>();
  const opened = (file: BundleFile): BundleFile => ({
    ...file,
    open: async () => {
      const hash = createHash("sha256");
      const stream = await file.open();
      stream.on("data", (chunk: Buffer) => hash.update(chunk));
      stream.once("end", () => hashes.set(file.name, hash.digest("hex")));
      stream.pause();
      return stream;
    },
  });
  const hashOf = async (file: BundleFile): Promise<string> => {
    if (!hashes.has(file.name)) for await (const _ of await opened(file).open());
    return hashes.get(file.name) ?? "";
  };
  return { files: files.map(opened), hashOf };
}

/** A folder has no bytes of its own: what stands for it are the hashes of its files. */
const hashOfBundle = (file: SourceFile, hashes: readonly string[]): Promise<string> | string =>
  file.isFolder ? createHash("sha256").update(hashes.join("\n")).digest("hex") : file.hash();

/** The files of a bundle: of a folder, of a ZIP, or the sheets of a workbook, with those of these that are hidden. */
async function filesOf(source: SourceFile): Promise<{ readonly files: BundleFile[]; readonly close: () => void; readonly hidden?: readonly string[] }> {
  const close = (): void => undefined;
  if (source.isFolder) return { files: await folderFiles(source.path), close };
  if (!isWorkbook(source.name)) return zipFiles(source.path);
  const chunks: Buffer[] = [];
  for await (const chunk of source.stream() as AsyncIterable<Buffer>) chunks.push(chunk);
  return { ...workbookFiles(Buffer.concat(chunks)), close };
}

const wholeFile = (file: string, column: string, value: string, reason: string): RefusedRow => ({ file, line: 0, column, value, reason, whole: true });

const hiddenSheet = (name: string): RefusedRow =>
  wholeFile(name, "", name, "this sheet is hidden and was not read; expected sheets that can be seen: show it, or take it out");

/** A workbook waits between being shown and being stored, and is not written anew: PINs would lie on the disk. */
const pinsInWorkbook = (tables: readonly TableHeaders[]): RefusedRow[] =>
  tables.flatMap(({ file, headers }) =>
    headers
      .filter(({ column }) => column === "pin")
      .map(({ text }) => wholeFile(file, text, "", "a workbook with PINs is not kept; expected the table as CSV, from which they are taken out at once")),
  );

interface OpenedBundle extends SettledBundle {
  readonly brings: Brings;
  readonly fileHash: string;
  readonly summaries: readonly IntakeFile[];
  readonly tables: readonly TableHeaders[];
}

async function openBundle(services: Services, source: SourceFile, { mapping, owns }: ReadAs, report: Report): Promise<OpenedBundle> {
  const { files: found, close, hidden = [] } = await filesOf(source);
  try {
    const { files, hashOf } = hashedWhileRead(found);
    const bundle = await readBundle(files, mapping, services.tagOfPin);
    report({ step: "checking", done: 0, of: 1 });
    const present = (await openRegister(services))?.compiled.facility;
    const { tables, brings } = bundle;
    const settled = settleOwned(bundle, present, services.now(), owns);
    const hashes = new Map<string, string>();
    const originals = await services.files.originalHashes(source);
    // A sheet has no bytes of its own: what stands for it is the hash of its workbook.
    const workbook = isWorkbook(source.name) ? await source.hash() : undefined;
    for (const file of files) hashes.set(file.name, workbook ?? originals?.files[file.name] ?? (await hashOf(file)));
    const totals = bundle.files.find(({ name }) => /(^|\/)totals\.csv$/i.test(name))?.name ?? "";
    const otherHashes = bundle.files.flatMap(({ name, stated }): RefusedRow[] =>
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
    const refusedRows = [...settled.refused, ...otherHashes, ...hidden.map(hiddenSheet), ...(workbook === undefined ? [] : pinsInWorkbook(tables))];
    const leftOutOf = (name: string): number => rowsLeftOut(refusedRows.filter(({ file }) => file === name));
    // A row that could be read and does not hold is among those left out, no longer among those taken in.
    const summaries = bundle.files.map(({ name, rows, refused, stated }) => ({
      name,
      hash: hashes.get(name) ?? "",
      rows: rows - (leftOutOf(name) - refused),
      leftOut: leftOutOf(name),
      ...(stated?.rows !== undefined && { stated: stated.rows }),
    }));
    return { ...settled, refused: refusedRows, tables, brings, summaries, fileHash: originals?.bundle ?? (await hashOfBundle(source, [...hashes.values()])) };
  } finally {
    close();
  }
}

const refusedColumns = ["file", "line", "column", "value", "reason"] as const;

export const refusedCsv = (refused: readonly RefusedRow[]): string =>
  stringify([refusedColumns, ...refused.map((row) => refusedColumns.map((column) => String(row[column])))], {
    record_delimiter: "windows",
    escape_formulas: true,
  });

const printedRow = ({ file, line, column, value, reason }: RefusedRow): PrintedIssue => ({
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
    const { checked, refused, kept, summaries, fileHash, tables, brings } = await openBundle(services, file, readAs, report);
    if (refused.length > 0) await services.files.keepRefusedRows(file, refusedCsv(refused));
    if (!checked || refused.some(({ whole }) => whole)) return { kind: "refused", fileName: name, ...refusal(refused), tables };
    return await previewContents(services, { checked, fileHash, leftOut: rowsLeftOut(refused), files: summaries, brings }, name, report, {
      refused,
      kept,
      tables,
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
    const { checked, refused, summaries, fileHash, brings } = await openBundle(services, file, readAs, report);
    const leftOut = rowsLeftOut(refused);
    if (!checked || refused.some(({ whole }) => whole) || leftOut !== leaveOut) return { outcome: "refused", ...refusal(refused) };
    const stored = await storeContents(services, { checked, fileHash, leftOut, files: summaries, brings }, source, who, report, on);
    await keepMapping(services, source, readAs.mapping, who);
    return stored;
  } catch (error) {
    if (error instanceof BundleError) return { outcome: "refused", errors: [notOpened(error, file.name)], errorCount: 1 };
    throw error;
  }
}

import { csvFile, workbookType, xlsxFile } from "./table-file";
import type { TableFile } from "./table-file";

const types = { csv: "text/csv; charset=utf-8", xlsx: workbookType } as const;
export type FileForm = keyof typeof types;

export const isFileForm = (text: string): text is FileForm => Object.hasOwn(types, text);

/** A reply that hands a table out as a file of a name. */
export const answerFile = (name: string, table: TableFile, form: FileForm): Response =>
  new Response(form === "csv" ? csvFile(table) : new Uint8Array(xlsxFile(table)), {
    headers: { "content-type": types[form], "content-disposition": `attachment; filename="${name}.${form}"` },
  });

import { contentKindOf } from "@/intake/formats/content-kind";
import type { IntakeLimits } from "@/intake/formats/limits";
import type { ContentKind } from "@/intake/formats/content-kind";
import { readLdif } from "@/intake/formats/directory/read-ldif";
import { tableOfObjects, tableOfScimList } from "@/intake/formats/people/listed-objects";
import { BundleError } from "@/intake/formats/tables/bundle-error";
import type { SourceFiles } from "@/intake/formats/tables/bundle-files";
import { folderFiles, unpacked, zipFiles } from "@/intake/formats/tables/bundle-files";
import { workbookFiles } from "@/intake/formats/tables/workbook";
import type { SourceFile } from "../ports/source-files";

/** What a source's file is, by what is in it. */
export const kindOfFile = (file: SourceFile): Promise<ContentKind | "folder"> =>
  file.isFolder ? Promise.resolve("folder") : contentKindOf(() => file.stream());

const close = (): void => undefined;

/** The tables of a file, of an archive, a folder or a workbook. Throws a `BundleError` for what cannot be opened. */
export async function openSource(source: SourceFile, limits: IntakeLimits): Promise<SourceFiles> {
  switch (await kindOfFile(source)) {
    case "folder":
      return folderFiles(source.path, limits);
    case "zip":
      return zipFiles(source.path, limits);
    case "workbook": {
      const chunks: Buffer[] = [];
      for await (const chunk of source.stream() as AsyncIterable<Buffer>) chunks.push(chunk);
      return { files: workbookFiles(Buffer.concat(chunks), limits), unread: [], close };
    }
    case "gzip":
      return {
        files: [{ name: source.name, open: () => Promise.resolve(unpacked(`${source.name.replace(/\.gz$/i, "")}.gz`, source.stream(), limits)) }],
        unread: [],
        close,
      };
    case "directory": {
      const { entries, troubles } = readLdif(await source.text());
      const objects = entries.map(({ line, dn, attributes }) => ({ line, values: new Map([["dn", [dn]], ...attributes]) }));
      return {
        files: [tableOfObjects(source.name, objects)],
        unread: troubles.map(({ line, attribute, reason }) => ({
          name: `${source.name}, line ${line}${attribute === "" ? "" : `, ${attribute}`}`,
          why: reason,
        })),
        close,
      };
    }
    case "people-list": {
      const table = tableOfScimList(source.name, await source.text());
      if (!table) throw new BundleError("This is no list of people; expected a SCIM ListResponse with its Resources (RFC 7644).");
      return { files: [table], unread: [], close };
    }
    default:
      return { files: [{ name: source.name, open: () => Promise.resolve(source.stream()) }], unread: [], close };
  }
}

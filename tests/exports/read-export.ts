import { Readable } from "node:stream";
import { usualLimits } from "@/intake/formats/limits";
import type { CheckedFacility } from "@/core/facility/check-facility";
import type { Facility } from "@/core/facility/facility";
import type { BundleFile, RefusedRow } from "@/intake/formats/tables/bundle-file";
import { settleOwned } from "@/intake/formats/tables/owned-bundle";
import type { SourceTable } from "@/intake/formats/tables/source-table";
import { openTable } from "@/intake/formats/tables/source-table";
import { isWorkbook, workbookFiles } from "@/intake/formats/tables/workbook";
import { conceptOf } from "@/intake/profile/header-words";
import { lookAtTable } from "@/intake/profile/looked-at";
import type { ReadSource } from "@/intake/profile/read-source";
import { readSource } from "@/intake/profile/read-source";
import type { SourceProfile } from "@/intake/profile/source-profile";
import { suggestProfile } from "@/intake/profile/suggest-profile";
import type { Export } from "./exports";

export const textFile = (name: string, content: string | Buffer): BundleFile => ({
  name,
  open: () => Promise.resolve(Readable.from([Buffer.from(content as string)])),
});

export const filesOf = ({ name, bytes }: Export): BundleFile[] => (isWorkbook(name) ? workbookFiles(bytes, usualLimits) : [textFile(name, bytes)]);

export async function tablesOf(files: readonly BundleFile[], profile?: SourceProfile): Promise<SourceTable[]> {
  const tables: SourceTable[] = [];
  for (const file of files) {
    const text = profile?.tables.find(({ name }) => `${name}.csv` === file.name || name === file.name.replace(/\.[^.]*$/, ""))?.text;
    tables.push(await openTable(file, usualLimits, text, (heading) => conceptOf(heading) !== undefined));
  }
  return tables;
}

/** What can be seen of how an export is written. */
export async function suggested(one: Export, present: Facility | undefined): Promise<SourceProfile> {
  const looks = [];
  for (const table of await tablesOf(filesOf(one))) looks.push({ table, look: await lookAtTable(table) });
  return suggestProfile(looks, present);
}

export interface ReadExport {
  readonly read: ReadSource;
  readonly checked: CheckedFacility | undefined;
  readonly refused: readonly RefusedRow[];
}

/** Files read by a profile and settled on a register. */
export async function readBy(
  files: readonly BundleFile[],
  profile: SourceProfile,
  present: Facility | undefined,
  { asOf = "2026-11-28T00:00:00Z", tagOfPin = (pin: string) => `tag of ${pin}` } = {},
): Promise<ReadExport> {
  const zone = present?.timeZone ?? profile.facility?.timeZone ?? "UTC";
  const read = await readSource(await tablesOf(files, profile), profile, present, { zone, tagOfPin });
  const { checked, refused } = settleOwned(read, present, asOf, {}, read.onlyNamed, profile.missing);
  return { read, checked, refused };
}

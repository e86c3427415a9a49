import { strToU8, zipSync } from "fflate";
import type { FacilityDocument } from "@/core/facility/document";
import { withAllLists } from "@/core/facility/facility";
import { writeWorkbook } from "@/intake/formats/tables/workbook";
import { tablesOf, writeBundle } from "@/intake/formats/tables/write-bundle";

/** A frozen document as a workbook, a sheet a table. */
export const bundleWorkbook = (text: string): Uint8Array => writeWorkbook(tablesOf(withAllLists(JSON.parse(text) as FacilityDocument)));

/** A frozen document as a ZIP of CSV tables. `at` dates the files in it, so that the same snapshot gives the same bytes. */
export function bundleZip(text: string, at: string): Uint8Array {
  const files = [...writeBundle(withAllLists(JSON.parse(text) as FacilityDocument))].map(({ name, text: csv }) => [name, strToU8(csv)] as const);
  return zipSync(Object.fromEntries(files), { mtime: new Date(at), level: 6 });
}

import type { BundleMapping } from "@/intake/formats/tables/read-bundle";
import type { Account } from "../ports/accounts";
import type { Report } from "../ports/progress";
import { demand } from "../rights";
import type { IntakePreview, Services } from "../services";
import { isWorkbook } from "@/intake/formats/tables/workbook";
import { isBundle } from "./intake-bundle";
import { previewFile } from "./intake-file";
import { takeOutPins } from "./without-pins";

/** A file that waits, and how it is read: as its source writes, or as a mapping says. */
export interface AskedPreview {
  readonly path: string;
  readonly name: string;
  readonly source: string;
  readonly mapping: BundleMapping | undefined;
}

/** What a waiting file would bring. It waits without PINs from then on; a table that is no CSV does not wait at all. */
export async function previewIntake(
  services: Services,
  account: Account,
  { path, name, source, mapping }: AskedPreview,
  report: Report,
): Promise<IntakePreview> {
  demand(account, "take-in");
  const readAs = { mapping: mapping ?? (await services.sources.mapping(source)), owns: await services.sources.owns(source) };
  const preview = await previewFile(services, path, name, readAs, report);
  const file = await services.files.open(path, name);
  if (isWorkbook(name)) {
    // It is not written anew without them, and so waits only where it has none.
    const hasPins = "tables" in preview && preview.tables?.some(({ headers }) => headers.some(({ column }) => column === "pin"));
    if (hasPins) await services.files.drop(path);
  } else if (isBundle(file)) await takeOutPins(services, file, readAs.mapping).catch(() => services.files.drop(path));
  return preview;
}

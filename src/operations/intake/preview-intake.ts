import { BundleError } from "@/intake/formats/tables/bundle-error";
import type { SourceTable } from "@/intake/formats/tables/source-table";
import { profileOfTable } from "@/intake/profile/read-source";
import type { SourceProfile, TableProfile } from "@/intake/profile/source-profile";
import type { Account } from "../ports/accounts";
import type { Report } from "../ports/progress";
import type { SourceFile } from "../ports/source-files";
import { demand } from "../rights";
import type { IntakePreview, Services } from "../services";
import { previewFile } from "./intake-file";
import { kindOfFile, openSource } from "./open-source";
import { openTables } from "./read-tables";
import { takeOutPins } from "./without-pins";

const tabular: ReadonlySet<string> = new Set(["text", "zip", "gzip", "workbook", "folder"]);

/** A file that waits, and how it is read: as its source writes, or as a profile says that is not kept yet. */
export interface AskedPreview {
  readonly path: string;
  readonly name: string;
  readonly source: string;
  readonly profile: SourceProfile | undefined;
  readonly asOf: string | undefined;
}

/** The one source whose profile has all tables of a file, header by header; undefined where none has, or several. */
async function sourceThatFits(services: Services, file: SourceFile): Promise<string | undefined> {
  const kind = await kindOfFile(file);
  if (kind === "calendar" || kind === "facility" || kind === "json-lines") return undefined;
  const found: string[] = [];
  try {
    const { files, close } = await openSource(file, services.limits);
    try {
      for (const name of await services.sources.names()) {
        const profile = await services.sources.profile(name);
        if (!profile || profile.tables.length === 0) continue;
        const tables = await openTables(files, profile, services.limits);
        const seen = tables.filter(({ headers, isHidden }) => headers.length > 0 && !isHidden);
        if (seen.length > 0 && seen.every((table) => hasSameHeaders(profileOfTable(profile, table), table))) found.push(name);
      }
    } finally {
      close();
    }
  } catch (error) {
    if (!(error instanceof BundleError)) throw error;
  }
  return found.length === 1 ? found[0] : undefined;
}

const hasSameHeaders = (said: TableProfile | undefined, { headers }: SourceTable): boolean =>
  said !== undefined && said.headers.length === headers.length && headers.every((header) => said.headers.includes(header));

/** What a waiting file would bring. It waits without PINs from then on; what cannot be kept without them does not wait at all. */
export async function previewIntake(services: Services, account: Account, asked: AskedPreview, report: Report): Promise<IntakePreview> {
  demand(account, "take-in");
  return previewWaiting(services, asked, report);
}

/** The same for what arrives by itself. */
export async function previewWaiting(services: Services, { path, name, source, profile, asOf }: AskedPreview, report: Report): Promise<IntakePreview> {
  const file = await services.files.open(path, name);
  const fitting = source === "" && !profile ? await sourceThatFits(services, file) : undefined;
  const from = fitting ?? source;
  const readAs = { profile: profile ?? (await services.sources.profile(from)), owns: await services.sources.owns(from), ...(asOf !== undefined && { asOf }) };
  const preview = await previewFile(services, path, name, readAs, report);
  if (tabular.has(await kindOfFile(file))) await takeOutPins(services, file, readAs.profile).catch(() => services.files.drop(path));
  return fitting === undefined ? preview : { ...preview, source: fitting };
}

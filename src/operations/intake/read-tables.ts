import { createHash } from "node:crypto";
import type { CivilDay } from "@/core/time/civil-day";
import { parseCivilDay } from "@/core/time/civil-day";
import { firstMinuteFrom, zoneOf } from "@/core/time/zone";
import { formatMinute } from "@/core/time/instant";
import type { Facility } from "@/core/facility/facility";
import type { IntakeLimits } from "@/intake/formats/limits";
import { isUnderstood, readBundle } from "@/intake/formats/tables/read-bundle";
import type { ReadBundle, TableHeaders } from "@/intake/formats/tables/read-bundle";
import type { BundleFile, RefusedRow } from "@/intake/formats/tables/bundle-file";
import type { SourceTable } from "@/intake/formats/tables/source-table";
import { openTable, tableName } from "@/intake/formats/tables/source-table";
import { conceptOf } from "@/intake/profile/header-words";
import { lookAtTable } from "@/intake/profile/looked-at";
import type { ReadSource } from "@/intake/profile/read-source";
import { profileOfTable, readSource } from "@/intake/profile/read-source";
import type { SourceProfile } from "@/intake/profile/source-profile";
import { suggestProfile } from "@/intake/profile/suggest-profile";
import type { Services } from "../services";

/** The files of a bundle, each hashed while it is read, so that it is read once; what nobody reads to its end is hashed when it is asked for. */
export function hashedWhileRead(files: readonly BundleFile[]): { readonly files: BundleFile[]; readonly hashOf: (file: BundleFile) => Promise<string> } {
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

/** Opens the tables of files as a profile says that they are written, or as can be seen. */
export async function openTables(files: readonly BundleFile[], profile: SourceProfile | undefined, limits: IntakeLimits): Promise<SourceTable[]> {
  const tables: SourceTable[] = [];
  for (const file of files) {
    const named = profile?.tables.find(({ name }) => name === tableName(file.name));
    const table = await openTable(file, limits, named?.text, (text) => conceptOf(text) !== undefined);
    const byHeaders = named ?? (profile && profileOfTable(profile, table));
    tables.push(byHeaders && !named ? await openTable(file, limits, byHeaders.text) : table);
  }
  return tables;
}

export type ReadTables = Omit<ReadBundle, "tables"> & {
  /** The tables by their headers, where they were read without a profile. */
  readonly tables?: readonly TableHeaders[];
  readonly onlyNamed: ReadSource["onlyNamed"];
  readonly madeFromNames: ReadSource["madeFromNames"];
  readonly outcomes: ReadSource["outcomes"];
  /** It is none of the tables of the documentation, and nobody has said yet how it is written. */
  readonly needsProfile: boolean;
};

const dateInName = /(?<!\d)(\d{4})[-_.]?(\d{2})[-_.]?(\d{2})(?!\d)/;

/** The date in a file's name; undefined where there is none. */
export function dateOfName(name: string): CivilDay | undefined {
  const [, year = "", month = "", day = ""] = dateInName.exec(name) ?? [];
  return parseCivilDay(`${year}-${month}-${day}`);
}

/** The instant at which that date begins. */
export function asOfFromName(name: string, timeZone: string): string | undefined {
  const date = dateOfName(name);
  return date === undefined ? undefined : formatMinute(firstMinuteFrom(zoneOf(timeZone), date));
}

/**
 * Reads the tables of a source: those of the documentation as they are, others by the profile. A table of the documentation that a profile says nothing of is
 * read as it is, too.
 */
export async function readTables(
  services: Pick<Services, "tagOfPin" | "limits">,
  files: readonly BundleFile[],
  profile: SourceProfile | undefined,
  present: Facility | undefined,
): Promise<ReadTables> {
  const nothingNamed = { onlyNamed: [], madeFromNames: [], outcomes: [] } as const;
  if (!profile || profile.tables.length === 0) {
    const seen = files.filter(({ isHidden }) => !isHidden);
    const bundle = await readBundle(seen, services.tagOfPin);
    return { ...bundle, ...nothingNamed, needsProfile: !isUnderstood(bundle.tables) };
  }
  const tables = await openTables(files, profile, services.limits);
  const covered = await withOwnTables(tables, profile);
  const zone = present?.timeZone ?? profile.facility?.timeZone ?? "UTC";
  const read = await readSource(tables, covered, present, { zone, tagOfPin: services.tagOfPin });
  return { ...read, needsProfile: false };
}

/** A profile with what it does not say of tables that are called and headed as in the documentation. */
async function withOwnTables(tables: readonly SourceTable[], profile: SourceProfile): Promise<SourceProfile> {
  const own: SourceProfile["tables"][number][] = [];
  for (const table of tables)
    if (!profileOfTable(profile, table) && !table.isHidden && table.headers.length > 0) {
      const [suggested] = suggestProfile([{ table, look: await lookAtTable(table) }], undefined).tables;
      const [made] = suggested?.makes ?? [];
      if (
        suggested &&
        made &&
        made.table === table.name &&
        table.headers.every((header) => Object.values(made.fields).some(({ columns }) => columns?.includes(header)))
      )
        own.push(suggested);
    }
  return own.length === 0 ? profile : { ...profile, tables: [...profile.tables, ...own] };
}

export const wholeFile = (file: string, column: string, value: string, reason: string): RefusedRow => ({ file, line: 0, column, value, reason, whole: true });

import type { CivilDay } from "@/core/time/civil-day";
import type { RefusedRow } from "@/intake/formats/tables/bundle-file";
import { BundleError } from "@/intake/formats/tables/bundle-error";
import type { UnreadFile } from "@/intake/formats/tables/bundle-files";
import type { RecognisedForm } from "@/intake/formats/tables/text-form";
import type { SourceTable } from "@/intake/formats/tables/source-table";
import type { LookedAtColumn, LookedAtTable } from "@/intake/profile/looked-at";
import { lookAtTable } from "@/intake/profile/looked-at";
import { isOfRow, shownValue } from "@/intake/profile/made-rows";
import type { Question } from "@/intake/profile/open-questions";
import { openQuestions } from "@/intake/profile/open-questions";
import type { TableOutcome } from "@/intake/profile/read-source";
import { makerOf, profileOfTable, readSource } from "@/intake/profile/read-source";
import type { SourceProfile, TableProfile } from "@/intake/profile/source-profile";
import { suggestProfile } from "@/intake/profile/suggest-profile";
import { targetTables } from "@/intake/profile/target-fields";
import type { Account } from "../ports/accounts";
import type { Report } from "../ports/progress";
import { openRegister } from "../register/open-register";
import { demand } from "../rights";
import type { Services } from "../services";
import { openSource } from "./open-source";
import { dateOfName, openTables } from "./read-tables";

export type {
  FieldSource,
  HoursForm,
  MadeObject,
  MomentForm,
  MomentFormName,
  SourceProfile,
  TableProfile,
  UnfoldedColumns,
} from "@/intake/profile/source-profile";
export type { TextForm } from "@/intake/formats/tables/text-form";
export type { Question } from "@/intake/profile/open-questions";

/** A table that rows can feed and its fields, for whoever chooses among them. */
export interface ProfileTarget {
  readonly table: string;
  readonly list: string | undefined;
  readonly fields: readonly { readonly name: string; readonly kind: string; readonly values?: readonly string[]; readonly list?: string }[];
  readonly needs: readonly (readonly string[])[];
}

/** Everything that rows of a source may feed. */
export const profileTargets: readonly ProfileTarget[] = [...targetTables.values()].map(({ table, bundle, fields, needs }) => ({
  table,
  list: bundle && !bundle.parts ? bundle.list : undefined,
  fields: [...fields.values()].map(({ name, reads }) => ({
    name,
    kind: reads.kind,
    ...(reads.kind === "closed" && { values: reads.values }),
    ...((reads.kind === "reference" || reads.kind === "references") && { list: reads.list }),
  })),
  needs,
}));

/** What a row of a source makes, in short. */
export interface TriedObject {
  readonly table: string;
  readonly values: readonly { readonly field: string; readonly text: string }[];
}

export interface TriedRow {
  readonly line: number;
  readonly cells: readonly string[];
  readonly made: readonly TriedObject[];
  readonly refused: readonly { readonly column: string; readonly reason: string }[];
  readonly isAside: boolean;
}

export interface TriedTable {
  readonly name: string;
  readonly isSheet: boolean;
  readonly isHidden: boolean;
  readonly form: RecognisedForm;
  readonly rows: number;
  readonly columns: readonly LookedAtColumn[];
  readonly first: readonly TriedRow[];
  readonly outcome: TableOutcome | undefined;
}

/** A source read by a profile, nothing stored: what came, what each of its first rows makes, and what the profile leaves open. */
export interface TriedSource {
  readonly profile: SourceProfile;
  /** Nobody has said anything of this yet: all of it is a suggestion. */
  readonly isSuggested: boolean;
  readonly tables: readonly TriedTable[];
  /** The date in the file's name, where it has one: it speaks for the beginning of it. */
  readonly dateInName: CivilDay | undefined;
  readonly questions: readonly Question[];
  readonly refused: readonly RefusedRow[];
  readonly refusedCount: number;
  readonly unread: readonly UnreadFile[];
  readonly madeFromNames: readonly { readonly list: string; readonly id: string; readonly name: string }[];
}

const valuesShown = 300;
const refusedShown = 50;
const namesShown = 200;

/** What the first rows of a table make by what the profile says of it. */
function firstRows(table: SourceTable, look: LookedAtTable, said: TableProfile | undefined, zone: string): TriedRow[] {
  const maker = said && said.makes.length > 0 ? makerOf(table, said, { zone, tagOfPin: () => "•••" }) : undefined;
  return look.first.map(({ line, cells }) => {
    const outcome = maker && maker.problems.length + maker.missing.length === 0 ? maker.make({ line, cells }) : undefined;
    return {
      line,
      cells,
      made:
        outcome?.kind === "made"
          ? outcome.made.map(({ target, values }) => ({
              table: target.table,
              values: Object.entries(values).flatMap(([field, value]) => (field === "pinTag" || isOfRow(value) ? [] : [{ field, text: shownValue(value) }])),
            }))
          : [],
      refused: outcome?.kind === "refused" ? outcome.refused.map(({ column, reason }) => ({ column, reason })) : [],
      isAside: outcome?.kind === "aside",
    };
  });
}

/** A file, and the profile that it is tried with: the one given, or else that of its source. */
export interface AskedTrial {
  readonly path: string;
  readonly name: string;
  readonly source: string;
  readonly profile: SourceProfile | undefined;
}

export type Trial = TriedSource | { readonly error: string };

/** A file that waits, read by a profile: one that is given, the one kept with its source, or what can be seen of it. */
export async function tryProfile(services: Services, account: Account, asked: AskedTrial, report: Report): Promise<Trial> {
  demand(account, "take-in");
  return trySource(services, asked, report);
}

/** The same for whoever may reach the installation itself. */
export async function trySource(services: Services, { path, name, source, profile: given }: AskedTrial, report: Report): Promise<Trial> {
  report({ step: "reading", done: 0, of: 1 });
  const file = await services.files.open(path, name);
  const present = (await openRegister(services))?.compiled.facility;
  const known = given ?? (await services.sources.profile(source));
  try {
    const { files, unread, close } = await openSource(file, services.limits);
    try {
      const tables = await openTables(files, known, services.limits);
      const looks: { table: SourceTable; look: LookedAtTable }[] = [];
      for (const table of tables) looks.push({ table, look: await lookAtTable(table) });
      const suggested = suggestProfile(looks, present);
      const isSuggested = !known || known.tables.length === 0;
      // What is known says nothing of a table that never came before: what can be seen of that is suggested beside it.
      const dateInName = dateOfName(name);
      const named = dateInName === undefined ? {} : { asOf: "file-name" as const };
      const profile: SourceProfile = isSuggested ? { ...suggested, ...named, ...known, tables: suggested.tables } : withNewTables(known, suggested, tables);
      const zone = present?.timeZone ?? profile.facility?.timeZone ?? "UTC";
      report({ step: "checking", done: 0, of: 1 });
      const read = await readSource(tables, profile, present, { zone, tagOfPin: services.tagOfPin });
      return {
        profile,
        isSuggested,
        dateInName,
        tables: looks.map(({ table, look }) => ({
          name: table.name,
          isSheet: table.isSheet,
          isHidden: table.isHidden,
          form: table.form,
          rows: look.rows,
          columns: look.columns.map((column) => ({
            ...column,
            values: column.values.slice(0, valuesShown),
            hasMore: column.hasMore || column.values.length > valuesShown,
          })),
          first: firstRows(table, look, profileOfTable(profile, table), zone),
          outcome: read.outcomes.find((outcome) => outcome.table === table.name),
        })),
        questions: openQuestions(
          looks.map(({ table, look }) => ({ ...look, isHidden: table.isHidden })),
          profile,
          read.unknownNames,
        ),
        refused: read.refused.slice(0, refusedShown),
        refusedCount: read.refused.length,
        unread,
        madeFromNames: read.madeFromNames.slice(0, namesShown),
      };
    } finally {
      close();
    }
  } catch (error) {
    if (error instanceof BundleError) return { error: error.message };
    throw error;
  }
}

/** A known profile with its tables under the names that they came by this time, and what can be seen of those that are new. */
function withNewTables(known: SourceProfile, suggested: SourceProfile, tables: readonly SourceTable[]): SourceProfile {
  const said = tables.flatMap((table): TableProfile[] => {
    const one = profileOfTable(known, table);
    if (one) return [{ ...one, name: table.name, headers: table.headers }];
    const seen = suggested.tables.find(({ name }) => name === table.name);
    return seen ? [seen] : [];
  });
  const here = new Set(said.map(({ name }) => name));
  return {
    ...known,
    tables: [...said, ...known.tables.filter(({ name }) => !here.has(name) && !tables.some((table) => profileOfTable(known, table)?.name === name))],
  };
}

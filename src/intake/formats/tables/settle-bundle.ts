import type { CheckedFacility } from "@/core/facility/check-facility";
import type { ListKey } from "@/core/facility/document";
import { listKeys } from "@/core/facility/document";
import type { Facility } from "@/core/facility/facility";
import { keyOf } from "@/core/facility/object-key";
import type { Brings } from "@/core/facility/ownership";
import type { DataIssue } from "@/core/facility/issue";
import { issueWords } from "../facility/issue-words";
import { readDocument } from "../facility/read-facility";
import type { BundleFileSummary, Origin, ReadBundle } from "./read-bundle";
import type { RefusedRow } from "./bundle-file";
import type { Loose } from "./tables";
import { asText, bundleTables } from "./tables";

/** How many rows are left out: each counts once, whatever is wrong with it. */
export const rowsLeftOut = (refused: readonly RefusedRow[]): number => new Set(refused.map(({ file, line }) => `${line} ${file}`)).size;

/**
 * What it means that an object of the register is not in a list: it is gone; it stays; of people, they left at the moment for which the list speaks; of
 * memberships, they are gone from the groups that the source names, and stay in all others.
 */
export type MissingMeans = "gone" | "kept" | "left" | "gone-from-named";

/** A bundle as a checked facility, with everything that could not be taken in; without a facility where nothing sensible is left. */
export interface SettledBundle {
  readonly checked: CheckedFacility | undefined;
  readonly refused: readonly RefusedRow[];
  /** Objects that the bundle does not bring any more and something else still refers to: they are kept. */
  readonly kept: readonly { readonly list: ListKey; readonly id: string }[];
  readonly files: readonly BundleFileSummary[];
}

/** Leaving out a row can make others unreadable, which can make others so; a chain longer than this is given up. */
const longestChain = 50;

interface Place {
  readonly list: ListKey;
  readonly index: number;
  /** The way from the object to the part, empty for the object itself. */
  readonly inside: string;
}

const pathForm = /^([A-Za-z]+)\[(\d+)\]\.?(.*)$/;

function placeOf(path: string): Place | undefined {
  const found = pathForm.exec(path);
  const list = listKeys.find((key) => key === found?.[1]);
  return found && list ? { list, index: Number(found[2]), inside: found[3] ?? "" } : undefined;
}

/** An object as it was brought, with those fields of the register's that the bundle does not speak of. */
function withKeptFields(object: Loose, before: Loose | undefined, fields: Brings[ListKey]): Loose {
  // A schedule that opens always has nothing beside that.
  if (!before || fields === undefined || fields === "all" || object.always === true) return object;
  const brought = Object.entries(object).filter(([field]) => fields.includes(field));
  return { ...Object.fromEntries(Object.entries(before).filter(([field]) => !fields.includes(field))), ...Object.fromEntries(brought) };
}

/**
 * Puts what a bundle brings on top of the present register, checks it, and leaves out row by row what does not hold. Of a list
 * named as incomplete the objects that it does not bring stay; people that it does not bring have left, and memberships of other groups than it names stay,
 * where that is said.
 */
export function settleBundle(
  bundle: Omit<ReadBundle, "tables">,
  present: Facility | undefined,
  asOf: string,
  incomplete: readonly ListKey[] = [],
  missing: Readonly<Partial<Record<ListKey, MissingMeans>>> = {},
): SettledBundle {
  const refused = [...bundle.refused];
  const kept: { list: ListKey; id: string }[] = [];
  const standingById = Object.fromEntries(
    listKeys.map((list) => [
      list,
      new Map(list in bundle.lists ? ((present?.[list] ?? []) as unknown as readonly Loose[]).map((object) => [object.id, object]) : []),
    ]),
  ) as Record<ListKey, Map<unknown, Loose>>;
  const brought: Partial<Record<ListKey, (Loose | undefined)[]>> = Object.fromEntries(
    Object.entries(bundle.lists).map(([key, objects]) => {
      const list = key as ListKey;
      // Memberships have no id by which one could be told to be the same as before.
      return [
        list,
        list === "memberships" ? [...objects] : objects.map((object) => withKeptFields(object, standingById[list].get(object.id), bundle.brings[list])),
      ];
    }),
  );
  const head = bundle.head ?? (present && { name: present.name, timeZone: present.timeZone, asOf });
  const fail = (row: RefusedRow): SettledBundle => ({ checked: undefined, refused: [...refused, { ...row, whole: true }], kept, files: bundle.files });
  if (!head)
    return fail({
      file: "facility.csv",
      line: 0,
      column: "",
      value: "",
      reason: "the bundle has no such file, and there is no register whose name and zone it could add to; expected one row with name, timeZone, asOf",
    });

  /** The document, and for each list which of its objects came from which place of the bundle; −1 for those of the register. */
  const assemble = () => {
    const places: Partial<Record<ListKey, number[]>> = {};
    const document: Loose = { format: "nomade.facility/1", ...head };
    for (const list of listKeys) {
      const own = brought[list];
      const back = new Set(kept.filter((one) => one.list === list).map(({ id }) => id));
      const before = (present?.[list] ?? []) as unknown as readonly Loose[];
      const standing = own ? standingOf(list, before, back) : before;
      const from = (own ?? []).flatMap((object, at) => (object ? [at] : []));
      document[list] = [...from.map((at) => own?.[at]), ...standing];
      places[list] = [...from, ...standing.map(() => -1)];
    }
    return { document, places };
  };

  /** What of the register stays beside what a list brings. */
  const standingOf = (list: ListKey, before: readonly Loose[], back: ReadonlySet<string>): Loose[] => {
    if (incomplete.includes(list)) return missingFrom(list, before);
    if (list === "cardholders" && missing[list] === "left")
      return missingFrom(list, before).map((person) => (person.status === "left" ? person : { ...person, status: "left", statusSince: asText(head.asOf) }));
    if (list === "memberships" && missing[list] === "gone-from-named") {
      const groups = groupsNamed();
      return missingFrom(list, before).filter(({ group }) => !groups.has(asText(group)));
    }
    return before.filter(({ id }) => back.has(asText(id)));
  };

  /** The groups of which the source says who is in them. */
  const groupsNamed = (): ReadonlySet<string> =>
    new Set([...(bundle.lists.groups ?? []).map(({ id }) => asText(id)), ...(bundle.lists.memberships ?? []).map(({ group }) => asText(group))]);

  /** What of the register a list that is not complete does not name. */
  const missingFrom = (list: ListKey, before: readonly Loose[]): Loose[] => {
    const named = new Set((bundle.lists[list] ?? []).map((object) => keyOf(list, object)));
    return before.filter((object) => !named.has(keyOf(list, object)));
  };

  for (let round = 0; round < longestChain; round++) {
    const { document, places } = assemble();
    const checked = readDocument(document);
    if (checked.ok) return { checked: checked.value, refused, kept, files: bundle.files };
    let settled = 0;
    for (const issue of checked.error) {
      const place = placeOf(issue.path);
      const at = place && places[place.list]?.[place.index];
      if (place === undefined || at === undefined)
        return fail({ file: "facility.csv", line: bundle.head ? 2 : 0, column: issue.path, value: String(issue.facts.value ?? ""), reason: issueWords(issue) });
      if (at === -1 || isKeptField(bundle, place)) {
        // Something of the register refers to what the bundle no longer brings: that is kept.
        const list = listKeys.find((key) => key === issue.facts.list);
        const id = String(issue.facts.value ?? "");
        const isThere = list !== undefined && (present?.[list] as unknown as readonly Loose[] | undefined)?.some((object) => object.id === id);
        if (issue.code !== "unknown-reference" || !isThere) return fail({ file: "", line: 0, column: issue.path, value: id, reason: issueWords(issue) });
        if (!kept.some((one) => one.list === list && one.id === id)) kept.push({ list, id });
        settled++;
        continue;
      }
      if (leaveOut(bundle, brought, place, at, issue, refused)) settled++;
    }
    if (settled === 0) return fail({ file: "", line: 0, column: "", value: "", reason: "what is left cannot be put together" });
  }
  return fail({ file: "", line: 0, column: "", value: "", reason: `more than ${longestChain} rows hang on one another that cannot be read` });
}

/** Whether a part of an object is the register's, as the bundle does not speak of it. */
function isKeptField({ brings }: Pick<ReadBundle, "brings">, { list, inside }: Place): boolean {
  const fields = brings[list];
  return fields !== undefined && fields !== "all" && inside !== "" && !fields.includes(inside.split(/[.[]/)[0] ?? "");
}

/** References to people who answer for something: access does not depend on them, so the row is kept without one that leads nowhere. */
export const answerable: Partial<Record<ListKey, readonly string[]>> = { areas: ["owner"], groups: ["manager"], cardholders: ["manager", "sponsor"] };

/** The last key of a path, as the column of a table that it came from. */
function columnOf(list: ListKey, inside: string, isPart: boolean): string {
  const keys = inside.replace(/\[\d+\]/g, "").split(".");
  const path = keys.join(".");
  const columns = bundleTables.filter((table) => table.list === list && (table.parts !== undefined) === isPart).flatMap(({ columns: all }) => all);
  return (
    columns.find((column) => column.path.join(".") === path || column.path.join(".") === (keys[keys.length - 1] ?? ""))?.name ?? keys[keys.length - 1] ?? ""
  );
}

/** Takes the row that an issue is about out of what was brought, and tells it; false where it is out already. */
function leaveOut(
  bundle: Pick<ReadBundle, "partOrigins" | "origins">,
  brought: Partial<Record<ListKey, (Loose | undefined)[]>>,
  { list, inside }: Place,
  at: number,
  issue: DataIssue,
  refused: RefusedRow[],
): boolean {
  const objects = brought[list];
  const object = objects?.[at];
  if (!objects || !object) return false;
  const part = [...partPrefixes(inside)].map((prefix) => bundle.partOrigins.get(`${list}[${at}].${prefix}`)).find((origin) => origin !== undefined);
  const origin: Origin | undefined = part ?? bundle.origins[list]?.[at];
  if (!origin) return false;
  if (issue.code === "unknown-reference" && answerable[list]?.includes(inside)) {
    const { [inside]: _gone, ...rest } = object;
    objects[at] = rest;
    refused.push({
      file: origin.file,
      line: origin.line,
      column: columnOf(list, inside, false),
      value: asText(issue.facts.value),
      reason: `${issueWords(issue)} The row is taken without it`,
    });
    return true;
  }
  // A part cannot be taken out without moving those after it, whose places are known by number: its object goes with it.
  objects[at] = undefined;
  refused.push({
    file: origin.file,
    line: origin.line,
    column: columnOf(list, inside, part !== undefined),
    value: String(issue.facts.value ?? ""),
    reason: issueWords(issue),
  });
  if (!part)
    for (const { file, line } of origin.also ?? [])
      refused.push({
        file,
        line,
        column: "",
        value: "",
        reason: `it speaks of the same object as line ${origin.line} of ${origin.file}, which cannot be read`,
      });
  const own = bundle.origins[list]?.[at];
  if (part && own)
    refused.push({
      file: own.file,
      line: own.line,
      column: "",
      value: asText(object.id),
      reason: `left out, since line ${part.line} of ${part.file} belongs to it and cannot be read`,
    });
  return true;
}

/** `rows[3].schedule` → `rows[3].schedule`, `rows[3]`: from the whole to its beginning. */
function* partPrefixes(inside: string): Generator<string> {
  for (let at = inside; at !== ""; at = at.replace(/(\.?[^.[\]]+|\[\d+\])$/, "")) yield at;
}

import { createHash } from "node:crypto";
import type { ListKey } from "@/core/facility/document";
import { listKeys } from "@/core/facility/document";
import type { Facility } from "@/core/facility/facility";
import type { RefusedRow } from "@/intake/formats/tables/bundle-file";
import type { Origin, ReadBundle } from "@/intake/formats/tables/read-bundle";
import { answerable } from "@/intake/formats/tables/settle-bundle";
import type { Loose } from "@/intake/formats/tables/tables";
import { asText, putAt } from "@/intake/formats/tables/tables";
import type { MadeRow, OfRow } from "./made-rows";
import { isOfRow, shownValue } from "./made-rows";
import type { FieldValue, Named } from "./read-field";
import { isNamed } from "./read-field";
import type { SourceProfile } from "./source-profile";
import type { TargetTable } from "./target-fields";
import { keysOtherwise, usualKeys } from "./target-fields";
import type { Index } from "./register-lookups";
import { foldedName, RegisterLookups } from "./register-lookups";
import { idFromName } from "./text-parts";

/** An object as all rows that speak of it say it is. */
interface Assembled {
  readonly list: ListKey;
  readonly values: Map<string, { readonly value: FieldValue | OfRow; readonly row: MadeRow }>;
  readonly rows: MadeRow[];
  id: string | undefined;
  /** It, or something that it needs, cannot be read. */
  isRefused: boolean;
}

/** What stands for a value when two are compared. */
function comparable(value: FieldValue | OfRow | undefined, objectOf: (row: MadeRow) => Assembled | undefined): string {
  if (isOfRow(value)) {
    const object = objectOf(value.made);
    return `object ${object ? identity(object) : ""}`;
  }
  return JSON.stringify(value);
}

const numbers = new WeakMap<Assembled, number>();
let counted = 0;
/** A number of an object, for comparing whom another belongs to. */
function identity(object: Assembled): number {
  const known = numbers.get(object) ?? ++counted;
  numbers.set(object, known);
  return known;
}

const shownAtMost = 80;
const shown = (value: FieldValue | OfRow): string => shownValue(value).slice(0, shownAtMost);

const listWords = (list: ListKey): string => list.replace(/([A-Z])/g, " $1").toLowerCase();

const longestId = 128;

/** An id of what has no name: from what it says, so that it is the same the next time. */
function idFromContents(parts: readonly string[]): string {
  const plain = parts.join(":");
  if ([...plain].length <= longestId) return plain;
  return `${[...plain].slice(0, longestId - 17).join("")}:${createHash("sha256").update(plain).digest("hex").slice(0, 16)}`;
}

/** The fields of a list that its profile knows objects by. */
const keysOf = (profile: SourceProfile, list: ListKey): readonly (readonly string[])[] => {
  const stated = profile.keys?.[list];
  return stated ? [stated] : (usualKeys[list] ?? keysOtherwise);
};

/** A table that is read, and which of its fields: it speaks of a list even where it has no row. */
export interface SpokenOf {
  readonly target: TargetTable;
  readonly fields: readonly string[];
}

export interface PutTogether extends Pick<ReadBundle, "head" | "lists" | "origins" | "partOrigins" | "brings"> {
  readonly refused: readonly RefusedRow[];
  /** Lists of which objects are only made from names: what else the register has of them stays. */
  readonly onlyNamed: readonly ListKey[];
  readonly madeFromNames: readonly { readonly list: ListKey; readonly id: string; readonly name: string }[];
  /** What cells name and nothing brings, as often as they do. */
  readonly unknownNames: readonly { readonly list: ListKey; readonly text: string }[];
}

/**
 * Puts together what rows made: an object that several rows speak of is one where they agree; references are resolved by what cells name; ids are given to
 * what has none, those of the register where it knows the object. Rows that contradict each other, or name what there is not, are told and left out.
 */
export function putTogether(made: readonly MadeRow[], profile: SourceProfile, present: Facility | undefined, spokenOf: readonly SpokenOf[] = []): PutTogether {
  const refused: RefusedRow[] = [];
  const objects: Partial<Record<ListKey, Assembled[]>> = {};
  const byKey = new Map<string, Assembled>();
  const ofRow = new Map<MadeRow, Assembled>();
  const objectOf = (row: MadeRow): Assembled | undefined => ofRow.get(row);
  const parts: MadeRow[] = [];
  let head: { readonly values: Loose; readonly row: MadeRow } | undefined;
  const refuse = (row: MadeRow, field: string, value: string, reason: string): void =>
    void refused.push({ file: row.file, line: row.line, column: row.columns[field] ?? field, value, reason });
  /** Every row of an object is told, so that whoever leaves them out knows how many these are. */
  const refuseObject = (object: Assembled, told: MadeRow, field: string, value: string, reason: string): void => {
    if (!object.isRefused) {
      refuse(told, field, value, reason);
      for (const row of object.rows)
        if (row !== told) refuse(row, "", "", `it speaks of the same object as line ${told.line} of ${told.file}, which cannot be read`);
    }
    object.isRefused = true;
  };

  /** The tables that feed a single list keep rows that say the same twice, as the document may have them twice. */
  const keyOfRow = (list: ListKey, row: MadeRow): string | undefined => {
    for (const fields of keysOf(profile, list)) {
      const values = fields.map((field) => row.values[field]);
      if (values.every((value) => value !== undefined && value !== null))
        return JSON.stringify([list, fields, values.map((value, at) => foldedName(fields[at] ?? "", comparable(value, objectOf)))]);
    }
    if (list !== "memberships" && list !== "grants") return undefined;
    return JSON.stringify([
      list,
      Object.entries(row.values)
        .sort(([a], [b]) => (a < b ? -1 : 1))
        .map(([field, value]) => [field, comparable(value, objectOf)]),
    ]);
  };

  for (const row of made) {
    const { target, values } = row;
    if (!target.bundle) {
      if (target.table !== "facility") continue;
      if (head && JSON.stringify(head.values) !== JSON.stringify(values))
        refuse(row, "", "", `another row says otherwise what the whole is; expected one (line ${head.row.line} of ${head.row.file})`);
      head ??= { values: values, row };
    } else if (target.bundle.parts) parts.push(row);
    else {
      const { list } = target.bundle;
      const key = keyOfRow(list, row);
      const known = key === undefined ? undefined : byKey.get(key);
      const object: Assembled = known ?? { list, values: new Map(), rows: [], id: undefined, isRefused: false };
      if (!known) {
        (objects[list] ??= []).push(object);
        if (key !== undefined) byKey.set(key, object);
      }
      ofRow.set(row, object);
      if (object.rows[object.rows.length - 1]?.line !== row.line || object.rows[object.rows.length - 1]?.file !== row.file) object.rows.push(row);
      for (const [field, value] of Object.entries(values)) {
        const before = object.values.get(field);
        if (!before) object.values.set(field, { value, row });
        else if (comparable(before.value, objectOf) !== comparable(value, objectOf)) {
          // A name that differs by capitals where names are what tells objects apart is the same name.
          if (field === "name" && foldedName("name", shown(before.value)) === foldedName("name", shown(value))) continue;
          const reason = `it is ${JSON.stringify(shown(before.value))} in line ${before.row.line} of ${before.row.file}; expected the same in every row of one of ${listWords(list)}`;
          if (!object.isRefused) refuse(row, field, shown(value), reason);
          for (const other of object.rows)
            if (other !== row && !object.isRefused)
              refuse(
                other,
                field,
                other === before.row ? shown(before.value) : "",
                `line ${row.line} of ${row.file} says otherwise of the same object; expected the same in every row`,
              );
          object.isRefused = true;
        }
      }
    }
  }

  const register = new RegisterLookups(present);
  const indexes = new Map<string, Index>();
  /** The register and what is being put together, by the value of a field. */
  const indexOf = (list: ListKey, by: string): Index => {
    const name = `${list} ${by}`;
    const known = indexes.get(name);
    if (known) return known;
    const index = register.indexBy(list, by);
    indexes.set(name, index);
    for (const object of objects[list] ?? []) {
      const value = by === "id" ? object.id : object.values.get(by)?.value;
      if (typeof value === "string" && object.id !== undefined && !object.isRefused) index.add(value, object.id);
    }
    return index;
  };

  // Ids: of the register where its object has the same key, else their own, else from what they are known by.
  for (const list of listKeys) {
    const taken = new Map<string, Assembled>();
    for (const object of objects[list] ?? []) {
      if (object.isRefused) continue;
      const [told] = object.rows;
      if (!told) continue;
      const textOf = (field: string): string | undefined => {
        const value = object.values.get(field)?.value;
        return typeof value === "string" ? value : typeof value === "number" ? String(value) : undefined;
      };
      for (const fields of keysOf(profile, list)) {
        if (object.id !== undefined) break;
        const texts = fields.map(textOf).filter((text) => text !== undefined);
        if (texts.length < fields.length) continue;
        if (fields.length === 1 && fields[0] === "id") {
          object.id = texts[0];
          break;
        }
        const same = register.with(list, fields, texts);
        if (same.length > 1)
          refuseObject(
            object,
            told,
            fields[0] ?? "",
            texts.join("-"),
            `${same.length} of the register’s ${listWords(list)} are known by this: ${same.slice(0, 5).join(", ")}; expected one`,
          );
        object.id = same[0] ?? textOf("id");
        if (object.id !== undefined) continue;
        object.id = ownId(list, fields, texts);
        // What the register knows by this id is not known by this key: whether it is the same nobody has said.
        if (register.has(list, object.id))
          refuseObject(
            object,
            told,
            fields[0] ?? "",
            texts.join("-"),
            `the id that this would get, ${JSON.stringify(object.id)}, is that of another in the register, whose ${fields.join(" and ")} is not this; expected the register’s own, or the column read as the id`,
          );
      }
      object.id ??= textOf("id") ?? (list === "grants" ? idFromContents(grantParts(object)) : undefined);
      if (list === "memberships") continue;
      if (object.id === undefined || object.id === "") {
        refuseObject(
          object,
          told,
          keysOf(profile, list)[0]?.[0] ?? "id",
          "",
          `there is nothing by which one of ${listWords(list)} is known; expected ${keysOf(profile, list)
            .map((fields) => fields.join(" and "))
            .join(", or ")}`,
        );
        continue;
      }
      const other = taken.get(object.id);
      if (!other) taken.set(object.id, object);
      else {
        const why = `two of ${listWords(list)} would get the id ${JSON.stringify(object.id)}: “${textOf("name") ?? ""}” and “${shown(other.values.get("name")?.value ?? null)}”; expected names that give different ids, or ids in the profile`;
        refuseObject(object, told, "name", textOf("name") ?? object.id, why);
        const [first] = other.rows;
        if (first) refuseObject(other, first, "name", shown(other.values.get("name")?.value ?? null), why);
      }
    }
  }

  function ownId(list: ListKey, fields: readonly string[], texts: readonly string[]): string {
    const stated = profile.madeFromNames?.[list]?.ids;
    const name = texts[0] ?? "";
    if (fields[0] === "name") return stated && Object.hasOwn(stated, name) ? (stated[name] ?? "") : idFromName(name);
    return texts.join("-");
  }
  function grantParts(object: Assembled): string[] {
    return ["cardholder", "group", "credential", "level", "bundle", "door", "doorGroup", "area", "schedule", "effect", "from", "until"].flatMap((field) => {
      const value = object.values.get(field)?.value;
      if (value === undefined || value === null) return [];
      return [isOfRow(value) ? (objectOf(value.made)?.id ?? "") : shown(value)];
    });
  }

  const unknownNames: { list: ListKey; text: string }[] = [];
  const madeFromNames: { list: ListKey; id: string; name: string }[] = [];
  const fromNames: Partial<Record<ListKey, { object: Loose; origin: Origin }[]>> = {};

  /** The id of what a cell names; undefined, with the reason told, where it names nothing, or several. */
  function idOf(named: Named, row: MadeRow, field: string, object: Assembled | undefined): string | undefined {
    const { names: list, text } = named;
    const tell = (reason: string): undefined => {
      if (object && answerable[object.list]?.includes(field)) refuse(row, field, text, `${reason}. The row is taken without it`);
      else if (object) refuseObject(object, row, field, text, reason);
      else refuse(row, field, text, reason);
      return undefined;
    };
    const stated = profile.keys?.[list];
    const usual = ["id", ...(usualKeys[list] ?? keysOtherwise).flatMap((fields) => (fields.length === 1 ? fields : []))];
    const ways = named.by !== undefined ? [named.by] : stated?.length === 1 ? [...new Set([...stated, ...usual])] : usual;
    const found = new Set<string>();
    for (const by of ways) {
      for (const id of indexOf(list, by).get(text)) found.add(id);
      // What the profile says that the list is known by goes before everything else that it could be.
      if (found.size > 0 && (named.by !== undefined || stated?.includes(by))) break;
    }
    if (found.size > 1) return tell(`${found.size} of ${listWords(list)} are known by this: ${[...found].slice(0, 5).join(", ")}; expected one`);
    const [only] = found;
    if (only !== undefined) return only;
    const making = profile.madeFromNames?.[list];
    if (!making) unknownNames.push({ list, text });
    if (!making)
      return tell(
        `there is none such among ${listWords(list)}, by ${ways.join(", ")}; expected one that is brought or in the register, or a profile that makes them from names`,
      );
    const id = making.ids && Object.hasOwn(making.ids, text) ? (making.ids[text] ?? "") : idFromName(text);
    if (id === "") return tell("no id can be made of this name; expected one with letters or digits, or an id in the profile");
    if (indexOf(list, "id").get(id).size > 0)
      return tell(`the id that this name would give, ${JSON.stringify(id)}, is another’s; expected names that give different ids, or ids in the profile`);
    madeFromNames.push({ list, id, name: text });
    indexOf(list, "id").add(id, id);
    indexOf(list, "name").add(text, id);
    const made: Loose = { id, name: text };
    (fromNames[list] ??= []).push({ object: made, origin: { file: row.file, line: row.line } });
    if (field === "department") made.kind = "department";
    for (const [name, value] of Object.entries(making.with ?? {})) putAt(made, name.split("."), value === "true" ? true : value);
    if (list === "schedules" && made.always !== true && made.week === undefined) made.always = true;
    if (list === "doors" && made.site === undefined) made.site = onlySite();
    if (list === "areas" && made.site === undefined) made.site = onlySite();
    if (list === "sites") made.timeZone ??= present?.timeZone ?? profile.facility?.timeZone;
    return id;
  }
  /** The site, where there is only one. */
  function onlySite(): string | undefined {
    const ids = new Set([...[...register.objects("sites")].map(([id]) => id), ...(objects.sites ?? []).flatMap(({ id }) => (id === undefined ? [] : [id]))]);
    return ids.size === 1 ? [...ids][0] : undefined;
  }

  /** A value as the document has it: undefined where there is none, or where its reason was told. */
  function valueOf(value: FieldValue | OfRow, row: MadeRow, field: string, object: Assembled | undefined): unknown {
    if (value === null) return undefined;
    if (isOfRow(value)) {
      const other = objectOf(value.made);
      if (other && !other.isRefused) return other.id;
      const reason = `what it belongs to, in line ${value.made.line} of ${value.made.file}, cannot be read`;
      if (object) refuseObject(object, row, field, "", reason);
      else refuse(row, field, "", reason);
      return undefined;
    }
    if (isNamed(value)) return idOf(value, row, field, object);
    if (Array.isArray(value)) return value.map((item: string | Named) => (isNamed(item) ? idOf(item, row, field, object) : item));
    return value;
  }

  const hoursAreBrought = parts.some(({ target }) => target.table === "schedule-hours");
  const lists: Partial<Record<ListKey, Loose[]>> = {};
  const origins: Partial<Record<ListKey, Origin[]>> = {};
  const brought = new Map<ListKey, Set<string>>();
  const bring = (list: ListKey, ...fields: readonly string[]): void => {
    const known = brought.get(list) ?? new Set<string>();
    brought.set(list, known);
    for (const field of fields) known.add(field);
  };
  // A list of which a table has no row is one of which there is nothing.
  for (const { target, fields } of spokenOf)
    if (target.bundle && !target.bundle.parts) {
      lists[target.bundle.list] ??= [];
      origins[target.bundle.list] ??= [];
      bring(target.bundle.list, "id", ...fields.map((field) => target.fields.get(field)?.column?.path[0] ?? field));
    }
  const places = new Map<Assembled, number>();
  const placesById = new Map<string, number>();
  // Grants may make what they name from its name, and come last.
  for (const list of listKeys) {
    const own = objects[list];
    if (!own) continue;
    const into = (lists[list] ??= []);
    const from = (origins[list] ??= []);
    for (const object of own) {
      const written: Loose = {};
      const [told] = object.rows;
      if (!told) continue;
      bring(list, "id");
      for (const [field, { value, row }] of object.values) {
        const path = told.target.fields.get(field)?.column?.path ?? [field];
        bring(list, path[0] ?? field);
        const read = valueOf(value, row, field, object);
        if (read !== undefined) putAt(written, path, read);
      }
      if (object.isRefused) continue;
      if (list === "schedules" && written.always !== true && !hoursAreBrought && !register.has("schedules", object.id ?? ""))
        refuseObject(
          object,
          told,
          "name",
          shown(object.values.get("name")?.value ?? null),
          "no row says when this schedule opens, and the register does not know it; expected its hours, or that it is always open",
        );
      if (object.isRefused) continue;
      if (list !== "memberships") written.id = object.id;
      if (!("name" in written) && list !== "memberships" && list !== "credentials" && list !== "grants") {
        written.name = object.id;
        bring(list, "name");
      }
      if (list === "schedules" && written.always !== true) {
        delete written.always;
        // Without hours in these files it keeps those of the register, and a new one is refused.
        if (hoursAreBrought) written.week = {};
      }
      if (list === "grants") {
        written.to ??= {};
        written.open ??= {};
      }
      places.set(object, into.length);
      if (object.id !== undefined) placesById.set(`${list} ${object.id}`, into.length);
      into.push(written);
      from.push({ file: told.file, line: told.line, also: object.rows.slice(1).map(({ file, line }) => ({ file, line })) });
    }
  }

  const partOrigins = new Map<string, Origin>();
  const withHours = new Set<Loose>();
  for (const row of parts) {
    const { bundle } = row.target;
    if (!bundle?.parts) continue;
    const [owner] = bundle.columns;
    const written: Loose = {};
    const refusedBefore = refused.length;
    for (const [field, value] of Object.entries(row.values)) {
      const read = valueOf(value, row, field, undefined);
      if (read !== undefined) putAt(written, row.target.fields.get(field)?.column?.path ?? [field], read);
    }
    if (refused.length > refusedBefore) continue;
    const at = placesById.get(`${bundle.list} ${asText(written[owner?.name ?? ""])}`);
    const object = at === undefined ? undefined : lists[bundle.list]?.[at];
    if (at === undefined || !object) {
      refuse(
        row,
        owner?.name ?? "",
        asText(written[owner?.name ?? ""]),
        `it is a part of one of ${listWords(bundle.list)} that these files do not bring; expected one that they do`,
      );
      continue;
    }
    bring(bundle.list, ...bundle.parts.fields);
    withHours.add(object);
    partOrigins.set(`${bundle.list}[${at}].${bundle.parts.add(object, written)}`, { file: row.file, line: row.line });
  }

  // A schedule of which no row says when it opens would read as one that never does.
  for (const [at, schedule] of (lists.schedules ?? []).entries())
    if (hoursAreBrought && schedule.always !== true && !withHours.has(schedule)) {
      delete schedule.week;
      const { file = "", line = 0 } = origins.schedules?.[at] ?? {};
      refused.push({ file, line, column: "", value: asText(schedule.name), reason: "no row says when this schedule opens; expected its hours" });
    }

  const onlyNamed: ListKey[] = [];
  for (const list of listKeys) {
    const named = fromNames[list];
    if (!named) continue;
    if (!lists[list]) onlyNamed.push(list);
    const [into, from] = [(lists[list] ??= []), (origins[list] ??= [])];
    for (const { object, origin } of named) {
      bring(list, ...Object.keys(object));
      into.push(object);
      from.push(origin);
    }
  }
  return {
    head: head?.values,
    lists,
    origins,
    partOrigins,
    brings: Object.fromEntries([...brought].map(([list, fields]) => [list, [...fields]])),
    refused,
    onlyNamed,
    madeFromNames,
    unknownNames,
  };
}

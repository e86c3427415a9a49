import type { Position } from "../../compile/position-index";
import type { CompiledFacility } from "../../compile/compiled-facility";
import { dateOfMoment } from "../moment-words";
import type { Directory } from "../directory";
import type { RegisterKind } from "../kinds";

/** Objects that hang on another, by position, each with the ways in words by which they do. */
export type Related = ReadonlyMap<Position, string>;

/** The object on which others hang. */
export interface ObjectRef {
  readonly kind: RegisterKind;
  readonly id: string;
}

/** The register in which it is looked, and what its objects are called. */
export interface NamedRegister {
  readonly compiled: CompiledFacility;
  readonly directory: Directory;
}

export const nothingRelated: Related = new Map();

/** Collects ways: an object that hangs on another by several has them all, each once. */
export class Ways {
  private readonly found = new Map<Position, Set<string>>();

  add(position: Position | undefined, way: string): void {
    if (position === undefined) return;
    const ways = this.found.get(position);
    if (ways) ways.add(way);
    else this.found.set(position, new Set([way]));
  }

  all(): Related {
    return new Map([...this.found].map(([position, ways]) => [position, [...ways].join("; ")]));
  }
}

/** The objects of a list that hang on another, by the words of the way; undefined for those that do not. */
export function collect<T>(objects: readonly T[], way: (object: T) => string | undefined): Related {
  const ways = new Ways();
  objects.forEach((object, position) => {
    const words = way(object);
    if (words !== undefined) ways.add(position, words);
  });
  return ways.all();
}

/** How long something lasts, in words; empty where it has no bounds. */
export const lasting = ({ from, until }: { readonly from?: string; readonly until?: string }): string =>
  [from === undefined ? "" : ` from ${dateOfMoment(from)}`, until === undefined ? "" : ` until ${dateOfMoment(until)}`].join("");

/** The bundles that hold a level: their names by id. */
export const bundlesWith = ({ compiled }: NamedRegister, level: string): ReadonlyMap<string, string> =>
  new Map(compiled.facility.bundles.filter(({ levels }) => levels?.includes(level)).map(({ id, name }) => [id, name]));

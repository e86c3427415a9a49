import type { CompiledFacility } from "../compile/compiled-facility";
import type { Position } from "../compile/position-index";
import type { NumberOf } from "../kernel/brand";

/** Where somebody can stand: outside, or in an area. */
export type Place = NumberOf<"place">;

export const outside: Place = 0;
export const placeOfArea = (area: Position): Place => area + 1;
/** The position of a place's area; undefined of outside. */
export const areaOfPlace = (place: Place): Position | undefined => (place === outside ? undefined : place - 1);

/** A door as a way from one place to another. That an area lies within another leads nowhere: only doors do. */
export interface Passage {
  readonly door: Position;
  readonly from: Place;
  readonly to: Place;
}

/** Index d: door d as a passage. */
export function passagesOf({ doors, indexes }: CompiledFacility): readonly Passage[] {
  const areas = indexes.of("areas");
  const place = (id: string | undefined): Place => {
    const area = id === undefined ? undefined : areas.get(id);
    return area === undefined ? outside : placeOfArea(area);
  };
  return doors.map(({ position, door }) => ({ door: position, from: place(door.from), to: place(door.area) }));
}

/** Doors by the place that they lead out of, one behind the other: those of place p are `doors[i]` to `to[i]`, i from `starts[p]` to `starts[p + 1]`. */
export interface Arcs {
  readonly starts: Int32Array;
  readonly doors: Int32Array;
  readonly to: Int32Array;
}

/** Lays passages out by the place that they lead out of. `places` is how many there are. */
export function arcsOf(passages: readonly Passage[], places: number): Arcs {
  const starts = new Int32Array(places + 1);
  for (const { from } of passages) starts[from + 1] = (starts[from + 1] as number) + 1;
  for (let place = 0; place < places; place++) starts[place + 1] = (starts[place + 1] as number) + (starts[place] as number);
  const sorted = [...passages].sort((a, b) => a.from - b.from || a.door - b.door);
  return { starts, doors: Int32Array.from(sorted, ({ door }) => door), to: Int32Array.from(sorted, ({ to }) => to) };
}

export const backwards = ({ door, from, to }: Passage): Passage => ({ door, from: to, to: from });

/** The places from which a place can be got to if every door is open, the nearest first; what lies behind outside is no way, since one can begin there. */
export function leadingTo(passages: readonly Passage[], places: number, target: Place): ReadonlySet<Place> {
  const { starts, to } = arcsOf(passages.map(backwards), places);
  const found = new Set<Place>([target]);
  // A set is gone through in the order in which it grows, what is added meanwhile too.
  for (const place of found) {
    if (place === outside && target !== outside) continue;
    for (let i = starts[place] as number; i < (starts[place + 1] as number); i++) found.add(to[i] as Place);
  }
  return found;
}

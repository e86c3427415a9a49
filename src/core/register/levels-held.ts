import type { RouteList } from "../compile/route-lists";
import type { CompiledFacility } from "../compile/compiled-facility";
import { required } from "../kernel/invariant";
import { remembered } from "../kernel/remembered";
import type { Position } from "../compile/position-index";

/**
 * The levels that a cardholder has by whatever way, in the order of the document: given straight, through groups and departments with those above, in bundles,
 * or to a card of theirs; blocks give none. Cost: what people share is walked once.
 */
export function levelsHeld(compiled: CompiledFacility): (cardholder: Position) => readonly Position[] {
  const { facility, indexes } = compiled;
  const levelAt = (id: string): Position => required(indexes.of("levels").get(id), "references resolve");
  const levelsOfBundle = remembered((id: string): readonly Position[] => (facility.bundles[indexes.of("bundles").get(id) ?? -1]?.levels ?? []).map(levelAt));
  const levelsOf = remembered((list: RouteList): readonly Position[] =>
    list.routes.flatMap(({ grant }) => {
      const { open, effect } = required(facility.grants[grant], "positions are valid");
      if (effect === "block") return [];
      return open.level !== undefined ? [levelAt(open.level)] : open.bundle !== undefined ? levelsOfBundle(open.bundle) : [];
    }),
  );
  return (cardholder) => {
    const { routes, credentials } = required(compiled.cardholders.at(cardholder), "positions are valid");
    const own = credentials.flatMap((credential) => required(compiled.credentials.at(credential), "positions are valid").ownRoutes);
    return [...new Set([...routes, ...own].flatMap(({ list }) => levelsOf(list)))].sort((a, b) => a - b);
  };
}

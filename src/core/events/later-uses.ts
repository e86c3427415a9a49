import { compileFacility } from "../compile/compile-facility";
import type { CompiledFacility } from "../compile/compiled-facility";
import { credentialLife } from "../compile/lives";
import type { Position } from "../compile/position-index";
import { horizonOf, keepHorizon } from "../table/horizon";

export interface WithLaterUses {
  readonly compiled: CompiledFacility;
  /** The credentials that last longer by a use that the document does not know of. */
  readonly prolonged: ReadonlySet<Position>;
}

/**
 * A facility in which credentials that end by not being used were last used when `lastUseOf` says, an instant or undefined, where they last longer by that: it
 * is laid over the document, which stays as it is. A use never shortens anything: not the first one of a card that ends some time after it, and none
 * of a card of which the document counts from a later moment, or not at all. The same facility is given where no credential lasts longer.
 */
export function withLaterUses(compiled: CompiledFacility, lastUseOf: (credential: Position) => string | undefined): WithLaterUses {
  const { facility, vocabulary } = compiled;
  const prolonged = new Set<Position>();
  const credentials = facility.credentials.map((credential, position) => {
    if (credential.expiry?.after !== "last-use") return credential;
    const lastUse = lastUseOf(position);
    if (lastUse === undefined || lastUse === credential.lastUse) return credential;
    const used = { ...credential, lastUse };
    if (credentialLife(used, vocabulary).window.until <= credentialLife(credential, vocabulary).window.until) return credential;
    prolonged.add(position);
    return used;
  });
  if (prolonged.size === 0) return { compiled, prolonged };
  const changed = compileFacility({ ...facility, credentials }, compiled);
  // Laid out beside the register as it is: of rows and times only those of the prolonged credentials are others.
  keepHorizon(horizonOf(compiled).beside(changed));
  return { compiled: changed, prolonged };
}

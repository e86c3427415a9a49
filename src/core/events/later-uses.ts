import { compileFacility } from "../compile/compile-facility";
import type { CompiledFacility } from "../compile/compiled-facility";
import type { Position } from "../compile/position-index";
import { horizonOf, keepHorizon } from "../table/horizon";

export interface WithLaterUses {
  readonly compiled: CompiledFacility;
  /** Of how many credentials a use that the document does not know of moves the end. */
  readonly moved: number;
}

/**
 * A facility in which credentials that end by not being used were last used when `lastUseOf` says, an instant or undefined: laid over the document, which
 * stays as it is. Of what nobody was told by events nothing changes, and the same facility is given where nothing moves. A first use is not laid over: it
 * would end what the document leaves open.
 */
export function withLaterUses(compiled: CompiledFacility, lastUseOf: (credential: Position) => string | undefined): WithLaterUses {
  const { facility } = compiled;
  let moved = 0;
  const credentials = facility.credentials.map((credential, position) => {
    if (credential.expiry?.after !== "last-use") return credential;
    const lastUse = lastUseOf(position);
    if (lastUse === undefined || lastUse === credential.lastUse) return credential;
    moved++;
    return { ...credential, lastUse };
  });
  if (moved === 0) return { compiled, moved };
  const changed = compileFacility({ ...facility, credentials }, compiled);
  // Laid out beside the register as it is: of rows and times only those of the moved credentials are others.
  keepHorizon(horizonOf(compiled).beside(changed));
  return { compiled: changed, moved };
}

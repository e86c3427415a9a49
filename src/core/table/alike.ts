import type { CompiledFacility } from "../compile/compiled-facility";
import { profilesOf } from "./internal/access-profiles";

/**
 * Index i of `profileOf`: the number of all that decides what credential i opens but for its own life. Credentials of one number open the same while they
 * are live.
 */
export const alikeOf = (compiled: CompiledFacility): { readonly profileOf: ArrayLike<number> } => profilesOf(compiled);

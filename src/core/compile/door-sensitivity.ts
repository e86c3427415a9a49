import { required } from "../kernel/invariant";
import type { CompiledFacility } from "./compiled-facility";
import type { Position } from "./position-index";

/** Sensitivity of a door: the highest of the area that it leads into and those above it, 0 for a door of no area. */
export const doorSensitivity = (compiled: CompiledFacility, door: Position): number =>
  Math.max(0, ...required(compiled.doors[door], "positions are valid").areas.map((area) => compiled.facility.areas[area]?.sensitivity ?? 0));

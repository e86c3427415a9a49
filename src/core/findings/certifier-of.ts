import type { Position } from "../compile/position-index";
import type { Judged } from "./judged";

/** Whether a cardholder is there and has not left. */
export function isPresent({ compiled, lives }: Judged, id: string | undefined): boolean {
  const position = id === undefined ? undefined : compiled.cardholderById.get(id);
  return position !== undefined && !lives.hasLeft(position);
}

/** Whether somebody else who has not left answers for a cardholder: their manager, or that of their department or a group above it. */
export function hasCertifier(judged: Judged, cardholder: Position): boolean {
  const { compiled, facility, lives } = judged;
  const { id, manager, department } = lives.cardholder(cardholder);
  const group = department === undefined ? undefined : compiled.groupById.get(department);
  const above = group === undefined ? [] : compiled.chainOf(group).map((one) => facility.groups[one]?.manager);
  return [manager, ...above].some((one) => one !== id && isPresent(judged, one));
}

import type { ShownDoor, ShownPlan } from "@/operations/register/plans/show-plans";
import type { BoardMark } from "@/ui/board/picture-board";
import { doorKindWords, pictureAddress } from "./plan-words";

/** A door as it stands on its plan, where nothing is asked. */
export const plainMark = ({ door, name, kind, x, y }: ShownDoor): BoardMark => ({
  id: door,
  name,
  // What its name says already is not said twice.
  word: kind === undefined ? "not in the register" : name.toLowerCase().includes(doorKindWords[kind]) ? "" : doorKindWords[kind],
  x,
  y,
  look: kind === undefined ? "gone" : "plain",
});

/** The picture of a plan as a board shows it. */
export const pictureOf = (plan: ShownPlan) => ({
  src: pictureAddress(plan),
  width: plan.width,
  height: plan.height,
  isLine: plan.mediaType === "image/svg+xml",
});

import type { Door } from "@/core/facility/document";
import type { PlanRefusal } from "@/operations/register/plans/keep-plans";

/** Which floor, in words. */
export const storeyWords = (storey: number): string =>
  storey === 0 ? "ground floor" : storey > 0 ? `floor ${storey}` : storey === -1 ? "one below ground" : `${-storey} below ground`;

/** A plan by its name, with its floor where the name does not say it. */
export const planWithFloor = ({ name, storey }: { readonly name: string; readonly storey: number }): string =>
  name.toLowerCase().includes(storeyWords(storey)) ? name : `${name}, ${storeyWords(storey)}`;

/** What kinds of doors are called on a plan. */
export const doorKindWords: Readonly<Record<NonNullable<Door["kind"]>, string>> = {
  door: "",
  gate: "gate",
  turnstile: "turnstile",
  lift: "lift",
  floor: "floor",
  cabinet: "cabinet",
};

/** Why a plan was not kept, and what to do. */
export function refusalWords(refusal: PlanRefusal): string {
  switch (refusal.why) {
    case "picture":
      return `The picture was not taken: ${refusal.reason}. Bring a PNG, a JPEG or an SVG drawing.`;
    case "full":
      return "A thousand plans are kept already: take one out first.";
    case "no-name":
      return "Give it a name of at most 200 characters.";
    case "no-site":
      return "Choose a site that the register holds.";
    case "no-area":
      return "The area does not lie in this site: choose another, or none.";
    case "storey":
      return "The floor is a whole number, 0 for the ground floor.";
    case "outdated":
      return "Somebody else changed this plan meanwhile. Load the page again; what you did here is not stored.";
    case "gone":
      return "This plan is not there any more.";
    case "too-many-doors":
      return "500 doors are the most on one plan: draw another one of a part of it.";
    case "not-on-plan":
      return `The door ${refusal.door} cannot stand there: it is of another site, or on the plan already.`;
  }
}

/** What of a picture was left out. */
export const leftOutWords = (leftOut: readonly string[]): string =>
  leftOut.length === 0 ? "" : `Left out of the picture, as it could do more than be looked at: ${leftOut.join(", ")}. Look whether it is still right.`;

export const pictureAddress = ({ id, sha256 }: { readonly id: number; readonly sha256: string }): string => `/register/plans/${id}/picture?sha256=${sha256}`;

export const planHref = (id: number, door?: string): string => `/register/plans/${id}${door === undefined ? "" : `?door=${encodeURIComponent(door)}`}`;

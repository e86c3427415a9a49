/** A picture as it is shown: made safe, upright. */
export interface Picture {
  readonly mediaType: "image/png" | "image/jpeg" | "image/svg+xml";
  readonly bytes: Uint8Array;
  /** In pixels. */
  readonly width: number;
  readonly height: number;
  readonly sha256: string;
}

/** The right and the lower edge of a picture as doors are placed: in ten-thousandths of its width from the left, and of its height from the top. */
export const planEdge = 10_000;

/** So many doors stand on one plan; more cannot be told apart. */
export const mostDoorsOfPlan = 500;

export interface PlacedDoor {
  readonly door: string;
  /** 0..10000 from the left. */
  readonly x: number;
  /** 0..10000 from the top. */
  readonly y: number;
}

/** What a plan is of. */
export interface PlanHead {
  readonly name: string;
  readonly site: string;
  /** The area that it is of; undefined where it is of no one area. */
  readonly area?: string | undefined;
  /** 0 is the ground floor, 1 the floor above it, −1 the one below. */
  readonly storey: number;
}

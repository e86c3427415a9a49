import { readPicture } from "@/intake/formats/pictures/read-picture";
import { invariant } from "@/core/kernel/invariant";
import type { PlacedDoor, PlanHead } from "@/core/plans/plan";
import type { Services } from "../services";

/** A plan of the demo as its generator writes it. */
export interface DrawnPlan extends PlanHead {
  readonly svg: string;
  readonly doors: readonly PlacedDoor[];
}

/** Hangs the drawings of the demo up, with its doors on them. */
export async function addDemoPlans(services: Services, plans: readonly DrawnPlan[]): Promise<void> {
  for (const { svg, doors, ...head } of plans) {
    const read = await readPicture(Buffer.from(svg, "utf8"));
    invariant(read.ok && read.value.leftOut.length === 0, `the drawing of ${head.name} is safe as it is`);
    await services.plans.add(head, read.value.picture, doors, { signIn: "reviewer" }, services.now());
  }
}

import type { WrittenHouseRule } from "../ports/house-rules";
import type { Services } from "../services";

/** What the institute of the demo has written down that must always be so. */
export const demoHouseRules: readonly WrittenHouseRule[] = [
  { name: "Seed vault: no visitor", must: "none", query: "who=type:visitor&where=area:a-vault" },
  { name: "Pesticide store: somebody at any time", must: "at-least", count: 1, query: "where=area:a-pesticide" },
  { name: "Seed vault: no gardener at night", must: "none", query: "who=group:d-horticulture&where=area:a-vault&when=nights" },
];

/** Writes the rules of the demo down. */
export async function addDemoHouseRules(services: Services): Promise<void> {
  for (const rule of demoHouseRules) await services.houseRules.add(rule, { signIn: "reviewer" }, services.now());
}

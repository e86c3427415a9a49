import type { FindingRule } from "./finding";
import { aroundTheClock } from "./rules/around-the-clock";
import { expiredActive } from "./rules/expired-active";
import { leaverLive } from "./rules/leaver-live";
import { unused } from "./rules/unused";

/** Every rule that is looked for. Adding a rule means adding its file and a line here. */
export const catalogue: readonly FindingRule[] = [leaverLive, expiredActive, unused, aroundTheClock];

export const ruleOf = (key: string): FindingRule | undefined => catalogue.find((rule) => rule.key === key);

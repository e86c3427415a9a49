import type { AnyRule, RuleKey } from "./finding";
import { aroundTheClock } from "./rules/around-the-clock";
import { expiredActive } from "./rules/expired-active";
import { leaverLive } from "./rules/leaver-live";
import { unused } from "./rules/unused";

/** Every rule that is looked for, by its key. Adding a rule means adding its file, a line here and its words. */
const rules: { readonly [K in RuleKey]: Extract<AnyRule, { key: K }> } = {
  "leaver-live": leaverLive,
  "expired-active": expiredActive,
  unused,
  "around-the-clock": aroundTheClock,
};

export const catalogue: readonly AnyRule[] = Object.values(rules);

export const ruleOf = <K extends RuleKey>(key: K): Extract<AnyRule, { key: K }> => rules[key];

export const isRuleKey = (key: string): key is RuleKey => Object.hasOwn(rules, key);

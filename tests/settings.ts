import { usualSettings } from "@/core/findings/settings";
import type { RuleSettingsStore } from "@/operations/ports/rule-settings";

/** Rules that judge as usual, and that nobody changes. */
export const usualRuleSettings: RuleSettingsStore = {
  current: () => Promise.resolve({ version: 0, settings: usualSettings, secondPersonFrom: 50 }),
  propose: () => Promise.resolve(false),
  proposed: () => Promise.resolve(undefined),
  dropProposed: () => Promise.resolve(false),
  put: () => Promise.resolve(false),
};

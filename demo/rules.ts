import type { RuleSettings } from "@/core/findings/settings";

/** How the institute has its rules judge. */
export const rules: RuleSettings = {
  format: "nomade.rules/1",
  parameters: {
    // People use about half of the doors of their department; what is told is of who uses hardly any.
    "right-unused": { percent: 15 },
    // What has to be certified twice a year are the most sensitive areas, such as the vault.
    "not-certified": { sensitivity: 3 },
    "all-doors": { percent: 75, holders: 2 },
  },
  duties: [{ id: "pesticides", name: "Pesticides and their register", a: { area: "a-pesticide" }, b: { area: "a-data" } }],
  sites: { garden: { country: "AT", minutesTo: { vault: 150, island: 300 } } },
};

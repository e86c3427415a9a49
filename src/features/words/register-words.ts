import type { RegisterKind } from "@/core/register/kinds";

/** What kinds of objects are called, many and one. */
export const kindWords: Readonly<Record<RegisterKind, readonly [many: string, one: string]>> = {
  cardholder: ["Cardholders", "Cardholder"],
  credential: ["Credentials", "Credential"],
  group: ["Departments and groups", "Group"],
  door: ["Doors", "Door"],
  area: ["Areas", "Area"],
  site: ["Sites", "Site"],
  doorGroup: ["Door groups", "Door group"],
  level: ["Levels", "Level"],
  bundle: ["Bundles", "Bundle"],
  grant: ["Grants", "Grant"],
  schedule: ["Schedules", "Schedule"],
  calendar: ["Calendars", "Calendar"],
};

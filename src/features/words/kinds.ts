/** What the lists of a facility hold, as people call it. */
export const listWords: Readonly<Record<string, string>> = {
  sites: "Sites",
  areas: "Areas",
  calendars: "Calendars",
  schedules: "Schedules",
  doors: "Doors",
  doorGroups: "Door groups",
  levels: "Access levels",
  bundles: "Bundles of levels",
  groups: "Departments and groups",
  memberships: "Memberships",
  cardholders: "Cardholders",
  credentials: "Credentials",
  grants: "Grants",
};

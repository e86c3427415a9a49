import type { FacilityDocument } from "@/core/facility/document";

/** Instant of the document: months ago, so that everything in it is in force now. */
const asOf = "2026-03-01T06:00:00Z";

/** A small invented orchard: a manager, her four people, a vault that one of them opens at all hours, and a leaver's live card. */
export const orchard: FacilityDocument = {
  format: "nomade.facility/1",
  name: "Hazel Orchard",
  timeZone: "Europe/Vienna",
  asOf,
  sites: [{ id: "orchard", name: "Hazel orchard", timeZone: "Europe/Vienna", calendar: "days" }],
  calendars: [{ id: "days", name: "Orchard days", days: [{ name: "Labour Day", dayType: "public", yearly: "05-01" }] }],
  areas: [
    { id: "cellar", name: "Cider cellar", site: "orchard", sensitivity: 3 },
    { id: "barn", name: "Barn", site: "orchard" },
  ],
  schedules: [
    { id: "always", name: "At all hours", always: true },
    {
      id: "day",
      name: "Day",
      week: { mon: [["08:00", "18:00"]], tue: [["08:00", "18:00"]], wed: [["08:00", "18:00"]], thu: [["08:00", "18:00"]], fri: [["08:00", "18:00"]] },
    },
    {
      id: "night",
      name: "Night",
      week: {
        mon: [["20:00", "06:00"]],
        tue: [["20:00", "06:00"]],
        wed: [["20:00", "06:00"]],
        thu: [["20:00", "06:00"]],
        fri: [["20:00", "06:00"]],
        sat: [["20:00", "06:00"]],
        sun: [["20:00", "06:00"]],
      },
      onHoliday: "weekday",
    },
  ],
  doors: [
    { id: "cellar-door", name: "Cellar door", site: "orchard", area: "cellar", controller: "mill" },
    { id: "barn-door", name: "Barn door", site: "orchard", area: "barn" },
  ],
  levels: [{ id: "barn-day", name: "Barn by day", rows: [{ area: "barn", schedule: "day" }] }],
  groups: [
    { id: "press", name: "Press house", kind: "department", manager: "dagmar" },
    { id: "watch", name: "Frost watch" },
  ],
  memberships: [{ group: "watch", cardholder: "nora", from: "2025-11-01" }],
  cardholders: [
    { id: "dagmar", name: "Dagmar Holmwold", status: "active", staffNumber: "0001" },
    { id: "iris", name: "Iris Almondfeld", status: "active", department: "press", staffNumber: "0123" },
    { id: "nora", name: "Nora Mosstrand", status: "active", department: "press", staffNumber: "0124" },
    { id: "otto", name: "=Otto Rushgaard", status: "active", department: "press", staffNumber: "0125" },
    { id: "leif", name: "Leif Rushdahl", status: "left", statusSince: "2026-01-15T16:00:00Z", department: "press", staffNumber: "0126" },
  ],
  credentials: [
    { id: "c-iris", cardholder: "iris", kind: "card", status: "active", number: "40101", facilityCode: "87", from: "2025-01-01" },
    { id: "c-nora", cardholder: "nora", kind: "card", status: "active", number: "40102", facilityCode: "87", from: "2025-01-01" },
    { id: "c-otto", cardholder: "otto", kind: "card", status: "active", number: "40103", facilityCode: "87", from: "2025-01-01" },
    { id: "c-leif", cardholder: "leif", kind: "card", status: "active", number: "40104", facilityCode: "87", from: "2025-01-01" },
  ],
  grants: [
    { id: "press-barn", to: { group: "press" }, open: { level: "barn-day" } },
    { id: "iris-cellar", to: { cardholder: "iris" }, open: { door: "cellar-door" }, schedule: "always" },
    { id: "watch-cellar", to: { group: "watch" }, open: { door: "cellar-door" }, schedule: "night" },
    { id: "otto-cellar", to: { cardholder: "otto" }, open: { area: "cellar" }, schedule: "day" },
  ],
};

/** Two hundred days of events up to the document's instant: Iris and Nora come in daily, Otto never. */
export function orchardEvents(): string {
  const lines = ["at,door,credential,result,reason"];
  for (let day = 200; day >= 1; day--) {
    const at = new Date(Date.parse(asOf) - day * 86_400_000).toISOString().slice(0, 10);
    lines.push(`${at}T09:00:00Z,cellar-door,c-iris,granted,`, `${at}T10:00:00Z,barn-door,c-nora,granted,`);
  }
  return `${lines.join("\r\n")}\r\n`;
}

import { strToU8, zipSync } from "fflate";
import type { FacilityDocument } from "@/core/facility/document";
import { withAllLists } from "@/core/facility/facility";
import { writeWorkbook } from "./workbook";
import { tablesOf, writeBundle } from "./write-bundle";

/** One made-up object of each kind, which hang together: taken in as they are they make a register of one person and one door. */
const example: FacilityDocument = {
  format: "nomade.facility/1",
  name: "Example House",
  timeZone: "Europe/Paris",
  asOf: "2026-01-05T08:00:00Z",
  sites: [{ id: "house", name: "Example House", timeZone: "Europe/Paris", calendar: "holidays" }],
  areas: [{ id: "archive", name: "Archive", site: "house", sensitivity: 2 }],
  calendars: [{ id: "holidays", name: "Holidays", days: [{ name: "New Year", dayType: "public", yearly: "01-01" }] }],
  schedules: [{ id: "day-hours", name: "Day hours", week: { mon: [["08:00", "18:00"]] } }],
  doors: [{ id: "archive-door", name: "Archive door", site: "house", area: "archive", kind: "door", entryRows: [{ schedule: "day-hours", entry: "card" }] }],
  doorGroups: [{ id: "inner-doors", name: "Inner doors", doors: ["archive-door"] }],
  levels: [{ id: "archive-access", name: "Archive access", rows: [{ door: "archive-door", schedule: "day-hours" }] }],
  bundles: [{ id: "everyday", name: "Everyday", levels: ["archive-access"] }],
  groups: [{ id: "archivists", name: "Archivists", kind: "department" }],
  memberships: [{ group: "archivists", cardholder: "p-1", from: "2026-01-01" }],
  cardholders: [
    {
      id: "p-1",
      name: "Ada Example",
      status: "active",
      type: "employee",
      staffNumber: "1001",
      department: "archivists",
      requirements: [{ name: "Induction", until: "2026-12-31" }],
    },
  ],
  credentials: [{ id: "c-1", cardholder: "p-1", kind: "card", status: "active", facilityCode: "12", number: "4711", from: "2026-01-01", until: "2026-12-31" }],
  grants: [{ id: "g-1", to: { group: "archivists" }, open: { level: "archive-access" } }],
};

/** Every table of the documentation with its header and one row, as a workbook. */
export const templateWorkbook = (): Uint8Array => writeWorkbook(tablesOf(withAllLists(example)));

/** The same as a ZIP of CSV files. */
export const templateZip = (): Uint8Array =>
  zipSync(Object.fromEntries([...writeBundle(withAllLists(example))].map(({ name, text }) => [name, strToU8(text)] as const)), {
    mtime: new Date(example.asOf),
  });

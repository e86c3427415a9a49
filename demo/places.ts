import type { Area, DocumentDay, DocumentCalendar, ClockRange, Door, DoorGroup, DocumentSchedule, Site } from "@/core/facility/document";

export const garden = "garden";
export const island = "island";
export const vault = "vault";

export const sites: readonly Site[] = [
  { id: garden, name: "Verrane garden", timeZone: "Europe/Vienna", calendar: "mainland" },
  { id: island, name: "Sorrel island station", timeZone: "Atlantic/Azores", calendar: "island" },
  { id: vault, name: "Korvat vault", timeZone: "Europe/Helsinki", calendar: "mountain" },
];

const publicDays: readonly DocumentDay[] = [
  { name: "New Year's Day", dayType: "public", priority: 10, yearly: "01-01" },
  { name: "Good Friday", dayType: "public", priority: 10, easter: -2 },
  { name: "Easter Monday", dayType: "public", priority: 10, easter: 1 },
  { name: "Labour Day", dayType: "public", priority: 10, yearly: "05-01" },
  { name: "Ascension Day", dayType: "public", priority: 10, easter: 39 },
  { name: "Christmas Day", dayType: "public", priority: 10, yearly: "12-25" },
];

/** The closing days that somebody typed in for 2026 and nobody entered for the years after. */
const closingDays2026: readonly DocumentDay[] = [
  { name: "Institute closed", dayType: "company", priority: 5, on: "2026-12-24" },
  { name: "Institute closed", dayType: "company", priority: 5, from: "2026-12-28", to: "2026-12-31" },
  { name: "Summer closing", dayType: "company", priority: 5, from: "2026-08-10", to: "2026-08-14" },
];

export const calendars: readonly DocumentCalendar[] = [
  {
    id: "mainland",
    name: "Mainland calendar",
    days: [
      ...publicDays,
      { name: "Whit Monday", dayType: "public", priority: 10, easter: 50 },
      { name: "Epiphany", dayType: "public", priority: 10, yearly: "01-06" },
      { name: "Corpus Christi", dayType: "public", priority: 10, easter: 60 },
      { name: "Assumption Day", dayType: "public", priority: 10, yearly: "08-15" },
      { name: "All Saints' Day", dayType: "public", priority: 10, yearly: "11-01" },
      { name: "Immaculate Conception", dayType: "public", priority: 10, yearly: "12-08" },
      { name: "St Stephen's Day", dayType: "public", priority: 10, yearly: "12-26" },
      ...closingDays2026,
      { name: "Visitor season", dayType: "season", yearlyFrom: "04-10", yearlyTo: "09-26" },
    ],
  },
  {
    id: "island",
    name: "Island calendar",
    days: [
      ...publicDays,
      { name: "Station Day", dayType: "public", priority: 10, nth: { month: 6, weekday: "mon", n: 2 } },
      { name: "Storm season", dayType: "storm", yearlyFrom: "11-15", yearlyTo: "02-20" },
    ],
  },
  {
    id: "mountain",
    name: "Mountain calendar",
    days: [
      ...publicDays,
      { name: "Vault stocktaking", dayType: "company", priority: 10, on: "2026-12-25" },
      { name: "Midsummer Eve", dayType: "public", priority: 10, nth: { month: 6, weekday: "fri", n: 3 } },
    ],
  },
];

const weekdays = (...row: ClockRange[]): NonNullable<DocumentSchedule["week"]> => ({ mon: row, tue: row, wed: row, thu: row, fri: row });
const everyDay = (...row: ClockRange[]): NonNullable<DocumentSchedule["week"]> => ({ ...weekdays(...row), sat: row, sun: row });

/** Shut on public and closing days, and as on any weekday in the season. */
const notOnClosingDays = { onHoliday: "weekday", holidays: { public: [], company: [] } } as const;

export const schedules: readonly DocumentSchedule[] = [
  { id: "always", name: "At all hours", always: true },
  { id: "office", name: "Office hours", week: weekdays(["07:00", "19:00"]), ...notOnClosingDays },
  { id: "staff-day", name: "Staff day", week: weekdays(["06:00", "20:00"]), ...notOnClosingDays },
  { id: "early", name: "Early shift", week: { ...everyDay(["05:00", "14:00"]) }, onHoliday: "weekday" },
  { id: "late", name: "Late shift", week: weekdays(["13:00", "22:00"]), onHoliday: "weekday" },
  { id: "nights", name: "Nights", week: everyDay(["20:00", "06:00"]), onHoliday: "weekday" },
  { id: "curators", name: "Curators", week: weekdays(["08:00", "18:00"]), ...notOnClosingDays },
  { id: "laboratory", name: "Laboratory", week: { ...weekdays(["06:00", "22:00"]), sat: [["08:00", "16:00"]] }, onHoliday: "weekday" },
  { id: "visitors", name: "Visitor season", week: {}, holidays: { season: [["09:00", "18:00"]] } },
  { id: "deliveries", name: "Deliveries", week: weekdays(["06:30", "11:30"]), ...notOnClosingDays },
  { id: "volunteers", name: "Volunteers", week: { wed: [["13:00", "18:00"]], sat: [["09:00", "17:00"]] } },
  { id: "station", name: "Station hours", week: everyDay(["07:00", "21:00"]), holidays: { storm: [["08:00", "16:00"]] } },
  { id: "cleaning", name: "Cleaning", week: weekdays(["04:30", "07:30"], ["18:00", "21:00"]) },
  { id: "summer-school", name: "Summer school 2026", week: everyDay(["08:00", "22:00"]), onHoliday: "weekday", from: "2026-07-01", until: "2026-08-31" },
];

export const areas: readonly Area[] = [
  { id: "a-garden", name: "Garden grounds", site: garden },
  { id: "a-glass", name: "Glasshouses", site: garden, parent: "a-garden", sensitivity: 1 },
  { id: "a-visitor", name: "Visitor centre", site: garden, parent: "a-garden" },
  { id: "a-herbarium", name: "Herbarium", site: garden, sensitivity: 1 },
  { id: "a-types", name: "Type specimens", site: garden, parent: "a-herbarium", sensitivity: 2 },
  { id: "a-labs", name: "Laboratories", site: garden, sensitivity: 1 },
  { id: "a-isotope", name: "Isotope room", site: garden, parent: "a-labs", sensitivity: 3 },
  { id: "a-pesticide", name: "Pesticide store", site: garden, sensitivity: 3 },
  { id: "a-data", name: "Data room", site: garden, sensitivity: 3, maxHolders: 12 },
  { id: "a-offices", name: "Offices", site: garden },
  { id: "a-lodgings", name: "Staff lodgings", site: garden, sensitivity: 1 },
  { id: "a-gatehouse", name: "Gatehouse", site: garden, sensitivity: 1 },
  { id: "a-workshops", name: "Workshops", site: garden },
  { id: "a-tower", name: "Library tower", site: garden, sensitivity: 1 },
  { id: "a-station", name: "Station house", site: island },
  { id: "a-fieldlab", name: "Field laboratory", site: island, parent: "a-station", sensitivity: 1 },
  { id: "a-fuel", name: "Fuel store", site: island, sensitivity: 2 },
  { id: "a-hall", name: "Vault entrance", site: vault, sensitivity: 1 },
  { id: "a-corridor", name: "Vault corridor", site: vault, parent: "a-hall", sensitivity: 2 },
  { id: "a-vault", name: "Seed vault", site: vault, parent: "a-corridor", sensitivity: 3 },
  { id: "a-plant", name: "Cooling plant", site: vault, parent: "a-hall", sensitivity: 2 },
];

const numbered = (count: number, door: (n: number) => Door): Door[] => Array.from({ length: count }, (_, i) => door(i + 1));

export const doors: readonly Door[] = [
  { id: "g-north", name: "North gate", site: garden, kind: "gate", area: "a-garden", unlock: "visitors" },
  { id: "g-south", name: "South gate", site: garden, kind: "gate", area: "a-garden", unlock: "deliveries" },
  { id: "g-turn-in", name: "Turnstile in", site: garden, kind: "turnstile", area: "a-garden" },
  { id: "g-turn-out", name: "Turnstile out", site: garden, kind: "turnstile", from: "a-garden" },
  { id: "g-visitor", name: "Visitor centre", site: garden, area: "a-visitor", from: "a-garden", unlock: "visitors", unlockNeedsFirstIn: true },
  { id: "g-shop", name: "Garden shop", site: garden, area: "a-visitor", from: "a-garden" },
  ...numbered(12, (n) => ({ id: `g-glass-${n}`, name: `Glasshouse ${n}`, site: garden, area: "a-glass", from: "a-garden" })),
  { id: "g-palm", name: "Palm house", site: garden, area: "a-glass", from: "a-garden", unlock: "visitors" },
  { id: "g-propagation", name: "Propagation house", site: garden, area: "a-glass", from: "a-garden" },
  { id: "g-herb-main", name: "Herbarium, main door", site: garden, area: "a-herbarium" },
  { id: "g-herb-side", name: "Herbarium, side door", site: garden, area: "a-herbarium" },
  { id: "g-herb-types", name: "Type specimens", site: garden, area: "a-types", from: "a-herbarium" },
  ...numbered(4, (n) => ({ id: `g-cabinet-${n}`, name: `Specimen cabinet ${n}`, site: garden, kind: "cabinet" as const, area: "a-types", from: "a-types" })),
  { id: "g-lab-main", name: "Laboratories, main door", site: garden, area: "a-labs" },
  ...numbered(12, (n) => ({ id: `g-lab-${n}`, name: `Laboratory ${n}`, site: garden, area: "a-labs", from: "a-labs" })),
  { id: "g-isotope", name: "Isotope room", site: garden, area: "a-isotope", from: "a-labs", entry: "card+pin" },
  { id: "g-pesticide", name: "Pesticide store", site: garden, area: "a-pesticide", entry: "card+pin" },
  { id: "g-data", name: "Data room", site: garden, area: "a-data", entry: "card", entryRows: [{ schedule: "nights", entry: "card+pin" }] },
  { id: "g-office-main", name: "Offices, main door", site: garden, area: "a-offices", unlock: "office" },
  ...numbered(8, (n) => ({ id: `g-office-${n}`, name: `Office ${n}`, site: garden, area: "a-offices", from: "a-offices" })),
  { id: "g-lodge-main", name: "Lodgings, front door", site: garden, area: "a-lodgings", entry: "card-or-pin" },
  ...numbered(6, (n) => ({ id: `g-lodge-${n}`, name: `Lodging ${n}`, site: garden, area: "a-lodgings", from: "a-lodgings" })),
  { id: "g-gatehouse", name: "Gatehouse", site: garden, area: "a-gatehouse" },
  { id: "g-keys", name: "Key cabinet", site: garden, kind: "cabinet", area: "a-gatehouse", from: "a-gatehouse" },
  { id: "g-workshop-1", name: "Joinery", site: garden, area: "a-workshops" },
  { id: "g-workshop-2", name: "Machine hall", site: garden, area: "a-workshops" },
  { id: "g-workshop-3", name: "Glazier's shop", site: garden, area: "a-workshops" },
  { id: "g-compost", name: "Compost yard", site: garden },
  { id: "g-lift", name: "Tower lift", site: garden, kind: "lift", area: "a-tower" },
  ...numbered(5, (n) => ({ id: `g-floor-${n}`, name: `Tower floor ${n}`, site: garden, kind: "floor" as const, area: "a-tower", via: "g-lift" })),
  { id: "i-house", name: "Station house", site: island, area: "a-station" },
  { id: "i-mess", name: "Mess room", site: island, area: "a-station", from: "a-station" },
  { id: "i-lab-1", name: "Field laboratory", site: island, area: "a-fieldlab", from: "a-station" },
  { id: "i-lab-2", name: "Sample cold room", site: island, area: "a-fieldlab", from: "a-station" },
  { id: "i-boat", name: "Boat house", site: island },
  { id: "i-fuel", name: "Fuel store", site: island, area: "a-fuel" },
  { id: "i-mast", name: "Weather mast", site: island },
  ...numbered(3, (n) => ({ id: `i-cabin-${n}`, name: `Cabin ${n}`, site: island, area: "a-station" })),
  { id: "v-gate", name: "Vault gate", site: vault, kind: "gate" },
  { id: "v-hall", name: "Vault entrance hall", site: vault, area: "a-hall" },
  { id: "v-corridor", name: "Vault corridor", site: vault, area: "a-corridor", from: "a-hall" },
  { id: "v-outer", name: "Seed vault, outer door", site: vault, area: "a-vault", from: "a-corridor" },
  // The way that nobody thinks of: the loading door stands open for deliveries, and behind the plant this one leads on.
  { id: "v-inner", name: "Seed vault, inner door", site: vault, area: "a-vault", from: "a-plant" },
  { id: "v-plant", name: "Cooling plant", site: vault, area: "a-plant", from: "a-hall" },
  { id: "v-office", name: "Vault office", site: vault, area: "a-hall", from: "a-hall" },
  // Unlocked for whoever brings coolant, and opened by nobody's card.
  { id: "v-plant-load", name: "Cooling plant, loading door", site: vault, area: "a-plant", unlock: "deliveries" },
  { id: "i-cistern", name: "Old cistern", site: island },
];

const named = (prefix: string): string[] => doors.filter(({ id }) => id.startsWith(prefix)).map(({ id }) => id);

export const doorGroups: readonly DoorGroup[] = [
  { id: "dg-gates", name: "Garden gates", doors: ["g-north", "g-south", "g-turn-in", "g-turn-out"] },
  { id: "dg-glass", name: "All glasshouses", doors: [...named("g-glass-"), "g-palm", "g-propagation"] },
  { id: "dg-labs", name: "Laboratory doors", doors: ["g-lab-main", ...named("g-lab-").filter((id) => id !== "g-lab-main")] },
  { id: "dg-offices", name: "Office doors", doors: named("g-office-") },
  { id: "dg-tower", name: "Tower lift and floors", doors: ["g-lift", ...named("g-floor-")] },
  { id: "dg-station", name: "Station doors", doors: ["i-house", "i-mess", "i-boat", "i-mast", ...named("i-cabin-")] },
  { id: "dg-vault", name: "Vault doors", doors: ["v-corridor", "v-outer", "v-inner"] },
  { id: "dg-rounds", name: "Night rounds", groups: ["dg-gates", "dg-glass"], doors: ["g-lab-main", "g-herb-main", "g-office-main"] },
];

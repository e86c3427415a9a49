type KeysOf<Union> = Union extends unknown ? keyof Union : never;

/** One of the union's objects, without any key of the others: asking for a key tells which one it is. */
type OnlyOneOf<Union, Every extends PropertyKey = KeysOf<Union>> = Union extends unknown
  ? Union & { readonly [K in Exclude<Every, keyof Union>]?: undefined }
  : never;

/**
 * The facility document `nomade.facility/1` as written: well-formed, but its references not yet resolved.
 * Instants, dates, moments and clock times are texts here; a missing list is an empty one.
 */
export interface FacilityDocument {
  readonly format: "nomade.facility/1";
  readonly name: string;
  /** IANA zone in which date-only moments are read. */
  readonly timeZone: string;
  /** Instant of the export. */
  readonly asOf: string;
  readonly sites?: readonly Site[];
  readonly areas?: readonly Area[];
  readonly calendars?: readonly DocumentCalendar[];
  readonly schedules?: readonly DocumentSchedule[];
  readonly doors?: readonly Door[];
  readonly doorGroups?: readonly DoorGroup[];
  readonly levels?: readonly Level[];
  readonly bundles?: readonly Bundle[];
  readonly groups?: readonly Group[];
  readonly memberships?: readonly Membership[];
  readonly cardholders?: readonly Cardholder[];
  readonly credentials?: readonly Credential[];
  readonly grants?: readonly Grant[];
}

/** Keys of the lists, in the order of the document. */
export const listKeys = [
  "sites",
  "areas",
  "calendars",
  "schedules",
  "doors",
  "doorGroups",
  "levels",
  "bundles",
  "groups",
  "memberships",
  "cardholders",
  "credentials",
  "grants",
] as const;
export type ListKey = (typeof listKeys)[number];

export interface Authorisation {
  readonly by?: string;
  readonly at?: string;
  readonly reference?: string;
}

export interface Site {
  readonly id: string;
  readonly name: string;
  readonly timeZone: string;
  readonly calendar?: string;
}

export interface Area {
  readonly id: string;
  readonly name: string;
  readonly site: string;
  readonly parent?: string;
  readonly sensitivity?: 0 | 1 | 2 | 3;
  readonly owner?: string;
  readonly maxHolders?: number;
}

export interface NthWeekday {
  readonly month: number;
  readonly weekday: "mon" | "tue" | "wed" | "thu" | "fri" | "sat" | "sun";
  readonly n: number;
}

/** Which dates an entry covers: exactly one of the rules. */
export type DocumentDayRule = OnlyOneOf<
  | { readonly on: string }
  | { readonly from: string; readonly to: string }
  | { readonly yearly: string }
  | { readonly yearlyFrom: string; readonly yearlyTo: string }
  | { readonly easter: number }
  | { readonly nth: NthWeekday }
>;

export type DocumentDay = DocumentDayRule & {
  readonly name: string;
  readonly dayType: string;
  readonly priority?: number;
};

export interface DocumentCalendar {
  readonly id: string;
  readonly name: string;
  readonly days?: readonly DocumentDay[];
}

export type ClockRange = readonly [start: string, end: string];

export interface DocumentSchedule {
  readonly id: string;
  readonly name: string;
  readonly always?: true;
  readonly week?: Readonly<Partial<Record<"mon" | "tue" | "wed" | "thu" | "fri" | "sat" | "sun", readonly ClockRange[]>>>;
  readonly holidays?: Readonly<Record<string, readonly ClockRange[]>>;
  readonly onHoliday?: "closed" | "weekday";
  readonly from?: string;
  readonly until?: string;
}

export type EntryRule = "card" | "card+pin" | "pin" | "card-or-pin";

export interface Door {
  readonly id: string;
  readonly name: string;
  readonly site: string;
  readonly kind?: "door" | "gate" | "turnstile" | "lift" | "floor" | "cabinet";
  readonly area?: string;
  readonly from?: string;
  readonly via?: string;
  readonly entry?: EntryRule;
  readonly entryRows?: readonly { readonly schedule: string; readonly entry: EntryRule }[];
  readonly unlock?: string;
  readonly unlockNeedsFirstIn?: boolean;
  readonly controller?: string;
}

export interface DoorGroup {
  readonly id: string;
  readonly name: string;
  readonly doors?: readonly string[];
  readonly groups?: readonly string[];
}

/** What names doors: a door itself, a door group, or an area with those below. */
export type DoorTarget = OnlyOneOf<{ readonly door: string } | { readonly doorGroup: string } | { readonly area: string }>;

export type LevelRow = DoorTarget & {
  readonly schedule: string;
  readonly actions?: readonly string[];
};

export interface Level {
  readonly id: string;
  readonly name: string;
  readonly rows?: readonly LevelRow[];
}

export interface Bundle {
  readonly id: string;
  readonly name: string;
  readonly levels?: readonly string[];
}

export interface Group {
  readonly id: string;
  readonly name: string;
  readonly kind?: "group" | "department";
  readonly parent?: string;
  readonly manager?: string;
}

export interface Membership {
  readonly group: string;
  readonly cardholder: string;
  readonly from?: string;
  readonly until?: string;
  readonly authorised?: Authorisation;
}

export interface Cardholder {
  readonly id: string;
  readonly name: string;
  readonly status: "active" | "suspended" | "left";
  readonly statusSince?: string;
  readonly type?: "employee" | "contractor" | "visitor" | "tenant" | "other";
  readonly email?: string;
  readonly staffNumber?: string;
  readonly department?: string;
  readonly manager?: string;
  readonly sites?: readonly string[];
  readonly from?: string;
  readonly until?: string;
  readonly calendar?: string;
  readonly hours?: string;
  readonly override?: true | readonly string[];
  readonly company?: string;
  readonly sponsor?: string;
  readonly requirements?: readonly { readonly name: string; readonly until?: string }[];
  readonly lockdownPass?: boolean;
  readonly pinExempt?: boolean;
  readonly firstIn?: boolean;
  readonly extraTime?: boolean;
  readonly holdOpen?: boolean;
  readonly passbackExempt?: boolean;
}

export interface Credential {
  readonly id: string;
  readonly cardholder?: string;
  readonly kind: "card" | "fob" | "mobile" | "biometric" | "remote" | "pin";
  readonly status: "active" | "suspended" | "lost" | "stock" | "returned";
  readonly statusSince?: string;
  readonly authorised?: Authorisation;
  readonly number?: string;
  readonly facilityCode?: string;
  readonly bitFormat?: string;
  readonly issue?: string;
  readonly printedNumber?: string;
  readonly hasPin?: boolean;
  readonly pinTag?: string;
  readonly duressPin?: boolean;
  readonly temporary?: boolean;
  readonly from?: string;
  readonly until?: string;
  readonly expiry?: { readonly after: "first-use" | "last-use"; readonly days: number };
  readonly firstUse?: string;
  readonly lastUse?: string;
  readonly issuedAt?: string;
}

export type GrantReceiver = OnlyOneOf<{ readonly cardholder: string } | { readonly group: string } | { readonly credential: string }>;

export type GrantTarget = OnlyOneOf<
  { readonly level: string } | { readonly bundle: string } | { readonly door: string } | { readonly doorGroup: string } | { readonly area: string }
>;

export interface Grant {
  readonly id: string;
  readonly authorised?: Authorisation;
  readonly to: GrantReceiver;
  readonly open: GrantTarget;
  readonly schedule?: string;
  readonly effect?: "allow" | "block";
  readonly from?: string;
  readonly until?: string;
  readonly inLockdown?: boolean;
  readonly note?: string;
}

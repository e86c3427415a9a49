import type { Cardholder, Credential } from "../facility/document";

/** Ids, each once, in order. */
type Ids = readonly string[];

/** Events that were found: how many, and the second of the last. */
interface Found {
  readonly events: number;
  readonly last: string;
}

/** Access to sensitive places: the areas, and how many doors. */
interface SensitiveDoors {
  readonly areas: Ids;
  readonly doors: number;
}

/**
 * What each rule proves. Ids as in the document; minutes, seconds and dates as texts, of UTC or of the place that the rule speaks of; a week is called by its
 * first date; all else whole numbers. Source: `findings.md`, 5.
 */
export interface Proofs {
  readonly "leaver-live": { readonly status: Cardholder["status"]; readonly left?: string | undefined; readonly credentials: Ids };
  readonly "removed-late": { readonly left: string; readonly lastLive: string; readonly hours: number; readonly credentials: Ids };
  readonly "mover-kept": { readonly moved: string; readonly doors: Ids };
  readonly "not-certified": { readonly last?: string | undefined };
  readonly "not-authorised": { readonly memberships?: number };
  readonly "requirement-over": { readonly ended: string };
  readonly "no-sponsor": { readonly missing: readonly string[] };
  readonly "house-rule": {
    /** What the rule is called, and what it asks for. */
    readonly name: string;
    readonly must: "none" | "only" | "not-both" | "at-least" | "at-most";
    /** Of a person: all doors that they open and should not, the first of them, and when; and the first of the other place. */
    readonly doors?: Ids;
    readonly door?: string;
    readonly at?: string;
    /** The same minute on the clock of the door's site: `YYYY-MM-DDTHH:MM`. */
    readonly there?: string;
    readonly otherDoor?: string;
    readonly otherAt?: string;
    readonly otherThere?: string;
    /** Of a number: how many it asks for, and how many there are (at the minute, where it is about every minute). */
    readonly count?: number;
    readonly found?: number;
    /** The first few of those who are too many. */
    readonly among?: Ids;
  };
  readonly "unknown-to-source": { readonly sources: readonly string[] };
  readonly "expired-active": { readonly end: string; readonly by: "until" | "expiry" };
  readonly "ends-soon": { readonly end: string; readonly lastUse: string };
  readonly "no-end-date": { readonly end?: string | undefined };
  readonly "outlives-holder": { readonly end: string; readonly holderEnd: string };
  readonly "spare-outstanding": { readonly since: string };
  readonly unused: { readonly days: number; readonly lastUse?: string | undefined };
  readonly "never-used": { readonly given: string };
  readonly "stock-active": { readonly doors: number };
  readonly "lost-in-use": Found & { readonly since: string; readonly granted: number };
  readonly "dead-card-tried": { readonly refused: number; readonly last: string };
  readonly "sleeping-access": SensitiveDoors & { readonly status: Credential["status"] };
  readonly waking: SensitiveDoors & { readonly from: string };
  readonly "holder-of-nothing": { readonly grants: Ids };
  readonly "same-number": { readonly credentials: Ids };
  readonly "number-out-of-format": { readonly fields: readonly string[] };
  readonly "printed-differs": { readonly credentials: Ids };
  readonly "same-pin": { readonly credentials: Ids; readonly doors: Ids };
  readonly "pin-missing": { readonly doors: Ids };
  readonly "via-missing": { readonly doors: Ids };
  readonly "many-credentials": { readonly credentials: Ids };
  readonly "same-person": { readonly cardholders: Ids };
  readonly "no-department": { readonly department?: string | undefined };
  readonly "no-certifier": { readonly holders: number };
  readonly "standing-override": { readonly sites: Ids; readonly doors: number };
  readonly privilege: { readonly holders?: number };
  readonly "around-the-clock": { readonly sensitivity: number; readonly week: string; readonly doors: Ids };
  readonly "out-of-hours": { readonly minutes: number; readonly week: string; readonly doors: Ids };
  readonly "unlike-peers": { readonly peers: number; readonly reach: number };
  readonly "right-unused": { readonly doors: number; readonly used: number; readonly unused: Ids };
  readonly "by-exception": { readonly doors: Ids };
  readonly "hidden-path": { readonly grants: Ids };
  readonly "twice-given": { readonly doors: Ids };
  readonly "duties-conflict": { readonly a: Ids; readonly b: Ids };
  readonly "visitor-sensitive": SensitiveDoors;
  readonly "too-many-holders": { readonly holders: number; readonly maxHolders: number };
  readonly "level-limit": { readonly count: number };
  readonly "level-too-wide": { readonly low: number; readonly high: number };
  readonly "all-doors": { readonly doors: number; readonly of: number; readonly holders: number };
  readonly "stranded-right": { readonly from: string };
  readonly "nothing-behind": Readonly<Record<never, never>>;
  readonly "door-without-grants": Readonly<Record<never, never>>;
  readonly "door-only-free": { readonly minutes: number; readonly week: string };
  readonly "single-factor": { readonly rules: readonly string[] };
  readonly "calendar-runs-out": { readonly last?: string | undefined; readonly expected?: string | undefined };
  readonly "holiday-missing": { readonly name: string; readonly other?: string | undefined };
  readonly "holiday-tie": { readonly first: string; readonly dates: number };
  readonly "holiday-open": { readonly first: string; readonly dates: number; readonly free: number; readonly holders: number };
  readonly "schedule-odd": { readonly rows?: readonly string[] | undefined; readonly until?: string | undefined };
  readonly "not-at-door": { readonly first: string; readonly controller: "open" | "closed"; readonly minutes: number };
  readonly "opened-against-record": Found & { readonly before: string; readonly after: string };
  readonly "refused-against-record": Found;
  readonly "tried-again": {
    readonly refused?: number;
    readonly first?: string;
    readonly dates?: number;
    readonly week?: string;
  };
  readonly "unknown-tried": Found;
  readonly "two-places": { readonly times: number; readonly last: string };
  readonly "let-in": { readonly times: number; readonly last: string; readonly by: Ids };
}

export type RuleKey = keyof Proofs;

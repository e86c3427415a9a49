import type { CompiledFacility } from "../compile/compiled-facility";
import type { Position } from "../compile/position-index";
import { concernsCredential, spokenOf } from "../findings/about";
import type { Finding, FindingFacts, RuleKey } from "../findings/finding";

/**
 * Rules whose findings speak against somebody's access, and so are told to whoever certifies it. The others are for the reviewer: they speak of definitions, of
 * what is missing in the register, or of what a round itself puts right.
 */
const told = [
  "leaver-live",
  "mover-kept",
  "requirement-over",
  "no-sponsor",
  "unknown-to-source",
  "house-rule",
  "expired-active",
  "no-end-date",
  "outlives-holder",
  "spare-outstanding",
  "unused",
  "never-used",
  "stock-active",
  "lost-in-use",
  "dead-card-tried",
  "sleeping-access",
  "waking",
  "standing-override",
  "privilege",
  "around-the-clock",
  "out-of-hours",
  "unlike-peers",
  "by-exception",
  "duties-conflict",
  "visitor-sensitive",
  "opened-against-record",
  "tried-again",
  "two-places",
  "let-in",
] as const satisfies readonly RuleKey[];

/** Rules whose findings speak against a definition, and so are told to whoever certifies that. */
const toldOfDefinitions = [
  "level-too-wide",
  "all-doors",
  "schedule-odd",
  "holiday-open",
  "door-only-free",
  "calendar-runs-out",
  "holiday-missing",
  "holiday-tie",
  "stock-active",
] as const satisfies readonly RuleKey[];

/** A rule whose findings are told to certifiers, and so have words in each of their languages. */
export type ToldRule = (typeof told)[number] | (typeof toldOfDefinitions)[number];

const toldToCertifiers: ReadonlySet<RuleKey> = new Set<RuleKey>(told);
const toldToOwners: ReadonlySet<RuleKey> = new Set<RuleKey>(toldOfDefinitions);

/** Findings about definitions that are told to whoever certifies these. */
export const isToldOfDefinitions = ({ rule }: FindingFacts): boolean => toldToOwners.has(rule);

/** Findings about holders that are told to whoever certifies them. */
export const isToldToCertifiers = ({ rule, subject }: FindingFacts): boolean =>
  toldToCertifiers.has(rule) && (subject.kind === "cardholder" || subject.kind === "credential");

/** Whether a finding speaks of a place: of an area at or above a door of it, or of such a door. */
export function speaksOfDoors(compiled: CompiledFacility, finding: Finding, doors: readonly Position[]): boolean {
  const spoken = spokenOf(finding);
  const areas = new Set(doors.flatMap((door) => (compiled.doors[door]?.areas ?? []).map((area) => compiled.facility.areas[area]?.id)));
  const ids = new Set(doors.map((door) => compiled.doors[door]?.door.id));
  return spoken.some(({ kind, id }) => (kind === "area" && areas.has(id)) || (kind === "door" && ids.has(id)));
}

/** Whether a finding is of a credential rather than of places: it names one, and no area or door. */
export const speaksOfCredential = (finding: Finding, credential: string): boolean =>
  concernsCredential(finding, credential) && !spokenOf(finding).some(({ kind }) => kind === "area" || kind === "door");

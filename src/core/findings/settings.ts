import type { DocumentSchedule, FacilityDocument } from "../facility/document";

/** A side of a duty pair: who reaches the area, or holds the level. */
export type DutySide = { readonly area: string; readonly level?: undefined } | { readonly level: string; readonly area?: undefined };

export interface Duty {
  readonly id: string;
  readonly name?: string;
  readonly a: DutySide;
  readonly b: DutySide;
}

export interface SiteSettings {
  /** ISO 3166-1 alpha-2. */
  readonly country?: string;
  readonly business?: Omit<DocumentSchedule, "id" | "name">;
  /** Least minutes on the way to other sites. */
  readonly minutesTo?: Readonly<Record<string, number>>;
}

/** Greatest facility code and number of a card format. */
export interface CardFormat {
  readonly facilityCode: number;
  readonly number: number;
}

export interface Weights {
  readonly base?: Readonly<Record<string, number>>;
  readonly sensitivity?: number;
  readonly outOfHours?: number;
  readonly weeklyHours?: number;
  readonly standing?: number;
}

/** How rules judge, `nomade.rules/1`, as written; what is not said is as the catalogue has it. Source: `findings.md`, 3. */
export interface RuleSettings {
  readonly format: "nomade.rules/1";
  readonly horizonDays?: number;
  readonly parameters?: Readonly<Record<string, Readonly<Record<string, number>>>>;
  readonly duties?: readonly Duty[];
  readonly sites?: Readonly<Record<string, SiteSettings>>;
  readonly formats?: Readonly<Record<string, CardFormat>>;
  readonly weights?: Weights;
}

/** Settings without what speaks of sites, areas and levels that a register does not have any more: it plays no part until they are back. */
export function knownSettings(settings: RuleSettings, { sites, areas, levels }: Pick<FacilityDocument, "sites" | "areas" | "levels">): RuleSettings {
  const ids = (list: readonly { readonly id: string }[] | undefined) => new Set(list?.map(({ id }) => id));
  const [known, areaIds, levelIds] = [ids(sites), ids(areas), ids(levels)];
  const isKnown = ({ area, level }: DutySide): boolean => (area === undefined ? levelIds.has(level) : areaIds.has(area));
  return {
    ...settings,
    ...(settings.duties && { duties: settings.duties.filter(({ a, b }) => isKnown(a) && isKnown(b)) }),
    ...(settings.sites && { sites: Object.fromEntries(Object.entries(settings.sites).filter(([id]) => known.has(id))) }),
  };
}

export const usualSettings: RuleSettings = { format: "nomade.rules/1" };

/** Parameters of events, which belong to no rule. */
export const eventParameters = { gapDays: 7, coveredPercent: 90 };

/** Formats of cards whose limits are known without being told: 26 bits are 8 of facility code, 16 of number and two of parity (common practice, no source). */
export const usualFormats: Readonly<Record<string, CardFormat>> = { "26": { facilityCode: 255, number: 65_535 } };

export const usualWeights = { sensitivity: 24, outOfHours: 10, weeklyHours: 8, standing: 12 };

/** A value of an object by a key that comes from outside: inherited ones are none. */
export const own = <T>(values: Readonly<Record<string, T>> | undefined, key: string): T | undefined =>
  values !== undefined && Object.hasOwn(values, key) ? values[key] : undefined;

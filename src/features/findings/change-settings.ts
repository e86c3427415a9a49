import type { usualWeights } from "@/core/findings/settings";
import type { Duty, RuleSettings, SiteSettings } from "@/core/findings/settings";

/** An object without a key that holds nothing. */
export function without<T extends object>(of: T | undefined, key: string): T | undefined {
  const left = Object.fromEntries(Object.entries(of ?? {}).filter(([name]) => name !== key)) as T;
  return Object.keys(left).length === 0 ? undefined : left;
}

/** Settings with one parameter of a rule set, or left as it usually is. */
export function withParameter(settings: RuleSettings, rule: string, name: string, value: number | undefined): RuleSettings {
  const own = value === undefined ? without(settings.parameters?.[rule], name) : { ...settings.parameters?.[rule], [name]: value };
  const parameters = own ? { ...settings.parameters, [rule]: own } : without(settings.parameters, rule);
  const { parameters: _, ...rest } = settings;
  return parameters ? { ...rest, parameters } : rest;
}

export function withBase(settings: RuleSettings, rule: string, value: number | undefined): RuleSettings {
  const base = value === undefined ? without(settings.weights?.base, rule) : { ...settings.weights?.base, [rule]: value };
  const { base: _, ...others } = settings.weights ?? {};
  const { weights: __, ...rest } = settings;
  const weights = base ? { ...others, base } : others;
  return Object.keys(weights).length === 0 ? rest : { ...rest, weights };
}

export function withSite(settings: RuleSettings, site: string, change: SiteSettings | undefined): RuleSettings {
  const sites = change && Object.keys(change).length > 0 ? { ...settings.sites, [site]: change } : without(settings.sites, site);
  const { sites: _, ...rest } = settings;
  return sites ? { ...rest, sites } : rest;
}

export const withDuties = ({ duties: _, ...rest }: RuleSettings, duties: readonly Duty[]): RuleSettings => (duties.length === 0 ? rest : { ...rest, duties });

/** Settings with one of the four weights of risk set, or left as it usually is. */
export function withWeight(settings: RuleSettings, name: keyof typeof usualWeights, value: number | undefined): RuleSettings {
  const { [name]: _, ...others } = settings.weights ?? {};
  const weights = value === undefined ? others : { ...others, [name]: value };
  const { weights: __, ...rest } = settings;
  return Object.keys(weights).length === 0 ? rest : { ...rest, weights };
}

const placesShown = 6;

type Judging = { readonly settings: RuleSettings; readonly secondPersonFrom: number };

/** Where two settings differ, as the places of them are called: at most a few, and how many there are besides. */
export function changedPlaces(was: Judging, is: Judging): string[] {
  const places: string[] = [];
  const look = (a: unknown, b: unknown, place: string): void => {
    if (JSON.stringify(a) === JSON.stringify(b)) return;
    const isPlain = (value: unknown): value is Record<string, unknown> => typeof value === "object" && value !== null && !Array.isArray(value);
    if (!isPlain(a) && !isPlain(b)) return void places.push(place);
    const [before, after] = [isPlain(a) ? a : {}, isPlain(b) ? b : {}];
    for (const key of new Set([...Object.keys(before), ...Object.keys(after)])) look(before[key], after[key], place === "" ? key : `${place}, ${key}`);
  };
  look(was.settings, is.settings, "");
  if (was.secondPersonFrom !== is.secondPersonFrom) places.push("from which risk a second person confirms waivers");
  return places.length <= placesShown ? places : [...places.slice(0, placesShown), `${places.length - placesShown} more`];
}

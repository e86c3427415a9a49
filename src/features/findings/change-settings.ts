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

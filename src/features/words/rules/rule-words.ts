import type { RuleKey } from "@/core/findings/proofs";
import { plural } from "../numbers";
import { access } from "./access";
import { definitions } from "./definitions";
import { peopleAndCards } from "./people-and-cards";
import { toldByEvents } from "./told-by-events";
import type { RuleWords } from "./told-rule";

const keysOf = <Rules extends object>(rules: Rules) => Object.keys(rules) as (keyof Rules & RuleKey)[];

/** The catalogue in words, in the order in which it is read. A rule without its words does not compile. */
export const ruleGroups: readonly { readonly title: string; readonly rules: readonly RuleKey[] }[] = [
  { title: "People and cards", rules: keysOf(peopleAndCards) },
  { title: "Access", rules: keysOf(access) },
  { title: "Definitions", rules: keysOf(definitions) },
  { title: "What the events tell", rules: keysOf(toldByEvents) },
];

export const ruleWords: Readonly<Record<RuleKey, RuleWords>> = { ...peopleAndCards, ...access, ...definitions, ...toldByEvents };

/** What a rule flags, with its parameters as they are set. */
export const flagsWords = (rule: RuleKey, parameters: Readonly<Record<string, number>>): string =>
  ruleWords[rule].flags.replace(/\{(\w+)(?:\|([^|}]+)\|([^}]+))?\}/g, (said, name: string, one?: string, many?: string) => {
    const value = parameters[name];
    if (value === undefined) return said;
    return one === undefined || many === undefined ? value.toLocaleString("en-GB") : plural(value, one, many);
  });

import { subjectKinds } from "@/core/findings/flag";
import type { RuleKey } from "@/core/findings/proofs";
import type { AskedFindings } from "@/operations/findings/list-findings";
import type { FindingGrouping } from "@/operations/ports/findings";
import { ruleWords } from "../words/rules/rule-words";

/** What the address of the findings asks for; `past` is the number of an earlier snapshot. */
export type FindingsAddress = AskedFindings & { readonly past?: number | undefined };

const isRuleKey = (key: string): key is RuleKey => Object.hasOwn(ruleWords, key);

type Query = Readonly<Record<string, string | readonly string[] | undefined>>;

const lives = ["new", "still", "back", "gone"] as const;
const groupings = ["rule", "cardholder", "area", "manager", "department"] as const satisfies readonly FindingGrouping[];
const waivedChoices = ["only", "with"] as const;

const one = <T extends string>(all: readonly T[], text: unknown): T | undefined => all.find((item) => item === text);
const textIn = (value: unknown): string | undefined => (typeof value === "string" ? value : undefined);

function wholeNumber(value: unknown, least: number): number | undefined {
  const number = typeof value === "string" && value !== "" ? Number(value) : NaN;
  return Number.isSafeInteger(number) && number >= least ? number : undefined;
}

function objectIn(value: unknown): AskedFindings["about"] {
  const text = textIn(value);
  const colon = text?.indexOf(":") ?? -1;
  const kind = subjectKinds.find((known) => known === text?.slice(0, colon));
  return text === undefined || kind === undefined ? undefined : { kind, id: text.slice(colon + 1) };
}

/** A group of some grouping; empty for what belongs nowhere, but to a rule everything does. */
function keyIn(by: FindingGrouping | undefined, value: unknown): string | undefined {
  const key = textIn(value);
  if (by === undefined || key === undefined) return undefined;
  if (by === "rule") return isRuleKey(key) ? key : undefined;
  return by === "cardholder" && !subjectKinds.some((kind) => key.startsWith(`${kind} `)) ? undefined : key;
}

/** What of an address is understood; the rest is named, so that no answer is taken for that to another question. */
export function findingsOfAddress(query: Query): { readonly asked: FindingsAddress; readonly notUnderstood: readonly string[] } {
  const rule = textIn(query.rule);
  const asked = {
    rule: rule !== undefined && isRuleKey(rule) ? rule : undefined,
    life: one(lives, query.life),
    waived: one(waivedChoices, query.waived),
    isMine: query.mine === "yes" ? true : undefined,
    by: one(groupings, query.by),
    key: keyIn(one(groupings, query.by), query.key),
    about: objectIn(query.about),
    from: wholeNumber(query.from, 0),
    fingerprint: textIn(query.finding),
    past: wholeNumber(query.snapshot, 1),
  };
  const { isMine: mine, fingerprint: finding, past: snapshot, ...others } = asked;
  const read: Readonly<Record<string, unknown>> = { ...others, mine, finding, snapshot };
  const notUnderstood = Object.entries(query).flatMap(([name, value]) =>
    value === undefined || (Object.hasOwn(read, name) && read[name] !== undefined) ? [] : [`${name}=${typeof value === "string" ? value : value.join(",")}`],
  );
  return { asked, notUnderstood };
}

/** Where findings are listed. */
export function findingsHref(asked: FindingsAddress, path = "/findings"): string {
  const { rule, life, waived, isMine, by, key, about, from, fingerprint, past } = asked;
  const query = new URLSearchParams();
  const put = (name: string, value: string | number | undefined): void => {
    if (value !== undefined) query.set(name, String(value));
  };
  put("rule", rule);
  put("life", life);
  put("waived", waived);
  put("mine", isMine ? "yes" : undefined);
  put("by", by);
  put("key", key);
  put("about", about && `${about.kind}:${about.id}`);
  put("from", from);
  put("finding", fingerprint);
  put("snapshot", past);
  const text = query.toString();
  return text === "" ? path : `${path}?${text}`;
}

/** The address of one finding. */
export const findingHref = (fingerprint: string, past: number | undefined): string => findingsHref({ fingerprint, past });

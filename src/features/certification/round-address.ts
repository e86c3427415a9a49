import type { CertifiedBy, RoundScope } from "@/core/certification/round-terms";
import type { HolderId } from "@/core/facility/holder-id";

const kinds = ["cardholder", "credential"] as const satisfies readonly HolderId["kind"][];
const certifiedBy = ["manager", "owner", "both"] as const satisfies readonly CertifiedBy[];
const onlies = ["findings", "changed"] as const;
const definitions = ["too", "only"] as const;
/** Lists of a scope, by the name that each has in an address. */
const lists = { site: "sites", area: "areas", department: "departments", type: "types" } as const satisfies Readonly<Record<string, keyof RoundScope>>;

/** A holder as addresses name them. */
export const aboutText = ({ kind, id }: HolderId): string => `${kind}:${id}`;

/** What an address asks a round to cover, and who certifies it. */
export interface AskedRound {
  readonly scope: RoundScope;
  readonly by: CertifiedBy;
}

/** The page that plans a round of a scope. */
export function newRoundAddress({ scope, by }: AskedRound): string {
  const asked = new URLSearchParams();
  if (scope.about) asked.set("about", aboutText(scope.about));
  for (const [name, list] of Object.entries(lists)) for (const id of scope[list] ?? []) asked.append(name, id);
  if (scope.sensitivity !== undefined) asked.set("sensitivity", String(scope.sensitivity));
  if (scope.only) asked.set("only", scope.only);
  if (scope.definitions) asked.set("definitions", scope.definitions);
  if (by !== "manager") asked.set("by", by);
  const text = asked.toString();
  return `/certification/new${text === "" ? "" : `?${text}`}`;
}

/** The page that plans a round about one holder. */
export const newRoundHref = (holder: HolderId): string => newRoundAddress({ scope: { about: holder }, by: "manager" });

function aboutOf(about: string): HolderId | undefined {
  const kind = kinds.find((one) => about.startsWith(`${one}:`));
  const id = kind && about.slice(kind.length + 1);
  return kind && id ? { kind, id } : undefined;
}

/** Whom an address is about: undefined where it names nobody, null where it cannot be understood. */
export function aboutOfAddress({ about }: Asked): HolderId | undefined | null {
  if (about === undefined) return undefined;
  return typeof about === "string" ? (aboutOf(about) ?? null) : null;
}

type Asked = Readonly<Record<string, string | readonly string[] | undefined>>;
const longestId = 128;

/** What an address asks a round to cover; null where something in it cannot be understood: another round than was asked for would be worse than none. */
export function roundOfAddress(asked: Asked): AskedRound | null {
  const scope: { -readonly [K in keyof RoundScope]: RoundScope[K] } = {};
  let by: CertifiedBy = "manager";
  for (const [name, value] of Object.entries(asked)) {
    if (value === undefined) continue;
    const values = typeof value === "string" ? [value] : value;
    const [first = ""] = values;
    if (Object.hasOwn(lists, name)) {
      if (values.some((id) => id === "" || id.length > longestId)) return null;
      scope[lists[name as keyof typeof lists]] = [...new Set(values)].sort();
      continue;
    }
    if (values.length !== 1) return null;
    if (name === "about") {
      const about = aboutOf(first);
      if (!about) return null;
      scope.about = about;
    } else if (name === "sensitivity") {
      if (!/^[0-3]$/.test(first)) return null;
      scope.sensitivity = Number(first);
    } else if (name === "only") {
      const only = onlies.find((one) => one === first);
      if (!only) return null;
      scope.only = only;
    } else if (name === "definitions") {
      const which = definitions.find((one) => one === first);
      if (!which) return null;
      scope.definitions = which;
    } else if (name === "by") {
      const who = certifiedBy.find((one) => one === first);
      if (!who) return null;
      by = who;
    } else return null;
  }
  return { scope, by };
}

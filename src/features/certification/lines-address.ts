import type { LineFilter } from "@/operations/ports/rounds";

/** Lines of a round as an address asks for them; pages are counted from 1. */
export interface LinesAddress {
  readonly filter: LineFilter;
  readonly page: number;
}

const decisions = ["keep", "withdraw", "narrow", "pass-on", "decided", "undecided"] as const satisfies readonly NonNullable<LineFilter["decision"]>[];
const flags = ["definitions", "flagged", "commented"] as const;
const longest = 255;

/** The page that lists some lines of a round, or the same as a file. */
export function linesHref(round: number, filter: LineFilter, page = 1, as: "page" | "csv" | "xlsx" = "page"): string {
  const asked = new URLSearchParams();
  if (filter.docket !== undefined) asked.set("docket", String(filter.docket));
  if (filter.department !== undefined) asked.set("department", filter.department ?? "");
  if (filter.decision !== undefined) asked.set("decision", filter.decision);
  for (const flag of flags) if (filter[flag]) asked.set(flag, "yes");
  if (page > 1) asked.set("page", String(page));
  if (as === "xlsx") asked.set("as", as);
  const text = asked.toString();
  return `/certification/${round}/lines${as === "page" ? "" : "/export"}${text === "" ? "" : `?${text}`}`;
}

/** Which lines an address asks for; null where something in it cannot be understood: other lines than were asked for would be worse than none. */
export function linesOfAddress(asked: Readonly<Record<string, string | readonly string[] | undefined>>): LinesAddress | null {
  const filter: { -readonly [K in keyof LineFilter]: LineFilter[K] } = {};
  let page = 1;
  for (const [name, value] of Object.entries(asked)) {
    if (value === undefined) continue;
    if (typeof value !== "string") return null;
    const flag = flags.find((one) => one === name);
    if (flag) {
      if (value !== "yes") return null;
      filter[flag] = true;
    } else if (name === "department") {
      if (value.length > longest) return null;
      filter.department = value === "" ? null : value;
    } else if (name === "decision") {
      const decision = decisions.find((one) => one === value);
      if (!decision) return null;
      filter.decision = decision;
    } else if (name === "docket" || name === "page") {
      if (!/^[1-9]\d{0,8}$/.test(value)) return null;
      if (name === "docket") filter.docket = Number(value);
      else page = Number(value);
    } else return null;
  }
  return { filter, page };
}

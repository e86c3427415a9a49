import type { Part } from "./source-profile";

/** What stands before, between and after the places of a pattern, and which place is the part. */
interface PatternPieces {
  readonly literals: readonly string[];
  readonly part: number;
}

const place = /\{(part|\*)\}/g;

/**
 * The pieces of a pattern: `Card {part} of {*}` has one `{part}`, and `{*}` for any other text. Places do not touch, so that a text can be read in one way
 * only and in one pass. A sentence where it is none.
 */
export function patternPieces(pattern: string): PatternPieces | string {
  const places = [...pattern.matchAll(place)];
  const literals = pattern.split(/\{(?:part|\*)\}/);
  const parts = places.flatMap(([, name], at) => (name === "part" ? [at] : []));
  const [part] = parts;
  if (part === undefined || parts.length > 1) return "a pattern has {part} just once; {*} stands for any other text";
  if (literals.slice(1, -1).includes("")) return "between two places of a pattern stands something that tells where one ends";
  return { literals, part };
}

/** What stands at `{part}` of a text that fits a pattern as a whole; undefined for one that does not. Each place takes the least that it can. */
function partByPattern(text: string, pattern: string): string | undefined {
  const pieces = patternPieces(pattern);
  if (typeof pieces === "string") return undefined;
  const { literals, part } = pieces;
  const [first = "", ...rest] = literals;
  const last = rest.pop() ?? "";
  if (!text.startsWith(first) || !text.endsWith(last) || text.length < first.length + last.length) return undefined;
  const end = text.length - last.length;
  let from = first.length;
  const found: string[] = [];
  for (const literal of rest) {
    const at = text.indexOf(literal, from);
    if (at < 0 || at + literal.length > end) return undefined;
    found.push(text.slice(from, at));
    from = at + literal.length;
  }
  found.push(text.slice(from, end));
  return found[part];
}

/** A part of a text, trimmed; undefined where the text has none such. */
export function partOf(text: string, part: Part): string | undefined {
  if ("pattern" in part) return partByPattern(text, part.pattern)?.trim();
  if ("delimiter" in part) {
    const parts = text.split(part.delimiter);
    return parts.at(part.nth > 0 ? part.nth - 1 : part.nth)?.trim();
  }
  const characters = [...text];
  return characters.length < part.from
    ? undefined
    : characters
        .slice(part.from - 1, part.to)
        .join("")
        .trim();
}

/** "Almondfeld, Iris" as "Iris Almondfeld"; a name without a comma, or with several, as it is. */
export function turnedName(text: string): string {
  const parts = text.split(",");
  return parts.length === 2 ? `${(parts[1] ?? "").trim()} ${(parts[0] ?? "").trim()}`.trim() : text;
}

/** An id from a name: plain letters and digits of any script in small letters, other signs as a dash; empty where the name has none. */
export const idFromName = (name: string): string =>
  name
    .normalize("NFKD")
    .replace(/\p{M}/gu, "")
    .toLowerCase()
    .replace(/ß/g, "ss")
    .replace(/[^\p{L}\p{N}]+/gu, "-")
    .replace(/^-|-$/g, "")
    .slice(0, 100);

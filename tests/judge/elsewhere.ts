import fc from "fast-check";
import type { FacilityDocument } from "@/core/facility/document";

/** The year that the documents are drawn in. */
export const drawnIn = 2026;
export const movedYear = (text: string, by: number): string => text.replace(/^\d{4}(?=-\d\d-\d\d)/, (year) => String(Number(year) + by).padStart(4, "0"));

/** Beginnings of ids: what means something to the language, what sorts or folds unlike it looks, and what a cell may not begin with. */
export const beginnings = ["__proto__", "constructor", "É", "e\u0301", "ß", "\u{1d538}", "=", "0", "-1", "a b", "%2F..", "'\"", "İ"];
export const longest = 128;

/** The same document in another year, with other ids: as long as they may be, and alike but for their end. */
export function elsewhere(draft: FacilityDocument, by: number, beginning: string): FacilityDocument {
  const own = new Set(JSON.stringify(draft).match(/(?<="id":")[^"]*/g));
  const idOf = (id: string) => {
    const room = longest - [...beginning].length - id.length;
    return own.has(id) ? `${beginning}${"x".repeat(room)}${id}` : id;
  };
  return JSON.parse(JSON.stringify(draft), (_, value: unknown) => (typeof value === "string" ? movedYear(idOf(value), by) : value)) as FacilityDocument;
}

export const year = fc.oneof(fc.integer({ min: 3, max: 9997 }), fc.constantFrom(3, 4, 100, 1582, 1583, 1884, 1900, 1916, 1945, 2000, 2400, 4000, 9996, 9997));

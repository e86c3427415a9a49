/**
 * Canonical JSON by RFC 8785: keys sorted by UTF-16 units, numbers and strings as ECMAScript writes them, no white space.
 * Takes what JSON can hold; keys whose value is undefined are left out.
 */
export function canonicalJson(value: unknown): string {
  if (Array.isArray(value)) return `[${(value as unknown[]).map(canonicalJson).join(",")}]`;
  if (typeof value === "object" && value !== null) {
    const object = value as Readonly<Record<string, unknown>>;
    const members = Object.keys(object)
      .filter((key) => object[key] !== undefined)
      .sort()
      .map((key) => `${JSON.stringify(key)}:${canonicalJson(object[key])}`);
    return `{${members.join(",")}}`;
  }
  return JSON.stringify(value);
}

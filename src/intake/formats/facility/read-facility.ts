import type { ValidationErrorItem } from "joi";
import type { CheckedFacility } from "@/core/facility/check-facility";
import { checkFacility } from "@/core/facility/check-facility";
import type { FacilityDocument } from "@/core/facility/document";
import type { DataIssue } from "@/core/facility/issue";
import { problem } from "@/core/facility/issue";
import { checkReferences } from "@/core/facility/references";
import type { Result } from "@/core/kernel/result";
import { failure } from "@/core/kernel/result";
import { facilitySchema } from "./facility-schema";
import { withoutPlainLists } from "./plainly-valid";

/** A path such as `cardholders[3].until`. */
const writtenPath = (path: readonly (string | number)[]): string =>
  path.reduce<string>((at, key) => (typeof key === "number" ? `${at}[${key}]` : at === "" ? key : `${at}.${key}`), "");

/** A value as it is quoted in a message: short, whatever it is. */
export function quoted(value: unknown): string {
  if (value === undefined) return "nothing";
  let text: string;
  try {
    text = JSON.stringify(value);
  } catch {
    // What is nested without end can be read, and cannot be written.
    return "something nested too deeply to be shown";
  }
  return text.length > 80 ? `${text.slice(0, 77)}…` : text;
}

const kinds: Readonly<Record<string, string>> = {
  "string.base": "a text",
  "string.empty": "a text that is not empty",
  "boolean.base": "true or false",
  "number.base": "a number",
  "number.integer": "a whole number",
  "number.unsafe": "a number that can be held exactly",
  "array.base": "a list",
  "object.base": "an object",
  "array.orderedLength": "a start and an end, nothing more",
  "array.sparse": "a value, not null",
};

/** What Joi says of a value as an issue of the document. */
export function asIssue(item: ValidationErrorItem): DataIssue {
  const context = (item.context ?? {}) as Record<string, unknown>;
  const at = (path: readonly (string | number)[], value: string, expected: string) => problem(writtenPath(path), "malformed", { value, expected });
  const value = quoted(context.value);
  switch (item.type) {
    case "any.required":
      return at(item.path, "nothing", "this key, which is required");
    case "nomade.missing":
      return at([...item.path, String(context.missingKey)], "nothing", String(context.expected));
    case "nomade.expected":
      return at(item.path, value, String(context.expected));
    case "object.unknown":
      // Somebody's PIN would be told by the message that refuses it.
      return at(item.path, /pin/i.test(String(item.path[item.path.length - 1])) ? "something that is not shown" : value, "no such key here");
    case "any.unknown":
      return at(item.path, value, "no such key beside the others");
    case "any.only":
      return at(item.path, value, `one of ${(context.valids as unknown[]).map(quoted).join(", ")}`);
    case "object.and":
      return at([...item.path, String((context.missing as string[])[0])], "nothing", "this key, which goes with the other");
    case "object.xor":
      return at(item.path, quoted(context.present), `just one of ${(context.peers as string[]).join(", ")}`);
    case "object.missing":
      return at(item.path, "nothing", `one of ${(context.peers as string[]).join(", ")}`);
    case "number.min":
      return at(item.path, value, `a number from ${String(context.limit)} on`);
    case "number.max":
      return at(item.path, value, `a number up to ${String(context.limit)}`);
    case "array.includesRequiredUnknowns":
    case "array.includesRequiredBoth":
      return at(item.path, value, "a start and an end");
    default:
      return at(item.path, value, kinds[item.type] ?? item.message);
  }
}

/**
 * Reads the text of a facility document. Fails with every error at once: those of its shape, and, as far as the rest can be
 * read, references that lead nowhere, ids used twice and loops.
 */
export function readFacility(text: string): Result<CheckedFacility, readonly DataIssue[]> {
  let value: unknown;
  try {
    value = JSON.parse(text.charCodeAt(0) === 0xfeff ? text.slice(1) : text);
  } catch (error) {
    return failure([problem("", "not-json", { value: quoted(text.slice(0, 40)), reason: (error as Error).message })]);
  }
  return holdsHiddenKey(text, value) ? failure([problem("", "malformed", { value: '"__proto__"', expected: "no such key anywhere" })]) : readDocument(value);
}

/** Whether some object has a key `__proto__`, which whoever looks at it afterwards would not see. A day type may be called so. */
function holdsHiddenKey(text: string, document: unknown): boolean {
  if (!/__proto__|\\u005f/i.test(text)) return false;
  const open: [unknown, string][] = [[document, ""]];
  for (let next = open.pop(); next; next = open.pop()) {
    const [value, name] = next;
    if (typeof value !== "object" || value === null) continue;
    if (name !== "holidays" && Object.hasOwn(value, "__proto__")) return true;
    for (const [key, part] of Object.entries(value)) open.push([part, Array.isArray(value) ? name : key]);
  }
  return false;
}

/** The same for a document that is no text any more; it is not changed, and what comes out of it shares its objects. */
export function readDocument(value: unknown): Result<CheckedFacility, readonly DataIssue[]> {
  const object = typeof value === "object" && value !== null && !Array.isArray(value) ? (value as Record<string, unknown>) : undefined;
  const validate = (document: unknown) => facilitySchema.validate(document, { abortEarly: false, convert: false, errors: { render: false } }).error;
  const error = validate(object ? withoutPlainLists(object) : value);
  if (!error) return checkFacility(value as FacilityDocument);
  const shape = error.details.map(asIssue);
  return failure([...shape, ...checkReferences(object ?? {}).filter(({ level }) => level === "error")]);
}

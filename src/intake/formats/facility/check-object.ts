import type { ListKey } from "@/core/facility/document";
import type { DataIssue } from "@/core/facility/issue";
import type { Plain } from "@/core/facility/object-key";
import { facilitySchema } from "./facility-schema";
import { asIssue } from "./read-facility";

/** What is wrong with one object of a list, all at once; paths begin at the object: `rows[2].schedule`. Its references are not looked up. */
export function checkObject(list: ListKey, object: Plain): DataIssue[] {
  const schema = facilitySchema.extract(list);
  const { error } = schema.validate([object], { abortEarly: false, convert: false, errors: { render: false } });
  return (error?.details ?? []).map(asIssue).map((issue) => ({ ...issue, path: issue.path.replace(/^\[0\]\.?/, "") }));
}

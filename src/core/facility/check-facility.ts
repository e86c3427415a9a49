import type { Result } from "../kernel/result";
import { failure, success } from "../kernel/result";
import type { FacilityDocument } from "./document";
import type { Facility } from "./facility";
import { withAllLists } from "./facility";
import type { DataIssue } from "./issue";
import { notesOn } from "./notes";
import { checkReferences } from "./references";

export interface CheckedFacility {
  readonly facility: Facility;
  readonly notes: readonly DataIssue[];
}

/**
 * Resolves every reference of a well-formed document. Fails with all errors at once (references that lead nowhere, ids used
 * twice, loops); otherwise gives the facility and what is odd in it.
 */
export function checkFacility(draft: FacilityDocument): Result<CheckedFacility, readonly DataIssue[]> {
  const issues = checkReferences(draft as unknown as Readonly<Record<string, unknown>>);
  if (issues.some(({ level }) => level === "error")) return failure(issues.filter(({ level }) => level === "error"));
  const facility = withAllLists(draft);
  return success({ facility, notes: [...issues, ...notesOn(facility)] });
}

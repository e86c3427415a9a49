import { namesSpokenOf } from "@/core/findings/about";
import type { StoredFinding } from "../ports/findings";
import type { OpenRegister } from "../register/open-register";

/** A finding with the names of what it speaks of beside its subject, by `spokenKey`. */
export type FindingWithNames = StoredFinding & { readonly names: Readonly<Record<string, string>> };

export const withNames = ({ compiled }: OpenRegister, findings: readonly StoredFinding[]): FindingWithNames[] =>
  findings.map((finding) => ({ ...finding, names: namesSpokenOf(compiled, finding) }));

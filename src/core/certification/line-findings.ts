import type { CompiledFacility } from "../compile/compiled-facility";
import { factsOf, namesSpokenOf } from "../findings/about";
import type { Finding } from "../findings/finding";
import type { LineFinding } from "./line";

/** What speaks against a line, with the names of what it speaks of, as it is frozen. */
export const findingsOfLine = (compiled: CompiledFacility, findings: readonly Finding[]): LineFinding[] =>
  findings.map((finding) => ({ fingerprint: finding.fingerprint, risk: finding.risk, facts: factsOf(finding), names: namesSpokenOf(compiled, finding) }));

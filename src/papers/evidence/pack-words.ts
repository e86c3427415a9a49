import type { PackCheck, PackCheckKind, PackProblem } from "@/core/evidence/verify-pack";

const kinds: Readonly<Record<PackCheckKind, string>> = {
  files: "files against SHA256SUMS",
  document: "document against the hash of the snapshot",
  record: "entries of the record",
  signatures: "signatures against what was signed and recorded",
  decisions: "lines against what was signed and recorded",
  orders: "orders against decisions",
  findings: "findings against what lines tell",
  "machine-files": "files that are made from the others",
  sample: "sampled lines, worked out again from the document",
  "time-stamp": "time stamps over the record",
};

const problems: Readonly<Record<PackProblem["code"], string>> = {
  missing: "it is missing",
  "unknown-file": "it is not in SHA256SUMS",
  unreadable: "it cannot be read as what it should be",
  altered: "it was altered: its hash is another",
  hash: "it does not bear its own hash",
  "previous-hash": "it does not follow on the entry before",
  number: "it is missing, or out of order",
  values: "its values are not those that were recorded",
  head: "the record does not end as the pack says",
  "not-signed-text": "the text is not the one that was signed",
  "not-recorded": "the record has no entry of it",
  "otherwise-decided": "it was signed otherwise",
  "otherwise-recorded": "the record says otherwise",
  "not-withdrawn": "it is of a line that was not withdrawn",
  "unknown-finding": "it tells of a finding that is not in the pack",
  "otherwise-worked-out": "worked out again it is otherwise",
  "other-sample": "the seed draws others",
  unstamped: "it does not hold for the certificates in the pack",
  "stamped-before": "it was stamped before the time that it says",
};

/** One kind of check as a sentence: how many, and sound, or the first that is not. */
export const packCheckWords = ({ what, count, problem }: PackCheck): string =>
  `${kinds[what]}: ${count.toLocaleString("en-GB")}, ${problem ? `not sound. ${problem.at}: ${problems[problem.code]}.` : "sound"}`;

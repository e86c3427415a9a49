/** The files of a pack. `signed/docket-N.json` has the text that docket N's signature bears the hash of. */
export const packNames = {
  readme: "README.html",
  report: "report.pdf",
  manifest: "manifest.json",
  document: "facility.json",
  intakes: "intakes.json",
  dockets: "dockets.jsonl",
  lines: "lines.jsonl",
  linesTable: "lines.csv",
  comments: "comments.jsonl",
  findings: "findings.jsonl",
  orders: "orders.jsonl",
  ordersTable: "orders.csv",
  checks: "closing-checks.jsonl",
  settings: "rules.json",
  sample: "sample.jsonl",
  record: "record.jsonl",
  oscal: "oscal-assessment-results.json",
  sums: "SHA256SUMS",
} as const;

/** Of a pack whose installation had trials written down: each with what the door does by the document. */
export const trialsName = "trials.jsonl";

/** Files of a pack whose installation has its record stamped: the stamped head, the authority's answer (RFC 3161), and whom the installation trusts. */
export const stampNames = { head: "time-stamp/head.json", response: "time-stamp/head.tsr", certificates: "time-stamp/authority.pem" } as const;

export const signedTextName = (docket: number): string => `signed/docket-${docket}.json`;

/** `SHA256SUMS` as `sha256sum --check` reads it: a line a file, by name. */
export const sumsText = (sums: ReadonlyMap<string, string>): string =>
  [...sums]
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([name, sum]) => `${sum}  ${name}\n`)
    .join("");

/** Reads `SHA256SUMS`; undefined where a line of it is none, or names a file twice. */
export function readSums(text: string): Map<string, string> | undefined {
  const sums = new Map<string, string>();
  for (const line of text.split("\n")) {
    if (line === "") continue;
    const [, sum, name] = /^([0-9a-f]{64}) [ *](.+)$/.exec(line) ?? [];
    if (sum === undefined || name === undefined || sums.has(name)) return undefined;
    sums.set(name, sum);
  }
  return sums;
}

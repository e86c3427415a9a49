import { packNames, stampNames, trialsName } from "@/core/evidence/pack-names";
import type { RoundEvidence } from "@/core/evidence/round-evidence";
import { certifierWords } from "@/features/words/holders";
import { clockText } from "@/features/words/times";

const escaped = (text: string): string => text.replace(/[<>&"]/g, (sign) => ({ "<": "&lt;", ">": "&gt;", "&": "&amp;", '"': "&quot;" })[sign] ?? sign);

/** A text as one word of a shell: a seed is whatever somebody gave. */
const shellWord = (text: string): string => `'${text.replaceAll("'", "'\\''")}'`;

const command = (text: string): string => `<pre>${escaped(text)}</pre>`;

/** How a time stamp over an entry of the record is checked. */
const stampSection = (number: number): string =>
  `<p>Entry ${number} was stamped by an authority outside (RFC 3161): nobody could make the record up to it later than the stamp says. This has to say “Verification: OK”, and the time; <code>${stampNames.head}</code> has to hold the hash of entry ${number}.</p>${command(
    `openssl ts -verify -data ${stampNames.head} -in ${stampNames.response} -CAfile ${stampNames.certificates}\nopenssl ts -reply -in ${stampNames.response} -text | grep "Time stamp"\njq -cjS 'select(.number == ${number}) | {hash, number}' ${packNames.record} | cmp - ${stampNames.head} && echo same`,
  )}<p>Compare <code>${stampNames.certificates}</code> with the certificate that the authority itself publishes.</p>`;

/** The files of the pack, and what each is. */
const files: readonly (readonly [name: string, what: string])[] = [
  [packNames.report, "the report to read: summary, exceptions, completeness, signatures"],
  [packNames.manifest, "what the pack says of itself: round, snapshot, counts, the piece of the record, the seed"],
  [packNames.document, "the facility document of the snapshot, to the byte"],
  [packNames.lines, "every line as it was put before its certifier, and how it was decided"],
  [packNames.linesTable, "the same as a table"],
  [packNames.dockets, "every docket with its statement, its signature’s time and hash"],
  ["signed/docket-N.json", "the text that the signature of docket N bears the hash of"],
  [packNames.comments, "what certifiers and the reviewer said to each other"],
  [packNames.findings, "what was known to speak against something in the snapshot, with waivers"],
  [packNames.orders, "what was ordered of whoever owns the data"],
  [packNames.ordersTable, "the same as a table"],
  [packNames.checks, "what later intakes say of each order"],
  [packNames.intakes, "the files behind the snapshots: hash, rows, rows left out"],
  [packNames.settings, "how the rules judged when the pack was made"],
  [packNames.sample, "lines drawn with the seed, to be worked out again"],
  [trialsName, "credentials tried at doors, where any were written down: what was expected, and what the door does by the document"],
  [packNames.record, "the record from the opening of the round on, without a gap"],
  [packNames.oscal, "the round as OSCAL assessment results (NIST, open)"],
];

/** How an auditor verifies each part of a pack with ordinary tools. It needs nothing from outside. */
export function howToVerify({ round, snapshot, dockets, entries, seed }: RoundEvidence, stamped: number | undefined): string {
  const signed = dockets.filter(({ signedAt }) => signedAt !== undefined);
  const [first, last] = [entries[0], entries.at(-1)];
  return `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><title>How to verify: ${escaped(round.name)}</title>
<style>body{max-width:46em;margin:2em auto;padding:0 1em;font:16px/1.5 "Source Sans 3",sans-serif;color:#22252b;background:#fdfcf8}pre{background:#efeadf;padding:.6em .8em;overflow:auto}table{border-collapse:collapse;width:100%}th,td{text-align:left;vertical-align:top;padding:.25em .8em .25em 0;border-bottom:1px solid #ddd6c8}code{font-size:.9em;overflow-wrap:anywhere}h2{margin-top:1.6em}</style></head><body>
<h1>How to verify this pack</h1>
<p>It is the evidence of “${escaped(round.name)}”, round ${round.id} over snapshot ${snapshot.id} of ${escaped(snapshot.facilityName)}. Unpack it into an empty folder; all that is needed are <code>sha256sum</code>, <code>jq</code> and <code>bash</code>.</p>
<h2>1. No file was altered</h2>${command(`sha256sum --check ${packNames.sums}`)}
<p>Every line ends in OK, and no file but <code>${packNames.sums}</code> is missing from it. Whoever altered a file could write this list anew; so compare the hash of the list itself with the one in the record of the installation, entry “round.exported”:</p>${command(`sha256sum ${packNames.sums}`)}
<h2>2. The document is that of the snapshot</h2>${command(`sha256sum ${packNames.document}`)}
<p>It has to be <code>${snapshot.hash}</code>.</p>
<h2>3. What was signed is what stands here</h2>${command("sha256sum signed/*.json")}
<table><tr><th>Docket</th><th>Signed by</th><th>SHA-256</th></tr>${signed
    .map(
      ({ docket, signedBy, signedAt = "", hash = "", certifierName }) =>
        `<tr><td>${docket}</td><td>${escaped(signedBy?.name ?? certifierWords(certifierName))}, ${escaped(clockText(signedAt))}</td><td><code>${hash}</code></td></tr>`,
    )
    .join("")}</table>
<p>Each signed text holds the statement and all lines with decisions and reasons; <code>${packNames.lines}</code> has to say the same of them:</p>${command(
    `jq -cS '.lines[] | {line: .id, decision, reason}' signed/docket-${signed[0]?.docket ?? "N"}.json | sort > /tmp/signed\njq -cS 'select(.docket == ${signed[0]?.docket ?? 0}) | {line, decision, reason}' ${packNames.lines} | sort | diff - /tmp/signed && echo same`,
  )}
<h2>4. The record holds together</h2>
<p>Each entry bears the SHA-256 of itself without its values, and that of the entry before. This walks it:</p>${command(
    `previous=${first?.previousHash ?? ""}\nwhile IFS= read -r entry; do\n  test "$(jq -r .previousHash <<< "$entry")" = "$previous" || echo "does not follow: $(jq .number <<< "$entry")"\n  previous=$(jq -cjS '{number, at, who, what, on, valuesHash, previousHash}' <<< "$entry" | sha256sum | cut -d' ' -f1)\n  test "$(jq -r .hash <<< "$entry")" = "$previous" || echo "altered: $(jq .number <<< "$entry")"\n  jq -e 'has("content") | not' <<< "$entry" > /dev/null || test "$(jq -j .content <<< "$entry" | sha256sum | cut -d' ' -f1)" = "$(jq -r .valuesHash <<< "$entry")" || echo "values altered: $(jq .number <<< "$entry")"\ndone < ${packNames.record}\necho "$previous"`,
  )}
<p>It has to end with <code>${last?.hash ?? ""}</code>, which is the head of the record at entry ${last?.number ?? 0}: compare it with the heads beside the database, in backups, and in the mails of that time. The entries “docket.signed” hold the hashes of section 3.</p>
${stamped === undefined ? "" : stampSection(stamped)}<h2>5. The sample</h2>
<p>Drawn with the seed <code>${escaped(seed)}</code>: of the lines about somebody’s access to places those of which this comes first, in order:</p>${command(
    `for line in $(jq 'select(.content.definition == null and .content.subject.kind != "credential") | .line' ${packNames.lines}); do\n  echo "$(printf '%s:%s' ${shellWord(seed)} "$line" | sha256sum | cut -d' ' -f1) $line"\ndone | sort | head -25`,
  )}
<p>What a sampled line says of doors and hours is worked out again from the document alone, with the command line of the program:</p>${command(
    `npm run --silent nomade -- resolve ${packNames.document} --by cardholder --cardholder ID --door DOOR --from ${snapshot.asOf} --to INSTANT`,
  )}
<h2>6. All of it at once</h2>${command("npm run --silent nomade -- verify PACK.zip")}
<p>It needs no database, and works the sampled lines out again itself.</p>
<h2>The files</h2><table>${files.map(([name, what]) => `<tr><td><code>${name}</code></td><td>${escaped(what)}</td></tr>`).join("")}</table>
</body></html>
`;
}

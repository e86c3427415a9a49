import { isDefinition } from "../certification/line-content";
import { countDecisions } from "../certification/sign-docket";
import { canonicalJson } from "../facility/canonical-json";
import { oscalResults } from "./oscal";
import { packNames, signedTextName, trialsName } from "./pack-names";
import type { RoundEvidence } from "./round-evidence";
import { drawSample } from "./sample";

/** What a pack says of itself. */
export interface PackManifest {
  readonly format: "nomade.pack/1";
  readonly round: RoundEvidence["round"];
  readonly snapshot: RoundEvidence["snapshot"];
  readonly counts: {
    readonly dockets: number;
    readonly signed: number;
    readonly lines: number;
    readonly undecided: number;
    readonly decisions: Readonly<Record<string, number>>;
    readonly findings: number;
    readonly orders: number;
  };
  /** The piece of the record that the pack has: its first entry, the hash before it, and its last. */
  readonly record: { readonly first: number; readonly previousHash: string; readonly last: number; readonly head: string };
  readonly sample: { readonly seed: string; readonly size: number };
  readonly madeAt: string;
  readonly madeBy: string;
}

const jsonLines = (objects: readonly object[]): string => objects.map((object) => `${canonicalJson(object)}\n`).join("");

export function manifestOf(evidence: RoundEvidence): PackManifest {
  const { round, snapshot, dockets, lines, findings, orders, entries, seed, madeAt, madeBy } = evidence;
  return {
    format: "nomade.pack/1",
    round,
    snapshot,
    counts: {
      dockets: dockets.length,
      signed: dockets.filter(({ signedAt }) => signedAt !== undefined).length,
      lines: lines.length,
      undecided: lines.filter(({ decision }) => decision === undefined).length,
      decisions: countDecisions(lines),
      findings: findings.length,
      orders: orders.length,
    },
    record: {
      first: entries[0]?.number ?? 0,
      previousHash: entries[0]?.previousHash ?? "",
      last: entries.at(-1)?.number ?? 0,
      head: entries.at(-1)?.hash ?? "",
    },
    sample: { seed, size: drawnFrom(evidence).length },
    madeAt,
    madeBy,
  };
}

/** The lines that are drawn from: those about somebody's access to places, which can be worked out again from the document alone. */
const drawnFrom = ({ lines }: RoundEvidence): number[] =>
  lines.flatMap(({ line, content }) => (!isDefinition(content) && content.subject.kind !== "credential" ? [line] : []));

/** The lines that are drawn from a round, by their numbers, in their order. */
export const drawnLines = (evidence: RoundEvidence, digest: (text: string) => string): number[] =>
  drawSample(evidence.seed, drawnFrom(evidence), digest).map(({ line }) => line);

/** The sampled lines, each with how its access is worked out again with the command line. */
function sampleOf(evidence: RoundEvidence, digest: (text: string) => string): object[] {
  const byNumber = new Map(evidence.lines.map((line) => [line.line, line]));
  return drawSample(evidence.seed, drawnFrom(evidence), digest).flatMap(({ line, drawnBy }) => {
    const content = byNumber.get(line)?.content;
    if (!content || isDefinition(content)) return [];
    const { cardholder, credential } = content;
    return [
      {
        line,
        drawnBy,
        ...(cardholder !== undefined ? { cardholder } : { credential }),
        doors: content.hours.map(({ doors, words, week }) => ({ doors: doors.map(({ id }) => id), words, week })),
      },
    ];
  });
}

/** The files of a pack that machines read, by their names; `digest` gives SHA-256 in hexadecimal. */
export function packTexts(evidence: RoundEvidence, digest: (text: string) => string): Map<string, string> {
  const { document, intakes, dockets, signedTexts, lines, comments, findings, orders, checks, settings, trials, entries } = evidence;
  const files = new Map<string, string>([
    [packNames.manifest, `${canonicalJson(manifestOf(evidence))}\n`],
    [packNames.document, document],
    [packNames.intakes, `${canonicalJson(intakes)}\n`],
    [packNames.dockets, jsonLines(dockets)],
    [packNames.lines, jsonLines(lines)],
    [packNames.comments, jsonLines(comments)],
    [packNames.findings, jsonLines(findings)],
    [packNames.orders, jsonLines(orders)],
    [packNames.checks, jsonLines(checks)],
    [packNames.settings, `${canonicalJson(settings)}\n`],
    [packNames.sample, jsonLines(sampleOf(evidence, digest))],
    [packNames.record, jsonLines(entries)],
    [packNames.oscal, `${canonicalJson(oscalResults(evidence, digest))}\n`],
  ]);
  if (trials) files.set(trialsName, jsonLines(trials));
  for (const [docket, text] of signedTexts) files.set(signedTextName(docket), text);
  return files;
}

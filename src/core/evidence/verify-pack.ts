import { isDescribed } from "../certification/withdrawal/described-change";
import { isDefinition } from "../certification/line-content";
import { linesByHolder } from "../certification/lines-of-register";
import { holderOfLine } from "../certification/holder-of-line";
import { countDecisions } from "../certification/sign-docket";
import { compileFacility } from "../compile/compile-facility";
import { canonicalJson } from "../facility/canonical-json";
import { checkFacility } from "../facility/check-facility";
import type { FacilityDocument } from "../facility/document";
import { withAllLists } from "../facility/facility";
import { noEvents } from "../findings/use";
import { entryText, headText } from "./chain";
import type { PackManifest } from "./pack-files";
import { packTexts } from "./pack-files";
import { parseInstant } from "../time/instant";
import { runTrial } from "./trials";
import { packNames, readSums, signedTextName, stampNames, trialsName } from "./pack-names";
import type {
  CheckEvidence,
  DocketEvidence,
  EntryEvidence,
  FindingEvidence,
  IntakeEvidence,
  LineEvidence,
  OrderEvidence,
  RoundEvidence,
} from "./round-evidence";

/** What of a pack is looked at, one after the other. */
export const packChecks = ["files", "document", "record", "signatures", "decisions", "orders", "findings", "machine-files", "sample", "time-stamp"] as const;
export type PackCheckKind = (typeof packChecks)[number];

/** Why something of a pack does not hold. `at` names the file, docket, line or entry. */
export interface PackProblem {
  readonly code:
    | "missing"
    | "unknown-file"
    | "unreadable"
    | "altered"
    | "hash"
    | "previous-hash"
    | "number"
    | "values"
    | "head"
    | "not-signed-text"
    | "not-recorded"
    | "otherwise-decided"
    | "otherwise-recorded"
    | "not-withdrawn"
    | "unknown-finding"
    | "otherwise-worked-out"
    | "other-sample"
    | "unstamped"
    | "stamped-before";
  readonly at: string;
}

/** How many things of a kind were looked at, and the first of them that does not hold. */
export interface PackCheck {
  readonly what: PackCheckKind;
  readonly count: number;
  readonly problem?: PackProblem;
}

export interface PackVerification {
  readonly sound: boolean;
  readonly checks: readonly PackCheck[];
  /** SHA-256 of `SHA256SUMS`, which the record has too: whoever wrote a pack anew wrote another one. */
  readonly packHash: string;
  readonly manifest: PackManifest | undefined;
}

/** The parts of a pack's time stamp, which the caller checks; undefined where the pack has none. */
export function stampOfPack(
  files: ReadonlyMap<string, Uint8Array>,
): { readonly text: string; readonly response: Uint8Array; readonly certificates: string } | undefined {
  const [head, response, certificates] = [stampNames.head, stampNames.response, stampNames.certificates].map((name) => files.get(name));
  if (!head || !response || !certificates) return undefined;
  return { text: new TextDecoder().decode(head), response, certificates: new TextDecoder().decode(certificates) };
}

/** What became of checking it: the authority's time, an ISO text of UTC, or undefined where it does not hold. */
export interface StampOfPack {
  readonly at: string | undefined;
}

/** SHA-256 in hexadecimal, of a text's UTF-8 or of bytes. */
export interface Digests {
  readonly text: (text: string) => string;
  readonly bytes: (bytes: Uint8Array) => string;
}

class Unreadable extends Error {
  constructor(readonly file: string) {
    super(file);
  }
}

/** The files of a pack as texts and objects; whoever asks for one that cannot be read is told so. */
class PackReader {
  constructor(private readonly files: ReadonlyMap<string, Uint8Array>) {}

  has(name: string): boolean {
    return this.files.has(name);
  }

  text(name: string): string {
    const bytes = this.files.get(name);
    if (!bytes) throw new Unreadable(name);
    try {
      return new TextDecoder("utf-8", { fatal: true, ignoreBOM: true }).decode(bytes);
    } catch {
      throw new Unreadable(name);
    }
  }

  object<T>(name: string): T {
    try {
      return JSON.parse(this.text(name)) as T;
    } catch (error) {
      throw error instanceof Unreadable ? error : new Unreadable(name);
    }
  }

  objects<T>(name: string): T[] {
    return this.text(name)
      .split("\n")
      .filter((line) => line !== "")
      .map((line) => {
        try {
          return JSON.parse(line) as T;
        } catch {
          throw new Unreadable(name);
        }
      });
  }
}

/** Fields of a value that was recorded. */
const fieldsOf = (value: unknown): Readonly<Record<string, unknown>> => (typeof value === "object" && value !== null ? (value as Record<string, unknown>) : {});

const afterOf = ({ content }: EntryEvidence): Readonly<Record<string, unknown>> =>
  content === undefined ? {} : fieldsOf(fieldsOf(JSON.parse(content) as unknown).after);

type Finding = PackProblem | undefined;

function checkFiles(files: ReadonlyMap<string, Uint8Array>, digests: Digests): PackCheck {
  const count = files.size;
  const fail = (code: PackProblem["code"], at: string): PackCheck => ({ what: "files", count, problem: { code, at } });
  const reader = new PackReader(files);
  if (!files.has(packNames.sums)) return fail("missing", packNames.sums);
  const sums = readSums(reader.text(packNames.sums));
  if (!sums) return fail("unreadable", packNames.sums);
  for (const [name, sum] of sums) {
    const bytes = files.get(name);
    if (!bytes) return fail("missing", name);
    if (digests.bytes(bytes) !== sum) return fail("altered", name);
  }
  const { sums: _, ...named } = packNames;
  for (const name of Object.values(named)) if (!sums.has(name)) return fail("missing", name);
  for (const name of files.keys()) if (name !== packNames.sums && !sums.has(name)) return fail("unknown-file", name);
  return { what: "files", count };
}

function brokenEntry(entries: readonly EntryEvidence[], { record }: PackManifest, digest: Digests["text"]): Finding {
  let [number, previous] = [record.first, record.previousHash];
  for (const entry of entries) {
    const at = `entry ${entry.number}`;
    if (entry.number !== number) return { code: "number", at: `entry ${number}` };
    if (entry.previousHash !== previous) return { code: "previous-hash", at };
    if (digest(entryText(entry)) !== entry.hash) return { code: "hash", at };
    if (entry.content !== undefined && digest(entry.content) !== entry.valuesHash) return { code: "values", at };
    number++;
    previous = entry.hash;
  }
  return previous === record.head && number === record.last + 1 ? undefined : { code: "head", at: `entry ${record.last}` };
}

/** The last entry of a kind on something. */
const lastEntry = (entries: readonly EntryEvidence[], what: string): ReadonlyMap<string, EntryEvidence> =>
  new Map(entries.filter((entry) => entry.what === what).map((entry) => [entry.on, entry]));

function brokenSignature(pack: Pack, reader: PackReader, digest: Digests["text"]): Finding {
  const signed = lastEntry(pack.entries, "docket.signed");
  for (const { docket, hash, signedAt, statement } of pack.dockets) {
    const at = `docket ${docket}`;
    const entry = signed.get(at);
    if (signedAt === undefined) {
      if (entry) return { code: "otherwise-recorded", at };
      continue;
    }
    const text = reader.text(signedTextName(docket));
    if (digest(text) !== hash) return { code: "not-signed-text", at };
    if (!entry) return { code: "not-recorded", at };
    const after = afterOf(entry);
    if (entry.content !== undefined && (after.hash !== hash || after.statement !== statement)) return { code: "otherwise-recorded", at };
  }
  return undefined;
}

interface SignedLine {
  readonly id: number;
  readonly decision?: string;
  readonly reason: string;
  readonly narrowing?: unknown;
  readonly passedTo?: number;
  readonly content: unknown;
}

const decidedText = ({ decision, reason, narrowing, passedTo, content }: Omit<SignedLine, "id">): string =>
  canonicalJson({ decision: decision ?? null, reason, narrowing: narrowing ?? null, passedTo: passedTo ?? null, content });

/** The lines of the pack against those that were signed, and against what the record says of each. */
function brokenDecision(pack: Pack, reader: PackReader): Finding {
  const decided = lastEntry(pack.entries, "line.decided");
  for (const { docket, signedAt, closedAt } of pack.dockets) {
    const own = pack.lines.filter((line) => line.docket === docket);
    if (signedAt !== undefined) {
      const signed = reader.object<{ readonly lines: readonly SignedLine[] }>(signedTextName(docket));
      const texts = new Map(signed.lines.map((line) => [line.id, decidedText(line)]));
      if (texts.size !== own.length) return { code: "otherwise-decided", at: `docket ${docket}` };
      for (const line of own) if (texts.get(line.line) !== decidedText(line)) return { code: "otherwise-decided", at: `line ${line.line}` };
    }
    for (const { line, decision, reason } of own) {
      const entry = decided.get(`line ${line} of docket ${docket}`);
      if (decision === undefined || entry?.content === undefined) {
        if (decision !== undefined && !entry && (signedAt !== undefined || closedAt === undefined)) return { code: "not-recorded", at: `line ${line}` };
        continue;
      }
      const after = afterOf(entry);
      if (after.decision !== decision || after.reason !== reason) return { code: "otherwise-recorded", at: `line ${line}` };
    }
  }
  return undefined;
}

function brokenOrder({ orders, lines }: Pack): Finding {
  const going = new Set(lines.filter(({ decision }) => decision === "withdraw" || decision === "narrow").map(({ line }) => line));
  for (const { order, lines: served, asked } of orders) {
    const at = `order ${order}`;
    if (served.length === 0 || !served.every((line) => going.has(line))) return { code: "not-withdrawn", at };
    if (!isDescribed(asked) && !("ways" in asked) && !("task" in asked)) return { code: "unreadable", at };
  }
  return undefined;
}

/** Every finding that a line tells is among the findings of the pack. */
function unknownFinding({ lines, findings }: Pack): Finding {
  const known = new Set(findings.map(({ fingerprint }) => fingerprint));
  for (const { line, content } of lines)
    for (const { fingerprint } of content.findings) if (!known.has(fingerprint)) return { code: "unknown-finding", at: `line ${line}` };
  return undefined;
}

interface Pack {
  readonly manifest: PackManifest;
  readonly intakes: readonly IntakeEvidence[];
  readonly dockets: readonly DocketEvidence[];
  readonly lines: readonly LineEvidence[];
  readonly findings: readonly FindingEvidence[];
  readonly orders: readonly OrderEvidence[];
  readonly checks: readonly CheckEvidence[];
  readonly comments: RoundEvidence["comments"];
  readonly settings: RoundEvidence["settings"];
  readonly trials: RoundEvidence["trials"];
  readonly entries: readonly EntryEvidence[];
  readonly document: string;
}

function readPack(reader: PackReader): Pack {
  return {
    manifest: reader.object(packNames.manifest),
    intakes: reader.object(packNames.intakes),
    dockets: reader.objects(packNames.dockets),
    lines: reader.objects(packNames.lines),
    findings: reader.objects(packNames.findings),
    orders: reader.objects(packNames.orders),
    checks: reader.objects(packNames.checks),
    comments: reader.objects(packNames.comments),
    settings: reader.object(packNames.settings),
    trials: reader.has(trialsName) ? reader.objects(trialsName) : undefined,
    entries: reader.objects(packNames.record),
    document: reader.text(packNames.document),
  };
}

/** The files that are made from others, made anew: counts, sample and assessment results cannot say anything else. */
function otherwiseMade(pack: Pack, reader: PackReader, digest: Digests["text"]): Finding {
  const { manifest, ...rest } = pack;
  const signedTexts = new Map(
    pack.dockets.flatMap(({ docket, signedAt }) => (signedAt === undefined ? [] : [[docket, reader.text(signedTextName(docket))] as const])),
  );
  const evidence: RoundEvidence = {
    ...rest,
    round: manifest.round,
    snapshot: manifest.snapshot,
    signedTexts,
    madeAt: manifest.madeAt,
    madeBy: manifest.madeBy,
    seed: manifest.sample.seed,
  };
  for (const [name, text] of packTexts(evidence, digest))
    if (reader.text(name) !== text) return { code: name === packNames.sample ? "other-sample" : "otherwise-worked-out", at: name };
  return undefined;
}

/** What the sampled lines say of access, worked out again from the document of the pack. */
function otherwiseOpened(pack: Pack, reader: PackReader): { readonly count: number; readonly problem: Finding } {
  const checked = checkFacility(withAllLists(JSON.parse(pack.document) as FacilityDocument));
  if (!checked.ok) return { count: 0, problem: { code: "unreadable", at: packNames.document } };
  const compiled = compileFacility(checked.value.facility);
  const { placeOf, lines: linesOf } = linesByHolder(compiled, []);
  const byNumber = new Map(pack.lines.map((line) => [line.line, line]));
  const sample = reader.objects<{ readonly line: number }>(packNames.sample);
  for (const { line } of sample) {
    const content = byNumber.get(line)?.content;
    const at = `line ${line}`;
    if (!content || isDefinition(content)) return { count: sample.length, problem: { code: "other-sample", at } };
    const place = placeOf(holderOfLine(content));
    const again =
      place === undefined
        ? undefined
        : linesOf(place, place + 1, noEvents).find(({ subject }) => subject.kind === content.subject.kind && subject.id === content.subject.id);
    const said = ({ hours, override }: Pick<typeof content, "hours" | "override">): string =>
      canonicalJson([hours.map(({ doors, words, week }) => [doors.map(({ id }) => id), words, week]), override]);
    if (!again || said(again) !== said(content)) return { count: sample.length, problem: { code: "otherwise-worked-out", at } };
  }
  for (const { trial, verdict, reason, isFree, isAsExpected, ...tried } of pack.trials ?? []) {
    if (typeof tried.at !== "string" || !parseInstant(tried.at)) return { count: sample.length, problem: { code: "unreadable", at: trialsName } };
    const again = runTrial(compiled, tried);
    if (again.verdict !== verdict || again.reason !== reason || again.isFree !== isFree || again.isAsExpected !== isAsExpected)
      return { count: sample.length, problem: { code: "otherwise-worked-out", at: `trial ${trial}` } };
  }
  return { count: sample.length, problem: undefined };
}

/** An authority's clock may differ from that of the installation by so much. */
const clocksDifferMs = 300_000;

function brokenStamp({ entries }: Pack, reader: PackReader, stamp: StampOfPack | undefined): Finding {
  const at = stampNames.head;
  for (const name of Object.values(stampNames)) if (!reader.has(name)) return { code: "missing", at: name };
  const text = reader.text(at);
  const entry = entries.find((one) => headText(one) === text);
  if (!entry) return { code: "not-recorded", at };
  if (stamp?.at === undefined) return { code: "unstamped", at: stampNames.response };
  return Date.parse(stamp.at) + clocksDifferMs < Date.parse(entry.at) ? { code: "stamped-before", at: `entry ${entry.number}` } : undefined;
}

/**
 * Looks at everything of a pack that can be told from it alone: its files against their sums, the document against the snapshot's hash, the chain, each
 * signature against its text, the record and the lines, orders against decisions, what is made from other files, and the access of the sampled lines. Says of
 * each kind how much there is, and the first that does not hold. A pack that somebody wrote anew as a whole is told by its hash alone.
 */
export function verifyPack(files: ReadonlyMap<string, Uint8Array>, digests: Digests, stamp?: StampOfPack): PackVerification {
  const reader = new PackReader(files);
  const checks: PackCheck[] = [checkFiles(files, digests)];
  const sums = files.get(packNames.sums);
  const packHash = sums ? digests.bytes(sums) : "";
  let pack: Pack | undefined;
  const check = (what: PackCheckKind, look: (of: Pack) => { readonly count: number; readonly problem: Finding }): void => {
    try {
      pack ??= readPack(reader);
      const { count, problem } = look(pack);
      checks.push({ what, count, ...(problem && { problem }) });
    } catch (error) {
      // What the files hold is somebody else's: whatever is missing or of another shape in it makes the file unreadable.
      checks.push({ what, count: 0, problem: { code: "unreadable", at: error instanceof Unreadable ? error.file : what } });
    }
  };
  check("document", ({ document, manifest }) => ({
    count: 1,
    problem: digests.text(document) === manifest.snapshot.hash ? undefined : { code: "altered", at: packNames.document },
  }));
  check("record", ({ entries, manifest }) => ({ count: entries.length, problem: brokenEntry(entries, manifest, digests.text) }));
  check("signatures", (of) => ({
    count: of.dockets.filter(({ signedAt }) => signedAt !== undefined).length,
    problem: brokenSignature(of, reader, digests.text),
  }));
  check("decisions", (of) => ({ count: of.lines.length, problem: brokenDecision(of, reader) }));
  check("orders", (of) => ({ count: of.orders.length, problem: brokenOrder(of) }));
  check("findings", (of) => ({ count: of.findings.length, problem: unknownFinding(of) }));
  check("machine-files", (of) => {
    const isCounted = canonicalJson(of.manifest.counts.decisions) === canonicalJson(countDecisions(of.lines));
    return { count: 3, problem: isCounted ? otherwiseMade(of, reader, digests.text) : { code: "otherwise-worked-out", at: packNames.manifest } };
  });
  check("sample", (of) => otherwiseOpened(of, reader));
  const stampFiles = Object.values(stampNames).filter((name) => files.has(name));
  check("time-stamp", (of) => ({ count: stampFiles.length === 0 ? 0 : 1, problem: stampFiles.length === 0 ? undefined : brokenStamp(of, reader, stamp) }));
  return { sound: checks.every(({ problem }) => !problem), checks, packHash, manifest: pack?.manifest };
}

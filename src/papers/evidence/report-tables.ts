import { isDefinition } from "@/core/certification/line-content";
import type { WishState } from "@/core/certification/wish-state";
import { stateOfWish } from "@/core/certification/wish-state";
import type { FacilityDocument } from "@/core/facility/document";
import { groupBy } from "@/core/kernel/compare";
import type { DocketEvidence, LineEvidence, RoundEvidence } from "@/core/evidence/round-evidence";
import { changeWords } from "@/features/words/changes";
import { checkWords, stateWords, wishWords } from "@/features/words/closing";
import { english } from "@/features/words/docket/english";
import { englishDefinitions } from "@/features/words/docket/english-definitions";
import { certifierWords } from "@/features/words/holders";
import { holderOrKind, subjectWords } from "@/features/words/line-subjects";
import { capital } from "@/features/words/numbers";
import { clockText, momentWords } from "@/features/words/times";

/** A table of the report. Cells are texts; those of `cut` more rows were left out. */
export interface ReportTable {
  readonly columns: readonly string[];
  readonly rows: readonly (readonly string[])[];
  readonly cut?: number;
}

const cutTo = (columns: readonly string[], rows: readonly (readonly string[])[], most: number): ReportTable => ({
  columns,
  rows: rows.slice(0, most),
  ...(rows.length > most && { cut: rows.length - most }),
});

/** So many rows of one kind stand in the report; all of them stand in the tables of the pack. */
const rowsShown = 300;

const day = (at: string): string => clockText(at).split(",")[0] ?? at;

export interface RoundCounts {
  readonly lines: number;
  readonly definitions: number;
  readonly undecided: number;
  readonly kept: number;
  readonly narrowed: number;
  readonly withdrawn: number;
  readonly passedOn: number;
  readonly flagged: number;
  readonly keptFlagged: number;
  readonly signed: number;
  readonly closedUnsigned: number;
}

export function countsOf({ lines, dockets }: RoundEvidence): RoundCounts {
  const count = (is: (line: LineEvidence) => boolean): number => lines.filter(is).length;
  return {
    lines: lines.length,
    definitions: count(({ content }) => isDefinition(content)),
    undecided: count(({ decision }) => decision === undefined),
    kept: count(({ decision }) => decision === "keep"),
    narrowed: count(({ decision }) => decision === "narrow"),
    withdrawn: count(({ decision }) => decision === "withdraw"),
    passedOn: count(({ decision }) => decision === "pass-on"),
    flagged: count(({ flagged }) => flagged),
    keptFlagged: count(({ flagged, decision }) => flagged && decision === "keep"),
    signed: dockets.filter(({ signedAt }) => signedAt !== undefined).length,
    closedUnsigned: dockets.filter(({ signedAt, closedAt }) => signedAt === undefined && closedAt !== undefined).length,
  };
}

/** Lines by department, those that were passed on counted where they were decided. */
export function departmentsTable({ lines }: RoundEvidence): ReportTable {
  const nameOf = ({ content, department }: LineEvidence): string => (isDefinition(content) ? "definitions" : (department ?? "no department"));
  const byName = groupBy(
    lines.filter(({ decision }) => decision !== "pass-on"),
    nameOf,
  );
  const rows = [...byName].map(([name, own]) => {
    const gone = own.filter(({ decision }) => decision === "withdraw" || decision === "narrow").length;
    const open = own.filter(({ decision }) => decision === undefined).length;
    return [name, String(own.length - gone - open), String(gone), String(open)];
  });
  rows.sort((a, b) => Number(b[1]) + Number(b[2]) + Number(b[3]) - Number(a[1]) - Number(a[2]) - Number(a[3]));
  return cutTo(["Department", "stays", "withdrawn, narrowed or to be changed", "undecided"], rows, 24);
}

/** What is to go, what was ordered for it, and what the latest intake that was asked says of it. */
export function wishesTable({ lines, orders, checks }: RoundEvidence): ReportTable {
  const latest = new Map(checks.map((check) => [check.line, check]));
  const standing = orders.filter(({ cancelledAt }) => cancelledAt === undefined);
  const rows = lines
    .filter(({ decision }) => decision === "withdraw" || decision === "narrow")
    .map((line) => {
      const own = standing.filter((order) => order.lines.includes(line.line));
      const check = latest.get(line.line);
      const sent = own.map(({ sentAt }) => sentAt ?? "");
      const state: WishState | undefined =
        own.length === 0
          ? undefined
          : stateOfWish({ sentAt: sent.every((at) => at !== "") ? sent.reduce((a, b) => (a > b ? a : b), "") : undefined, found: check?.found });
      return [
        holderOrKind(line.holderName, line.content.subject),
        wishWords({ decision: line.decision, subject: line.content.subject, narrowing: line.narrowing }),
        own
          .map(
            ({ asked, names, order, ticket }) => `${capital(changeWords(asked, names))} (order ${order}${ticket === undefined ? "" : `, ticket ${ticket}`}).`,
          )
          .join(" ") || "No order.",
        state === undefined ? "" : `${stateWords[state]}. ${check ? checkWords(check) : ""}`,
      ];
    });
  return cutTo(["Who", "What goes", "Ordered", "State"], rows, rowsShown);
}

/** Lines that were kept although something speaks against them, with the reasons given. */
export function keptFlaggedTable({ lines, dockets, snapshot }: RoundEvidence): ReportTable {
  const certifiers = new Map(dockets.map((docket) => [docket.docket, certifierWords(docket.certifierName)]));
  const rows = lines
    .filter(({ flagged, decision }) => flagged && decision === "keep")
    .map(({ docket, holderName, content, reason }) => [
      holderOrKind(holderName, content.subject),
      subjectWords(content.subject),
      content.findings
        .map((finding) =>
          isDefinition(content) ? englishDefinitions.finding(content, finding, snapshot.timeZone) : english.finding(finding, snapshot.timeZone),
        )
        .join(" "),
      reason,
      certifiers.get(docket) ?? "",
    ]);
  return cutTo(["Who", "What", "What speaks against it", "Reason given", "Kept by"], rows, rowsShown);
}

/** Below this many seconds a line, a docket was not read. */
const hastySeconds = 2;

function paceOf(docket: DocketEvidence, lines: readonly LineEvidence[]): { readonly words: string; readonly isHasty: boolean } {
  const decided = lines.filter((line) => line.docket === docket.docket && line.decision !== undefined).length;
  const { firstDecidedAt, lastDecidedAt, closedAt } = docket;
  if (closedAt !== undefined || firstDecidedAt === undefined || lastDecidedAt === undefined || decided < 2) return { words: "", isHasty: false };
  const seconds = Math.round((Date.parse(lastDecidedAt) - Date.parse(firstDecidedAt)) / 1000);
  return { words: seconds < 120 ? `${decided} in ${seconds} s` : `${decided} in ${Math.round(seconds / 60)} min`, isHasty: seconds / decided < hastySeconds };
}

/** Dockets that nobody signed, and those that were decided faster than they can be read. */
export function unsoundDocketsTable(evidence: RoundEvidence): ReportTable {
  const rows = evidence.dockets.flatMap((docket) => {
    const pace = paceOf(docket, evidence.lines);
    const undecided = evidence.lines.filter(({ docket: of, decision }) => of === docket.docket && decision === undefined).length;
    const why = [
      ...(docket.signedAt === undefined ? [docket.closedAt === undefined ? "not signed" : "closed without a signature"] : []),
      ...(undecided > 0 ? [`${undecided} lines undecided`] : []),
      ...(pace.isHasty ? [`decided faster than reading: ${pace.words}`] : []),
    ];
    return why.length === 0 ? [] : [[String(docket.docket), certifierWords(docket.certifierName), why.join("; ")]];
  });
  return cutTo(["Docket", "Certifier", "What"], rows, rowsShown);
}

/** Each docket with its signature. */
export function signaturesTable({ dockets, lines }: RoundEvidence): ReportTable {
  const counts = new Map<number, number>();
  for (const { docket } of lines) counts.set(docket, (counts.get(docket) ?? 0) + 1);
  const rows = dockets.map((docket) => [
    `${docket.docket}${docket.corrects === undefined ? "" : `, corrects ${docket.corrects}`}`,
    certifierWords(docket.certifierName),
    String(counts.get(docket.docket) ?? 0),
    docket.signedAt === undefined
      ? docket.closedAt === undefined
        ? "not signed"
        : `closed on ${day(docket.closedAt)} without a signature`
      : `${docket.signedBy?.name ?? ""}, ${clockText(docket.signedAt)}: ${docket.statement ?? ""}`,
    docket.hash ?? "",
  ]);
  return cutTo(["Docket", "Certifier", "Lines", "Signature", "SHA-256 of what was signed"], rows, rowsShown);
}

/** Each file of the intakes behind the round: whether what came is what was stored. */
export function completenessTable({ intakes }: RoundEvidence): ReportTable {
  const rows = intakes.flatMap((intake) =>
    (intake.files.length > 0 ? intake.files : [undefined]).map((file) => [
      `${intake.snapshot}, ${day(intake.takenAt)}`,
      `${intake.source === "" ? "no source named" : intake.source}, by ${intake.takenBy}`,
      file?.name ?? "–",
      file?.rows === undefined ? "–" : String(file.rows),
      String(file?.leftOut ?? intake.leftOut),
      file?.stated === undefined
        ? "not stated"
        : file.stated === (file.rows ?? 0) + file.leftOut
          ? `${file.stated}, reconciles`
          : `${file.stated}, does not reconcile`,
      file?.hash ?? "",
    ]),
  );
  return cutTo(["Snapshot", "Source", "File", "Rows", "Left out", "Rows stated", "SHA-256 of the file"], rows, rowsShown);
}

/** The sampled lines: for an auditor to examine again. */
export function sampleTable({ lines }: RoundEvidence, sample: readonly number[]): ReportTable {
  const byNumber = new Map(lines.map((line) => [line.line, line]));
  const rows = sample.flatMap((number) => {
    const line = byNumber.get(number);
    if (!line || isDefinition(line.content)) return [];
    return [[String(number), line.holderName, line.content.subject.name, line.content.hours.map((hours) => english.hours(hours)).join(" ")]];
  });
  return { columns: ["Line", "Who", "What", "When, as it was signed"], rows };
}

/** What undecided lines count as, who certified, and what the round covered, in words. */
export function termsWords({ round: { terms, due }, document }: RoundEvidence): string[] {
  const { scope, by, undecided } = terms;
  const facility = JSON.parse(document) as FacilityDocument;
  const named = (list: "sites" | "areas" | "groups", ids: readonly string[]): string =>
    ids.map((id) => facility[list]?.find((one) => one.id === id)?.name ?? id).join(", ");
  const covered = [
    ...(scope.about ? [`the ${scope.about.kind} ${scope.about.id} alone`] : []),
    ...(scope.sites ? [`the sites ${named("sites", scope.sites)}`] : []),
    ...(scope.areas ? [`the areas ${named("areas", scope.areas)} with those below`] : []),
    ...(scope.departments ? [`the departments ${named("groups", scope.departments)} with those below`] : []),
    ...(scope.types ? [`people of type ${scope.types.join(", ")}`] : []),
    ...(scope.sensitivity === undefined ? [] : [`places of sensitivity ${scope.sensitivity} and more`]),
    ...(scope.only === "findings" ? ["only lines with findings"] : scope.only === "changed" ? ["only what changed since the last round"] : []),
  ];
  return [
    `It covered ${covered.length === 0 ? "everything" : covered.join("; ")}${scope.definitions === "only" ? ", definitions alone" : scope.definitions === "too" ? ", definitions too" : ""}.`,
    `Certified by ${by === "manager" ? "the cardholder’s manager" : by === "owner" ? "the area’s owner" : "manager and owner, withdrawing wins"}; due ${momentWords(due)}; undecided lines count as ${undecided === "keep" ? "kept" : "withdrawn"}.`,
  ];
}

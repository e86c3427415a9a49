import { createRequire } from "node:module";
import path from "node:path";
import type { Content, TableCell, TDocumentDefinitions } from "pdfmake/interfaces";
import { drawnLines } from "@/core/evidence/pack-files";
import { packNames } from "@/core/evidence/pack-names";
import type { RoundEvidence } from "@/core/evidence/round-evidence";
import { plural, capital } from "@/features/words/numbers";
import { clockText, momentWords } from "@/features/words/times";
import { barChart } from "./charts";
import type { ReportTable } from "./report-tables";
import {
  completenessTable,
  countsOf,
  departmentsTable,
  keptFlaggedTable,
  sampleTable,
  signaturesTable,
  termsWords,
  unsoundDocketsTable,
  wishesTable,
} from "./report-tables";

const ink = { text: "#22252b", soft: "#5d6068", rule: "#ddd6c8", accent: "#34418f", grave: "#8d2438" } as const;

/** The faces come with the application; nothing else is read from the disk or from outside. */
function faces() {
  const folder = path.dirname(createRequire(path.join(process.cwd(), "package.json")).resolve("@expo-google-fonts/source-sans-3/package.json"));
  const face = (name: string): string => path.join(folder, name, `SourceSans3_${name}.ttf`);
  return {
    folder,
    fonts: { Sans: { normal: face("400Regular"), bold: face("600SemiBold"), italics: face("400Regular_Italic"), bolditalics: face("600SemiBold_Italic") } },
  };
}

const heading = (text: string): Content => ({ text, style: "heading", headlineLevel: 1 });
const paragraph = (text: string): Content => ({ text, margin: [0, 0, 0, 6] });

function tableOf({ columns, rows, cut }: ReportTable, widths: readonly (string | number)[], where: string): Content[] {
  if (rows.length === 0) return [{ text: "None.", color: ink.soft, margin: [0, 0, 0, 6] }];
  const cells = rows.map((row) =>
    row.map((text): TableCell => (/^[0-9a-f]{64}$/.test(text) ? { text: text.replace(/(.{16})/g, "$1 ").trim(), fontSize: 6.5, color: ink.soft } : text)),
  );
  return [
    {
      table: { headerRows: 1, dontBreakRows: true, widths: [...widths], body: [columns.map((text): TableCell => ({ text, color: ink.soft })), ...cells] },
      layout: {
        hLineWidth: (i: number) => (i === 0 ? 0 : i === 1 ? 0.8 : 0.4),
        vLineWidth: () => 0,
        hLineColor: (i: number) => (i === 1 ? ink.text : ink.rule),
        paddingLeft: () => 0,
        paddingRight: () => 8,
        paddingTop: () => 3,
        paddingBottom: () => 3,
      },
      fontSize: 8.5,
      margin: [0, 2, 0, 8],
    },
    ...(cut === undefined
      ? []
      : [{ text: `And ${cut.toLocaleString("en-GB")} more, in ${where}.`, color: ink.soft, margin: [0, 0, 0, 8] as [number, number, number, number] }]),
  ];
}

function summaryOf(evidence: RoundEvidence): string[] {
  const { round, dockets, intakes } = evidence;
  const counts = countsOf(evidence);
  const one = (n: number, single: string, several: string): string => capital(plural(n, single, several));
  return [
    `${one(counts.lines, "line was", "lines were")} put before ${plural(dockets.length, "certifier", "certifiers")}${counts.definitions > 0 ? `, ${plural(counts.definitions, "of them about a definition", "of them about definitions")}` : ""}; ${plural(counts.signed, "docket is", "dockets are")} signed${counts.closedUnsigned > 0 ? `, ${plural(counts.closedUnsigned, "was", "were")} closed without a signature` : ""}.`,
    `${[
      one(counts.kept, "line stays", "lines stay"),
      ...(counts.narrowed > 0 ? [plural(counts.narrowed, "stays in part", "stay in part")] : []),
      plural(counts.withdrawn, "is withdrawn or to be changed", "are withdrawn or to be changed"),
      ...(counts.passedOn > 0 ? [plural(counts.passedOn, "was passed on", "were passed on")] : []),
      ...(counts.undecided > 0 ? [plural(counts.undecided, "is undecided", "are undecided")] : []),
    ].join(", ")}.`,
    `Something speaks against ${plural(counts.flagged, "line", "lines")}; ${plural(counts.keptFlagged, "of these was", "of these were")} kept, with the reasons given below.`,
    ...termsWords(evidence),
    ...(round.closedAt === undefined ? ["The round is still open: this is how it stood when the pack was made."] : []),
    ...(round.closingAsked
      ? [
          `It was closed before all was signed: ${round.closingAsked.by} asked for it on ${clockText(round.closingAsked.at)}, because: “${round.closingAsked.reason}”`,
        ]
      : []),
    ...(evidence.snapshot.leftOut > 0
      ? [`${one(evidence.snapshot.leftOut, "row", "rows")} of the snapshot’s files could not be read; nothing is said of what stood there.`]
      : []),
    ...(intakes.length === 0 ? ["Nothing is known of the intakes behind it."] : []),
  ];
}

const howTo = (evidence: RoundEvidence): string[] => [
  `Everything in this report stands in the other files of the pack. ${packNames.readme} says how each is verified with ordinary tools; in short: sha256sum --check ${packNames.sums} shows that no file was altered; the SHA-256 of ${packNames.document} is that of the snapshot; that of signed/docket-N.json is the hash that the signature of docket N bears.`,
  `The record of the round (${packNames.record}) is a chain: each entry bears the hash of itself and the one before. Its last entry here is ${String(evidence.entries.at(-1)?.number ?? 0)}, with the hash ${evidence.entries.at(-1)?.hash ?? ""}.`,
  "Whoever wrote a whole pack anew could make all of this fit. What they cannot make fit is what stands outside: the hash of SHA256SUMS is in the record of the installation, and the heads of that record stand beside its database, in its backups and in the mails that went out at each signature.",
  "npm run --silent nomade -- verify PACK.zip does all of this at once, and works the sampled lines out again, without a database.",
];

function definitionOf(evidence: RoundEvidence, digest: (text: string) => string): TDocumentDefinitions {
  const { round, snapshot, madeAt, madeBy, seed } = evidence;
  const departments = departmentsTable(evidence);
  const facts: readonly (readonly [string, string])[] = [
    ["Facility", snapshot.facilityName],
    [
      "Round",
      `${round.id}, opened ${clockText(round.openedAt)}${round.closedAt === undefined ? ", still open" : `, closed ${clockText(round.closedAt)}`}, due ${momentWords(round.due)}`,
    ],
    ["Snapshot", `${snapshot.id}, exported ${snapshot.asOf}, dates read in ${snapshot.timeZone}`],
    ["SHA-256 of the snapshot", snapshot.hash],
    ["This pack", `made ${clockText(madeAt)} by ${madeBy}`],
  ];
  return {
    pageSize: "A4",
    pageMargins: [48, 56, 48, 56],
    info: { title: `Certification of access: ${round.name}`, creationDate: new Date(madeAt) },
    defaultStyle: { font: "Sans", fontSize: 10, color: ink.text, lineHeight: 1.15 },
    styles: { title: { fontSize: 22, bold: true, margin: [0, 0, 0, 4] }, heading: { fontSize: 14, bold: true, margin: [0, 14, 0, 6] } },
    footer: (page, pages) => ({
      columns: [
        { text: `${round.name} · snapshot ${snapshot.id}`, color: ink.soft },
        { text: `${page} of ${pages}`, alignment: "right", color: ink.soft },
      ],
      fontSize: 8,
      margin: [48, 16, 48, 0],
    }),
    pageBreakBefore: (node, container) => {
      const following = container.getFollowingNodesOnPage();
      return node.headlineLevel === 1 && following.length === 0;
    },
    content: [
      { text: "Certification of access", color: ink.accent, margin: [0, 0, 0, 2] },
      { text: round.name, style: "title" },
      {
        table: { widths: [120, "*"], body: facts.map(([name, value]): TableCell[] => [{ text: name, color: ink.soft }, value]) },
        layout: "noBorders",
        margin: [0, 6, 0, 4],
      },
      heading("Summary"),
      ...summaryOf(evidence).map(paragraph),
      heading("Lines by department"),
      ...(departments.rows.length > 0 ? [{ svg: barChart(departments), width: 500 } as Content] : []),
      ...tableOf(departments, ["*", 60, 160, 60], packNames.linesTable),
      heading("What goes, and what became of it"),
      ...tableOf(wishesTable(evidence), [80, 90, "*", 130], packNames.ordersTable),
      heading("Exceptions: dockets"),
      ...tableOf(unsoundDocketsTable(evidence), [50, 140, "*"], packNames.dockets),
      heading("Exceptions: kept although something speaks against it"),
      ...tableOf(keptFlaggedTable(evidence), [70, 80, "*", 110, 70], packNames.linesTable),
      heading("Completeness of the intakes"),
      ...tableOf(completenessTable(evidence), [58, 70, "*", 34, 34, 60, 110], packNames.intakes),
      heading("Dockets and signatures"),
      ...tableOf(signaturesTable(evidence), [42, 80, 30, "*", 110], packNames.dockets),
      heading("Sample"),
      paragraph(
        `Drawn with the seed ${seed}: the lines of which the SHA-256 of “${seed}:line” comes first. For an auditor to examine again, from ${packNames.document} alone.`,
      ),
      ...tableOf(sampleTable(evidence, drawnLines(evidence, digest)), [40, 100, 110, "*"], packNames.sample),
      heading("How to verify this"),
      ...howTo(evidence).map(paragraph),
    ],
  };
}

/** The report of a round as PDF. */
export async function roundReport(evidence: RoundEvidence, digest: (text: string) => string): Promise<Uint8Array> {
  const { default: pdfmake } = await import("pdfmake");
  const { folder, fonts } = faces();
  pdfmake.setFonts(fonts);
  pdfmake.setUrlAccessPolicy(() => false);
  pdfmake.setLocalAccessPolicy((file) => path.resolve(file).startsWith(folder));
  return new Uint8Array(await pdfmake.createPdf(definitionOf(evidence, digest)).getBuffer());
}

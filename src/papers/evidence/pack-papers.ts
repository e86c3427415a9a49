import { createHash } from "node:crypto";
import { packNames } from "@/core/evidence/pack-names";
import type { LineEvidence, RoundEvidence } from "@/core/evidence/round-evidence";
import { linesCsv } from "../tables/lines-csv";
import { ordersCsv } from "../tables/orders-csv";
import { howToVerify } from "./how-to-verify";
import { roundReport } from "./report";

const digest = (text: string): string => createHash("sha256").update(text).digest("hex");

/** The files of a pack that people read: the report, the tables, and how to verify each part. */
export async function packPapers(evidence: RoundEvidence, stamped?: number): Promise<ReadonlyMap<string, Uint8Array>> {
  const { lines, dockets, orders, round, snapshot } = evidence;
  const byDocket = new Map(dockets.map((docket) => [docket.docket, docket]));
  const byLine = new Map(lines.map((line) => [line.line, line]));
  const listed = lines.map(({ line, content, ...of }: LineEvidence) => ({
    ...of,
    id: line,
    line: content,
    decision: of.decision,
    narrowing: of.narrowing,
    holder: {
      ...(of.department !== undefined && { department: of.department }),
      ...(of.staffNumber !== undefined && { staffNumber: of.staffNumber }),
    },
    certifierName: byDocket.get(of.docket)?.certifierName,
    signedAt: byDocket.get(of.docket)?.signedAt,
  }));
  const ordered = orders.flatMap(({ order, asked, ...of }) => {
    const line = byLine.get(of.lines[0] ?? -1);
    if (!line) return [];
    return [
      {
        ...of,
        id: order,
        round: round.id,
        described: asked,
        source: of.source,
        due: of.due,
        sentAt: of.sentAt,
        ticket: of.ticket,
        answer: of.answer,
        holderName: line.holderName,
        staffNumber: line.staffNumber ?? "",
        subject: line.content.subject,
        reason: line.reason,
        decidedBy: byDocket.get(line.docket)?.certifierName,
      },
    ];
  });
  const texts: readonly (readonly [string, string])[] = [
    [packNames.readme, howToVerify(evidence, stamped)],
    [packNames.linesTable, linesCsv(listed, snapshot.timeZone)],
    [packNames.ordersTable, ordersCsv(ordered)],
  ];
  const files = new Map(texts.map(([name, text]) => [name, new TextEncoder().encode(text)] as const));
  return new Map([...files, [packNames.report, await roundReport(evidence, digest)]]);
}

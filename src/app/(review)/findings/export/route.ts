import { findingsOfAddress } from "@/features/findings/findings-address";
import { findingColumns, findingLine, findingRow } from "@/features/findings/findings-table";
import { asking, nomade } from "@/wiring/nomade";
import { refuse, route } from "@/wiring/web/route";
import { csvFile, workbookType, xlsxFile } from "@/wiring/web/table-file";

const types = {
  csv: "text/csv; charset=utf-8",
  xlsx: workbookType,
  jsonl: "application/jsonl; charset=utf-8",
} as const;

/** The findings that an address asks for, as a file. */
export const GET = route("read-findings", async (account, request) => {
  const { form = "csv", ...query } = Object.fromEntries(new URL(request.url).searchParams);
  if (!(form === "csv" || form === "xlsx" || form === "jsonl")) return refuse("They come as csv, xlsx or jsonl.", 400);
  const { asked, notUnderstood } = findingsOfAddress(query);
  if (notUnderstood.length > 0) return refuse(`Not understood in this address: ${notUnderstood.join(", ")}.`, 400);
  const { past, ...of } = asked;
  const snapshot = await nomade.snapshotWithFindings(account, past);
  const exported = snapshot && (await asking.exportFindings(account, snapshot.id, of));
  if (!exported) return refuse("There is no such snapshot.", 404);
  if (exported.outcome === "too-many")
    return refuse(`There are ${exported.total.toLocaleString("en-GB")} of these, more than are handed out at once. Choose a rule, an area or a manager.`, 413);
  const { findings } = exported;
  await nomade.noteExport(account, { what: "findings", on: `snapshot ${snapshot.id}`, query: new URL(request.url).search });
  const rows = () => findings.map((finding) => findingRow(finding, snapshot.timeZone));
  const table = { title: `Findings of snapshot ${snapshot.id}`, columns: findingColumns };
  const body =
    form === "jsonl"
      ? findings.map((finding) => `${findingLine(finding)}\n`).join("")
      : form === "csv"
        ? csvFile({ ...table, rows: rows() })
        : new Uint8Array(xlsxFile({ ...table, rows: rows() }));
  return new Response(body, {
    headers: { "content-type": types[form], "content-disposition": `attachment; filename="nomade-findings-${snapshot.id}.${form}"` },
  });
});

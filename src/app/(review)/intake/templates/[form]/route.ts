import { nomade } from "@/wiring/nomade";
import { refuse, route } from "@/wiring/web/route";

const types = { xlsx: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", csv: "application/zip" } as const;

/** The tables of the documentation, each with one example row: a workbook, or a ZIP of CSV files. */
export const GET = route<{ form: string }>("take-in", async (account, _request, { form }) => {
  if (form !== "xlsx" && form !== "csv") return refuse("There is no such template; expected xlsx or csv.", 404);
  const bytes = await Promise.resolve(nomade.handOutTemplates(account, form));
  return new Response(new Uint8Array(bytes), {
    headers: { "content-type": types[form], "content-disposition": `attachment; filename="nomade-templates.${form === "xlsx" ? "xlsx" : "zip"}"` },
  });
});

import { longWork, nomade } from "@/wiring/nomade";
import { route } from "@/wiring/web/route";

/** A calendar of the register, the latest or that of a snapshot, as iCalendar. */
export const GET = route<{ kind: string; id: string }>("read-whole", async (account, request, params) => {
  const { kind, id } = params;
  const asked = new URL(request.url).searchParams.get("snapshot");
  const snapshot = asked === null ? undefined : Number(asked);
  const isAsked = kind === "calendar" && (snapshot === undefined || Number.isInteger(snapshot));
  const text = isAsked ? await longWork().exportCalendar(account, snapshot, decodeURIComponent(id)) : undefined;
  if (text === undefined) return Response.json({ error: "There is no such calendar." }, { status: 404 });
  await nomade.noteExport(account, { what: "calendar", on: `calendar ${decodeURIComponent(id)}`, query: new URL(request.url).search });
  return new Response(text, {
    headers: { "content-type": "text/calendar; charset=utf-8", "content-disposition": `attachment; filename="nomade-calendar.ics"` },
  });
});

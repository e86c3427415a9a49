import { nomade } from "@/wiring/nomade";
import { accountForRoute } from "@/wiring/web-session";

/** A calendar of the register, the latest or that of a snapshot, as iCalendar. */
export async function GET(request: Request, { params }: { params: Promise<{ kind: string; id: string }> }): Promise<Response> {
  const account = await accountForRoute("read-register");
  if (account instanceof Response) return account;
  const { kind, id } = await params;
  const asked = new URL(request.url).searchParams.get("snapshot");
  const snapshot = asked === null ? undefined : Number(asked);
  const isAsked = kind === "calendar" && (snapshot === undefined || Number.isInteger(snapshot));
  const text = isAsked ? await nomade.calendarFile(account, snapshot, decodeURIComponent(id)) : undefined;
  if (text === undefined) return Response.json({ error: "There is no such calendar." }, { status: 404 });
  return new Response(text, { headers: { "content-type": "text/calendar; charset=utf-8", "content-disposition": `attachment; filename="nomade-calendar.ics"` } });
}

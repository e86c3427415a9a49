import { nomade } from "@/wiring/nomade";
import { Stopped } from "@/wiring/tasks";
import { dropUpload, keepUpload } from "@/wiring/uploads";
import { accountForRoute } from "@/wiring/web-session";

const refuse = (error: string, status: number): Response => Response.json({ error }, { status });

/** A form of another site must not send files here with the session of who is signed in. */
function comesFromElsewhere(request: Request): boolean {
  const origin = request.headers.get("origin");
  return origin !== null && new URL(origin).host !== request.headers.get("host");
}

export async function POST(request: Request): Promise<Response> {
  const account = await accountForRoute("take-in");
  if (account instanceof Response) return account;
  if (comesFromElsewhere(request)) return refuse("This upload came from another site.", 403);
  const name = decodeURIComponent(request.headers.get("x-file-name") ?? "");
  if (!request.body || !/\.(json|csv|jsonl|ndjson|zip|ics)$/i.test(name)) return refuse(`${name === "" ? "This file" : name} is neither a facility document (.json), nor events (.csv, .jsonl), nor a ZIP of CSV tables (.zip), nor a calendar (.ics).`, 415);
  const file = await keepUpload(request.body, name);
  try {
    const preview = await nomade.previewIntake(account, request.headers.get("x-task") ?? file.token, { path: file.path, name, source: decodeURIComponent(request.headers.get("x-source") ?? ""), mapping: undefined });
    if (preview.kind === "refused" && !name.toLowerCase().endsWith(".zip")) await dropUpload(file);
    return Response.json({ token: file.token, preview });
  } catch (error) {
    await dropUpload(file);
    if (error instanceof Stopped) return refuse("Stopped; nothing was stored.", 409);
    return refuse(`${name} could not be read; nothing was stored. The server’s messages say more.`, 500);
  }
}

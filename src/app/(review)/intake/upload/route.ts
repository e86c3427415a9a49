import { Stopped, TooLarge, waitingUploads, watchedWork } from "@/wiring/nomade";
import { refuse, route } from "@/wiring/web/route";

/** A form of another site must not send files here with the session of who is signed in. */
function comesFromElsewhere(request: Request): boolean {
  const origin = request.headers.get("origin");
  // A page without an address of its own, such as one in a sandbox, says "null".
  return origin !== null && (!URL.canParse(origin) || new URL(origin).host !== request.headers.get("host"));
}

export const POST = route("take-in", async (account, request) => {
  if (comesFromElsewhere(request)) return refuse("This upload came from another site.", 403);
  const name = decodeURIComponent(request.headers.get("x-file-name") ?? "");
  if (!request.body || !/\.(json|csv|jsonl|ndjson|zip|ics)$/i.test(name))
    return refuse(
      `${name === "" ? "This file" : name} is neither a facility document (.json), nor events (.csv, .jsonl), nor a ZIP of CSV tables (.zip), nor a calendar (.ics).`,
      415,
    );
  const source = decodeURIComponent(request.headers.get("x-source") ?? "");
  try {
    const file = await waitingUploads().keep(request.body, name);
    try {
      const preview = await watchedWork(
        account,
        request.headers.get("x-task") ?? file.token,
        (work) => work.previewIntake(account, { path: file.path, name, source, mapping: undefined }),
        request.signal,
      );
      if (preview.kind === "refused" && !name.toLowerCase().endsWith(".zip")) await waitingUploads().drop(file);
      return Response.json({ token: file.token, preview });
    } catch (error) {
      await waitingUploads().drop(file);
      throw error;
    }
  } catch (error) {
    if (error instanceof Stopped) return refuse("Stopped; nothing was stored.", 409);
    if (error instanceof TooLarge) return refuse(error.message, 413);
    console.error(`${name} could not be read:`, error);
    return refuse(`${name} could not be read; nothing was stored. The server’s messages say more.`, 500);
  }
});

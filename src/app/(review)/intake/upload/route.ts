import { Stopped, TooLarge, waitingUploads, watchedWork } from "@/wiring/nomade";
import { refuse, route } from "@/wiring/web/route";
import { comesFromElsewhere } from "@/wiring/web/same-origin";

export const POST = route("take-in", async (account, request) => {
  if (comesFromElsewhere(request)) return refuse("This upload came from another site.", 403);
  const name = decodeURIComponent(request.headers.get("x-file-name") ?? "");
  if (!request.body || name === "") return refuse("There is no file in this request.", 400);
  const source = decodeURIComponent(request.headers.get("x-source") ?? "");
  const batch = request.headers.get("x-batch");
  try {
    const file = await (batch === null
      ? waitingUploads().keep(request.body, name)
      : waitingUploads().keepWith(batch === "new" ? undefined : batch, request.body, name));
    // Of several files all are read together, once the last of them is there.
    if (batch !== null && request.headers.get("x-last") !== "1") return Response.json({ token: file.token });
    try {
      const preview = await watchedWork(
        account,
        request.headers.get("x-task") ?? file.token,
        (work) => work.previewIntake(account, { path: file.path, name: file.name, source, profile: undefined, asOf: undefined }),
        request.signal,
      );
      if (preview.kind === "refused" && preview.isTables !== true) await waitingUploads().drop(file);
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

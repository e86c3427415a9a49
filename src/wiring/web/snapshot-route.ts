import type { Account } from "@/operations/ports/accounts";
import { refuse, route } from "./route";

/** A route handler that hands out a snapshot in some form, as a file whose name ends as given. */
export const snapshotRoute = (write: (account: Account, id: number) => Promise<string | Uint8Array | undefined>, type: string, ending: string) =>
  route<{ id: string }>("read-whole", async (account, _request, params) => {
    const id = Number(params.id);
    const body = Number.isSafeInteger(id) ? await write(account, id) : undefined;
    if (body === undefined) return refuse("There is no such snapshot.", 404);
    return new Response(typeof body === "string" ? body : new Uint8Array(body), {
      headers: { "content-type": type, "content-disposition": `attachment; filename="nomade-snapshot-${id}.${ending}"` },
    });
  });

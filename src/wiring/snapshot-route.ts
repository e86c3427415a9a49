import type { Account } from "@/operations/ports/accounts";
import { accountForRoute } from "./web-session";

interface Params {
  readonly params: Promise<{ id: string }>;
}

/** A route handler that hands out a snapshot in some form, as a file whose name ends as given. */
export const snapshotRoute =
  (write: (account: Account, id: number) => Promise<string | Uint8Array | undefined>, type: string, ending: string) =>
  async (_request: Request, { params }: Params): Promise<Response> => {
    const account = await accountForRoute("read-register");
    if (account instanceof Response) return account;
    const id = Number((await params).id);
    const body = Number.isInteger(id) ? await write(account, id) : undefined;
    if (body === undefined) return Response.json({ error: "There is no such snapshot." }, { status: 404 });
    return new Response(typeof body === "string" ? body : new Uint8Array(body), { headers: { "content-type": type, "content-disposition": `attachment; filename="nomade-snapshot-${id}.${ending}"` } });
  };

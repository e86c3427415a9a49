import type { Snapshot } from "@/operations/ports";
import { nomade } from "./nomade";
import { accountForRoute } from "./web-session";

interface Params {
  readonly params: Promise<{ id: string }>;
}

interface SnapshotFile {
  readonly body: string | Uint8Array<ArrayBuffer>;
  readonly type: string;
  /** What the file's name ends with. */
  readonly ending: string;
}

/** A route handler that hands out the frozen document of a snapshot in some form. */
export const snapshotRoute =
  (write: (text: string, snapshot: Snapshot) => SnapshotFile) =>
  async (_request: Request, { params }: Params): Promise<Response> => {
    const account = await accountForRoute("read-register");
    if (account instanceof Response) return account;
    const id = Number((await params).id);
    const frozen = Number.isInteger(id) ? await nomade.frozenSnapshot(account, id) : undefined;
    if (!frozen) return Response.json({ error: "There is no such snapshot." }, { status: 404 });
    const { body, type, ending } = write(frozen.text, frozen.snapshot);
    return new Response(body, { headers: { "content-type": type, "content-disposition": `attachment; filename="nomade-snapshot-${id}.${ending}"` } });
  };

import { listOfAddress } from "@/features/register/list-address";
import { asking, csvOfList, nomade } from "@/wiring/nomade";
import { route } from "@/wiring/web/route";

/** A list as it is shown, as CSV, however long; made as it is sent. */
export const GET = route("read-register", async (account, request) => {
  const address = listOfAddress(new URL(request.url).searchParams);
  const first = await asking.listRegister(account, address.snapshot, address, { offset: 0, limit: 0, withChoices: false });
  if (!first) return Response.json({ error: "There is no such snapshot." }, { status: 404 });
  await nomade.noteExport(account, { what: "list", on: `snapshot ${first.snapshot}`, query: new URL(request.url).search });
  return new Response(
    csvOfList(first, (offset, limit) => asking.listRegister(account, address.snapshot, address, { offset, limit, withChoices: false })),
    {
      headers: {
        "content-type": "text/csv; charset=utf-8",
        "content-disposition": `attachment; filename="nomade-${address.kind}-snapshot-${first.snapshot}.csv"`,
      },
    },
  );
});

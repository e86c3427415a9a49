import { listOfAddress } from "@/features/register/list-address";
import { csvOfList } from "@/wiring/list-csv";
import { nomade } from "@/wiring/nomade";
import { route } from "@/wiring/route";

/** A list as it is shown, as CSV, however long; made as it is sent. */
export const GET = route("read-register", async (account, request) => {
  const address = listOfAddress(new URL(request.url).searchParams);
  const first = await nomade.listRegister(account, address, { offset: 0, limit: 0, withChoices: false });
  if (!first) return Response.json({ error: "There is no such snapshot." }, { status: 404 });
  return new Response(csvOfList(first, (offset, limit) => nomade.listRegister(account, address, { offset, limit, withChoices: false })), {
    headers: { "content-type": "text/csv; charset=utf-8", "content-disposition": `attachment; filename="nomade-${address.kind}-snapshot-${first.snapshot}.csv"` },
  });
});

import { listOfAddress } from "@/features/register/list-address";
import { rowsAPage } from "@/features/register/rows-a-page";
import { asking } from "@/wiring/nomade";
import { route } from "@/wiring/web/route";

/** A page of the rows of a list: the query is that of the list's address, `page` counts from 0. */
export const GET = route("read-register", async (account, request) => {
  const query = new URL(request.url).searchParams;
  const page = Number(query.get("page") ?? 0);
  if (!Number.isInteger(page) || page < 0)
    return Response.json({ error: `page is ${JSON.stringify(query.get("page"))}; expected a whole number from 0 on.` }, { status: 400 });
  const found = await asking.listRegister(account, listOfAddress(query).snapshot, listOfAddress(query), {
    offset: page * rowsAPage,
    limit: rowsAPage,
    withChoices: false,
  });
  return found ? Response.json({ rows: found.rows, total: found.total }) : Response.json({ error: "There is no such snapshot." }, { status: 404 });
});

import { asking } from "@/wiring/nomade";
import { notUnderstood, readAsked } from "@/wiring/web/asked-question";
import { route } from "@/wiring/web/route";

const place = /^[0-9]{1,9}$/;

/** A part of a sheet of people by doors, from a row and a column on. */
export const GET = route("ask", async (account, request) => {
  const { row = "0", column = "0", ...parts } = Object.fromEntries(new URL(request.url).searchParams);
  if (!place.test(row) || !place.test(column)) return Response.json({ error: "Row and column are whole numbers from 0 on." }, { status: 400 });
  const read = await readAsked(account, parts);
  if (read && !read.ok) return notUnderstood(read.error);
  const { inquiry, isThere } = read?.value ?? {};
  const part = inquiry && isThere ? await asking.layOutSheet(account, inquiry.snapshot, inquiry, { row: Number(row), column: Number(column) }) : undefined;
  return part ? Response.json(part) : Response.json({ error: "The register does not hold who or where." }, { status: 404 });
});

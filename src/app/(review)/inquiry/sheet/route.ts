import { asking } from "@/wiring/nomade";
import { readAnswerable, registerOf } from "@/wiring/web/asked-question";
import { refuse, route } from "@/wiring/web/route";

const place = /^[0-9]{1,9}$/;

/** A part of a sheet of people by doors, from a row and a column on. */
export const GET = route("ask", async (account, request) => {
  const { row = "0", column = "0", ...parts } = Object.fromEntries(new URL(request.url).searchParams);
  if (!place.test(row) || !place.test(column)) return refuse("Row and column are whole numbers from 0 on.", 400);
  const asked = await readAnswerable(account, parts);
  if (asked instanceof Response) return asked;
  const part = await asking.layOutSheet(account, registerOf(asked.inquiry), asked.inquiry, { row: Number(row), column: Number(column) });
  return part ? Response.json(part) : refuse("There is no such snapshot.", 404);
});

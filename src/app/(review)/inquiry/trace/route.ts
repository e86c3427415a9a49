import { inquiryOf } from "@/features/inquiry/address";
import type { QuestionAddress } from "@/features/inquiry/address";
import { nomade } from "@/wiring/nomade";
import { accountForRoute } from "@/wiring/web-session";

export async function GET(request: Request): Promise<Response> {
  const account = await accountForRoute("ask");
  if (account instanceof Response) return account;
  const address = Object.fromEntries(new URL(request.url).searchParams) as QuestionAddress;
  const trace = await nomade.trace(account, inquiryOf(address), undefined);
  return trace ? Response.json(trace) : Response.json({ error: "There is no such pair of holder and door in the register." }, { status: 404 });
}

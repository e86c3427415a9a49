import Joi from "joi";
import { checkInput } from "@/wiring/check-input";
import { nomade } from "@/wiring/nomade";
import { accountForRoute } from "@/wiring/web-session";

const schema = Joi.object<{ text: string }>({ text: Joi.string().allow("").max(400).default("") });

/** What a typed time means, in full, before it is taken. */
export async function GET(request: Request): Promise<Response> {
  const account = await accountForRoute("ask");
  if (account instanceof Response) return account;
  const asked = checkInput(schema, Object.fromEntries(new URL(request.url).searchParams));
  if (!asked.ok) return Response.json({ error: asked.error }, { status: 400 });
  return Response.json((await nomade.readTimes(account, asked.value.text)) ?? { read: undefined, refusal: undefined, offered: [] });
}

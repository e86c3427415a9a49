import Joi from "joi";
import { checkInput } from "@/wiring/web/check-input";
import { asking } from "@/wiring/nomade";
import { route } from "@/wiring/web/route";

const schema = Joi.object<{ text: string }>({ text: Joi.string().allow("").max(400).default("") });

/** What a typed time means, in full, before it is taken. */
export const GET = route("ask", async (account, request) => {
  const asked = checkInput(schema, Object.fromEntries(new URL(request.url).searchParams));
  if (!asked.ok) return Response.json({ error: asked.error }, { status: 400 });
  return Response.json((await asking.readTimes(account, undefined, asked.value.text)) ?? { read: undefined, refusal: undefined, offered: [] });
});

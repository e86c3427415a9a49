import Joi from "joi";
import { checkInput } from "@/wiring/web/check-input";
import { asking } from "@/wiring/nomade";
import { route } from "@/wiring/web/route";

const kinds = { who: ["cardholder", "credential", "group", "level", "bundle"], where: ["door", "area", "doorGroup", "site", "level"] } as const;
const schema = Joi.object<{ part: keyof typeof kinds; text: string }>({
  part: Joi.valid("who", "where").required(),
  text: Joi.string().allow("").max(200).default(""),
});
const shown = 12;

export const GET = route("ask", async (account, request) => {
  const asked = checkInput(schema, Object.fromEntries(new URL(request.url).searchParams));
  if (!asked.ok) return Response.json({ error: asked.error }, { status: 400 });
  return Response.json(await asking.suggest(account, undefined, kinds[asked.value.part], asked.value.text, shown));
});

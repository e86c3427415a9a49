import Joi from "joi";
import type { PlanHead } from "@/core/plans/plan";
import { asking } from "@/wiring/nomade";
import { checkInput } from "@/wiring/web/check-input";
import { refuse, route } from "@/wiring/web/route";
import { comesFromElsewhere } from "@/wiring/web/same-origin";

/** A picture may have so many bytes; the reader says it exactly, this only ends what would never end. */
const mostBytes = 9 * 1024 * 1024;

/** Either what a new plan is of, or the plan whose picture it takes the place of. */
interface Asked extends Omit<PlanHead, "area"> {
  readonly area?: string;
  readonly plan?: number;
  readonly version?: number;
}
const askedSchema = Joi.object<Asked>({
  name: Joi.string().max(200).allow(""),
  site: Joi.string().max(128),
  area: Joi.string().max(128),
  storey: Joi.number().integer().min(-200).max(200),
  plan: Joi.number().integer().min(1),
  version: Joi.number().integer().min(1),
})
  .and("plan", "version")
  .xor("plan", "site")
  .with("site", ["name", "storey"]);

/** What the address says, its whole numbers as such. */
const said = (request: Request): Record<string, unknown> =>
  Object.fromEntries(
    [...new URL(request.url).searchParams].map(([key, text]) => [key, ["storey", "plan", "version"].includes(key) && /^-?\d{1,9}$/.test(text) ? Number(text) : text]),
  );

async function bytesOf(body: ReadableStream<Uint8Array>): Promise<Uint8Array | undefined> {
  const parts: Uint8Array[] = [];
  let size = 0;
  const reader = body.getReader();
  for (let next = await reader.read(); !next.done; next = await reader.read()) {
    size += next.value.length;
    if (size > mostBytes) {
      await reader.cancel();
      return undefined;
    }
    parts.push(next.value);
  }
  return new Uint8Array(Buffer.concat(parts));
}

export const POST = route("keep-plans", async (account, request) => {
  if (comesFromElsewhere(request)) return refuse("This picture came from another site.", 403);
  const asked = checkInput(askedSchema, said(request));
  if (!asked.ok) return refuse(asked.error, 400);
  const bytes = request.body ? await bytesOf(request.body) : new Uint8Array();
  if (!bytes) return refuse("The picture is larger than 8 MiB.", 413);
  const { plan, version, name, site, area, storey } = asked.value;
  const kept =
    plan !== undefined && version !== undefined
      ? await asking.changePlan(account, undefined, plan, version, { bytes })
      : await asking.addPlan(account, undefined, { name, site, storey, ...(area !== undefined && { area }) }, bytes);
  return kept ? Response.json(kept) : refuse("There is no register yet.", 404);
});

import Joi from "joi";
import { notFound } from "next/navigation";
import { RegisterView } from "@/features/register/register-view";
import type { RegisterViewProps } from "@/features/register/register-view";
import { checkInput } from "@/wiring/check-input";
import { nomade } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web-session";

const pageSize = 60;
const schema = Joi.object<Pick<RegisterViewProps, "kind" | "text" | "from">>({
  kind: Joi.valid("cardholder", "credential", "door", "area", "group", "level", "schedule", "calendar").default("cardholder").failover("cardholder"),
  text: Joi.string().allow("").max(200).default("").failover(""),
  from: Joi.number().integer().min(0).default(0).failover(0),
}).options({ stripUnknown: true });

export default async function RegisterPage({ searchParams }: { readonly searchParams: Promise<Record<string, string>> }) {
  const account = await accountWith("read-register");
  const asked = checkInput(schema, await searchParams, true);
  // Every part of the address has something to fall back on.
  if (!asked.ok) notFound();
  const { value } = asked;
  const [snapshot, found] = await Promise.all([
    nomade.latestSnapshot(),
    nomade.search(account, { kinds: [value.kind], text: value.text, offset: value.from, limit: pageSize }),
  ]);
  return <RegisterView {...value} {...found} pageSize={pageSize} reference={snapshot ? `Register of snapshot ${snapshot.id}` : "No snapshot yet"} />;
}

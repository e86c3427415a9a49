import Joi from "joi";
import { EvidenceView } from "@/features/evidence/evidence-view";
import type { AskedEntries } from "@/operations/ports/record";
import { checkInput } from "@/wiring/web/check-input";
import { nomade } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";

const schema = Joi.object<AskedEntries>({ before: Joi.number().integer().min(1), what: Joi.string().max(64), text: Joi.string().max(200) });

export default async function EvidencePage({ searchParams }: { readonly searchParams: Promise<Record<string, string>> }) {
  const account = await accountWith("read-record");
  const { before, what, text } = await searchParams;
  const checked = checkInput(schema, { ...(before && { before }), ...(what && { what }), ...(text && { text }) }, true);
  const asked = checked.ok ? checked.value : {};
  const [entries, verification] = await Promise.all([nomade.readRecord(account, asked), nomade.verifyRecord(account)]);
  return <EvidenceView entries={entries} verification={verification} asked={asked} />;
}

import Joi from "joi";
import { EvidenceView } from "@/features/evidence/evidence-view";
import { checkInput } from "@/wiring/web/check-input";
import { nomade } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";

const schema = Joi.number<number>().integer().min(1).required();

export default async function EvidencePage({ searchParams }: { readonly searchParams: Promise<Record<string, string>> }) {
  const account = await accountWith("read-record");
  const asked = checkInput(schema, (await searchParams).before, true);
  const before = asked.ok ? asked.value : undefined;
  const [entries, verification] = await Promise.all([nomade.readRecord(account, before), nomade.verifyRecord(account)]);
  return <EvidenceView entries={entries} verification={verification} isFirstPage={before === undefined} />;
}

import Joi from "joi";
import type { RecordAddress } from "@/features/evidence/record-address";
import { EvidenceView } from "@/features/evidence/evidence-view";
import { kindsNamed } from "@/features/words/record";
import { asking, may, nomade } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";

type Query = Readonly<Record<string, string | string[] | undefined>>;

const date = Joi.string().pattern(/^\d{4}-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$/);
const parts: Readonly<Record<keyof RecordAddress, Joi.Schema>> = {
  text: Joi.string().max(200),
  what: Joi.string().max(64),
  who: Joi.string().max(128),
  from: date,
  until: date,
  on: Joi.array().items(Joi.string().max(200)).single().max(5),
  finding: Joi.string().max(2000),
  object: Joi.string()
    .max(200)
    .pattern(/^[a-zA-Z]+ ./),
  before: Joi.number().integer().min(1),
};

/** What of an address is understood; the rest is named, so that no answer is taken for that to another question. */
function recordOfAddress(query: Query): { readonly asked: RecordAddress; readonly notUnderstood: readonly string[] } {
  const asked: RecordAddress & Record<string, unknown> = {};
  const notUnderstood: string[] = [];
  for (const [name, value] of Object.entries(query)) {
    if (value === undefined || value === "") continue;
    const checked = Object.hasOwn(parts, name) ? parts[name as keyof RecordAddress].validate(value) : undefined;
    if (!checked || checked.error) notUnderstood.push(`${name}=${String(value)}`);
    else asked[name] = checked.value as unknown;
  }
  return { asked, notUnderstood };
}

export default async function EvidencePage({ searchParams }: { readonly searchParams: Promise<Query> }) {
  const account = await accountWith("read-record");
  const { asked, notUnderstood } = recordOfAddress(await searchParams);
  const { object, ...others } = asked;
  const space = object?.indexOf(" ") ?? -1;
  const [entries, verification, people] = await Promise.all([
    nomade.readRecord(account, {
      ...others,
      ...(asked.text !== undefined && { textAsWhat: kindsNamed(asked.text) }),
      ...(object !== undefined && { object: { list: object.slice(0, space), id: object.slice(space + 1) } }),
    }),
    asking.verifyRecord(account),
    nomade.peopleOfRecord(account),
  ]);
  return (
    <EvidenceView
      entries={entries}
      verification={verification}
      asked={asked}
      notUnderstood={notUnderstood}
      people={people}
      seesAccounts={may(account, "keep-accounts")}
    />
  );
}

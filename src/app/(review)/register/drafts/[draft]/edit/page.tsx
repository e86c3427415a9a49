import { notFound } from "next/navigation";
import { listKeys } from "@/core/facility/document";
import { beginnings } from "@/features/register/drafts/field-names";
import { ObjectEditor } from "@/features/register/drafts/object-editor";
import { asking } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";
import { changeDraft } from "../../actions";

interface Props {
  readonly params: Promise<{ draft: string }>;
  readonly searchParams: Promise<{ list?: string; key?: string; effect?: string; number?: string | string[]; facilityCode?: string | string[] }>;
}

const longestNumber = 128;
/** What an event told of a card, where an address passes it on. */
const textOf = (value: string | string[] | undefined): string | undefined =>
  typeof value === "string" && value !== "" && value.length <= longestNumber ? value : undefined;

export default async function EditPage({ params, searchParams }: Props) {
  const account = await accountWith("edit-drafts");
  const id = Number((await params).draft);
  const asked = await searchParams;
  const list = listKeys.find((one) => one === asked.list);
  const told = list === "credentials" ? { number: textOf(asked.number), facilityCode: textOf(asked.facilityCode) } : {};
  const given = { ...(list && beginnings[list]), ...(asked.effect === "block" && { effect: "block" }), ...told };
  const object = list && Number.isInteger(id) ? await asking.editObject(account, id, list, asked.key, given) : undefined;
  if (!object) notFound();
  return <ObjectEditor key={`${object.list} ${object.key ?? ""} ${object.seen}`} object={object} change={changeDraft} />;
}

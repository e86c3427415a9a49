import { notFound } from "next/navigation";
import { registerKinds } from "@/core/register/kinds";
import { ObjectView } from "@/features/register/object-view";
import { asking, may, nomade } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";

interface Props {
  readonly params: Promise<{ kind: string; id: string }>;
  readonly searchParams: Promise<{ snapshot?: string }>;
}

export default async function ObjectPage({ params, searchParams }: Props) {
  const account = await accountWith("read-register");
  const asked = await params;
  const kind = registerKinds.find((one) => one === asked.kind);
  const snapshot = Number((await searchParams).snapshot);
  const past = Number.isInteger(snapshot) && snapshot > 0 ? snapshot : undefined;
  const object = kind && (await asking.showObject(account, past, { kind, id: decodeURIComponent(asked.id) }));
  if (!object) notFound();
  await nomade.noteLookUp(account, "page", { kind: object.kind, id: object.id, name: object.name });
  return <ObjectView object={object} past={past} mayEdit={may(account, "edit-drafts")} />;
}

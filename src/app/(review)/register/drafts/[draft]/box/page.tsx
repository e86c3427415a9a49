import { notFound } from "next/navigation";
import { BoxForm } from "@/features/register/drafts/box-form";
import { asking } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";
import { addBox } from "../../actions";

export default async function BoxPage({ params }: { readonly params: Promise<{ draft: string }> }) {
  const account = await accountWith("edit-drafts");
  const id = Number((await params).draft);
  const sheet = Number.isInteger(id) ? await asking.showDraft(account, id) : undefined;
  if (!sheet?.mayEdit) notFound();
  return <BoxForm draft={sheet.draft} add={addBox} />;
}

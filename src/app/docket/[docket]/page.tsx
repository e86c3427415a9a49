import { notFound, redirect } from "next/navigation";
import { DocketView } from "@/features/certification/docket-view";
import { asking } from "@/wiring/nomade";
import { docketLanguage } from "@/wiring/web/docket-language";
import { accountOfRequest } from "@/wiring/web/web-session";
import { comment, save, sign, speak } from "./actions";

export default async function DocketPage({ params }: { readonly params: Promise<{ docket: string }> }) {
  const account = await accountOfRequest();
  if (!account) redirect("/sign-in");
  const id = Number((await params).docket);
  const shown = Number.isInteger(id) ? await asking.showDocket(account, id) : undefined;
  if (!shown) notFound();
  const asOf = Math.floor(Date.parse(shown.snapshot.asOf) / 60_000);
  const language = await docketLanguage();
  return <DocketView shown={shown} account={account.id} asOf={asOf} language={language} save={save} comment={comment} sign={sign} speak={speak} />;
}

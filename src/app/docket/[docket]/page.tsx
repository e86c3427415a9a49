import { notFound, redirect } from "next/navigation";
import { DocketView } from "@/features/certification/docket-view";
import { asking } from "@/wiring/nomade";
import { accountOfRequest } from "@/wiring/web/web-session";
import { decide, keepAll, sign } from "./actions";

export default async function DocketPage({ params }: { readonly params: Promise<{ docket: string }> }) {
  const account = await accountOfRequest();
  if (!account) redirect("/sign-in");
  const id = Number((await params).docket);
  const shown = Number.isInteger(id) ? await asking.showDocket(account, id) : undefined;
  if (!shown) notFound();
  return <DocketView shown={shown} asOf={Math.floor(Date.parse(shown.snapshot.asOf) / 60_000)} decide={decide} keepAll={keepAll} sign={sign} />;
}

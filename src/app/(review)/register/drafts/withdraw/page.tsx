import { notFound } from "next/navigation";
import { withdrawalOfAddress } from "@/features/register/drafts/withdraw-address";
import { WithdrawView } from "@/features/register/drafts/withdraw-view";
import { asking } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";
import { draftWithdrawal } from "../actions";

export default async function WithdrawPage({ searchParams }: { readonly searchParams: Promise<Record<string, string | string[]>> }) {
  const account = await accountWith("edit-drafts");
  const asked = withdrawalOfAddress(await searchParams);
  const offered = asked && (await asking.offerWithdrawal(account, asked));
  if (!asked || !offered) notFound();
  return <WithdrawView asked={asked} offered={offered} begin={draftWithdrawal} />;
}

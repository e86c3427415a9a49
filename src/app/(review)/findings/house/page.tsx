import { notFound } from "next/navigation";
import type { AddressParts } from "@/core/questions/question-address";
import { HouseRulesView } from "@/features/findings/house-rules-view";
import { NotUnderstoodView } from "@/features/inquiry/not-understood-view";
import { NoRegister } from "@/features/shell/no-register";
import { asking, may, nomade } from "@/wiring/nomade";
import { readAsked } from "@/wiring/web/asked-question";
import { accountWith } from "@/wiring/web/web-session";
import { askEndOfHouseRule, endHouseRule, tryHouseRule, writeHouseRule } from "./actions";

export default async function HouseRulesPage({ searchParams }: { readonly searchParams: Promise<AddressParts> }) {
  const account = await accountWith("read-findings");
  const [snapshot, read, rules] = await Promise.all([
    nomade.latestSnapshot(),
    readAsked(account, await searchParams),
    asking.listHouseRules(account, undefined),
  ]);
  if (!snapshot || !rules) return <NoRegister />;
  if (!read) notFound();
  if (!read.ok) return <NotUnderstoodView parts={read.error} reference={`House rules on snapshot ${snapshot.id}`} />;
  const { inquiry, names, isThere } = read.value;
  if (!isThere) notFound();
  return (
    <HouseRulesView
      asked={{ inquiry, names }}
      rules={rules}
      reference={`House rules on snapshot ${snapshot.id}`}
      mayEdit={may(account, "set-rules")}
      actions={{ write: writeHouseRule, attempt: tryHouseRule, askEnd: askEndOfHouseRule, end: endHouseRule }}
    />
  );
}

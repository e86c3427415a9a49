import { notFound } from "next/navigation";
import { RoundView } from "@/features/certification/round-view";
import { asking, may } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";
import { addSubstitute, answer, apply, askToClose, close, correct, give, makeAccounts, release, send } from "./actions";

export default async function RoundPage({ params }: { readonly params: Promise<{ round: string }> }) {
  const account = await accountWith("read-rounds");
  const id = Number((await params).round);
  const overview = Number.isInteger(id) ? await asking.showRound(account, id) : undefined;
  if (!overview) notFound();
  return (
    <RoundView
      overview={overview}
      today={new Date().toISOString().slice(0, 10)}
      mayRun={may(account, "run-rounds")}
      actions={{ release, askToClose, close, addSubstitute, give, correct }}
      orders={{ send, apply, answer }}
      makeAccounts={may(account, "keep-accounts") ? makeAccounts : undefined}
    />
  );
}

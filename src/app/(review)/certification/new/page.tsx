import { Suspense } from "react";
import { NewRoundView } from "@/features/certification/new-round-view";
import { NoRegister } from "@/features/shell/no-register";
import { Waiting } from "@/features/shell/waiting";
import type { Account } from "@/operations/ports";
import { nomade } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web-session";
import { openRound } from "../actions";

async function Preview({ account }: { readonly account: Account }) {
  const preview = await nomade.previewRound(account);
  return preview ? <NewRoundView preview={preview} open={openRound} /> : <NoRegister />;
}

/** Who may see it is settled before anything is sent; working out the preview may take longer than a moment. */
export default async function NewRoundPage() {
  const account = await accountWith("run-rounds");
  return (
    <Suspense fallback={<Waiting words="Working out who certifies what" />}>
      <Preview account={account} />
    </Suspense>
  );
}

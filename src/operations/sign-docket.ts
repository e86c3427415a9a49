import { signDocket as sign } from "@/core/certification/sign-docket";
import type { Account } from "./ports/accounts";
import { demand } from "./rights";
import type { Services } from "./services";
import { showDocket } from "./show-docket";

export type SigningOutcome =
  | { readonly outcome: "signed"; readonly statement: string; readonly hash: string; readonly orders: number }
  | { readonly outcome: "refused"; readonly why: "not-yours" | "already-signed" | "changed-meanwhile" }
  | { readonly outcome: "undecided"; readonly count: number };

/** Signs a docket of the account's own; each withdrawal becomes orders in the same step. */
export async function signDocket(services: Services, account: Account, docketId: number): Promise<SigningOutcome> {
  demand(account, "certify");
  const shown = await showDocket(services, account, docketId);
  if (!shown?.mine) return { outcome: "refused", why: "not-yours" };
  if (shown.docket.signedAt !== undefined) return { outcome: "refused", why: "already-signed" };
  const signed = sign(
    {
      round: shown.round.id,
      docket: docketId,
      snapshot: shown.snapshot.hash,
      certifier: account.signIn,
      lines: shown.lines.map(({ id, decision, reason, line }) => ({ id, decision, reason, content: line })),
    },
    account.name,
  );
  if (!signed.ok) return { outcome: "undecided", count: signed.error.undecided };
  const { statement, signedText } = signed.value;
  const orders = shown.lines
    .filter(({ decision }) => decision === "withdraw")
    .flatMap(({ id, withdrawal }) => withdrawal.changes.map((change) => ({ round: shown.round.id, line: id, change, alsoLost: withdrawal.alsoLost })));
  const hash = services.digest(signedText);
  const decisions = shown.lines.flatMap(({ id, decision }) => (decision === undefined ? [] : [{ line: id, decision }]));
  const done = await services.rounds.sign(docketId, { statement, hash, decisions }, orders, account, services.now());
  return done ? { outcome: "signed", statement, hash, orders: orders.length } : { outcome: "refused", why: "changed-meanwhile" };
}

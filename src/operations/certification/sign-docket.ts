import { withdrawTogether } from "@/core/certification/line-withdrawal";
import { signDocket as sign } from "@/core/certification/sign-docket";
import { describedChanges } from "@/core/certification/withdrawal/described-change";
import { namesInChanges } from "../register/drafts/change-names";
import { required } from "@/core/kernel/invariant";
import { horizonOf } from "@/core/table/horizon";
import { openRegister } from "../register/open-register";
import type { Account } from "../ports/accounts";
import { demand } from "../rights";
import type { Services } from "../services";
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
  const register = required(await openRegister(services, shown.round.snapshot), "a round has a snapshot");
  const signed = sign(
    {
      round: shown.round.id,
      docket: docketId,
      snapshot: register.snapshot.hash,
      certifier: account.signIn,
      lines: shown.lines.map(({ id, decision, reason, line }) => ({ id, decision, reason, content: line })),
    },
    account.name,
  );
  if (!signed.ok) return { outcome: "undecided", count: signed.error.undecided };
  const { statement, signedText } = signed.value;
  const joint = withdrawTogether(
    horizonOf(register.compiled),
    shown.lines.map(({ line, decision }) => ({ line, withdrawn: decision === "withdraw" })),
  );
  const orders = joint.flatMap(({ lines, changes, effects }) => {
    const line = required(shown.lines[lines[0] ?? -1], "a withdrawal is of some line").id;
    return describedChanges(register.compiled, changes).map((described) => ({
      round: shown.round.id,
      line,
      described,
      alsoLost: effects.lost,
      names: namesInChanges(register.compiled, [described.change], effects.lost),
    }));
  });
  const hash = services.digest(signedText);
  const decisions = shown.lines.flatMap(({ id, decision, reason }) => (decision === undefined ? [] : [{ line: id, decision, reason }]));
  const done = await services.rounds.sign(docketId, { statement, hash, decisions }, orders, account, services.now());
  return done === "signed" ? { outcome: "signed", statement, hash, orders: orders.length } : { outcome: "refused", why: done };
}

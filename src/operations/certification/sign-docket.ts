import { isDefinition } from "@/core/certification/line-content";
import { countDecisions, signDocket as sign } from "@/core/certification/sign-docket";
import type { Language } from "@/core/certification/signing-statement";
import { signingStatement } from "@/core/certification/signing-statement";
import { orderIds } from "@/core/certification/withdrawal/renamed-changes";
import { required } from "@/core/kernel/invariant";
import { openRegister } from "../register/open-register";
import { readOwnership } from "../register/drafts/show-draft";
import type { Account } from "../ports/accounts";
import { anchorRecord } from "../evidence/anchor-record";
import { queueReceipt } from "../mail/queue-receipt";
import { demand } from "../rights";
import type { Services } from "../services";
import { seenOf } from "./close-round";
import { notYetOrdered, ordersOfLines, planningTerms } from "./orders-of-lines";
import { showDocket } from "./show-docket";

export type SigningOutcome =
  | { readonly outcome: "signed"; readonly statement: string; readonly hash: string; readonly orders: number }
  | { readonly outcome: "refused"; readonly why: "not-yours" | "already-signed" | "changed-meanwhile" | "closed" }
  | { readonly outcome: "undecided"; readonly count: number };

/**
 * Signs a docket of the account's own; each withdrawal becomes orders in the same step. With the last docket signed its round is closed. The
 * statement speaks the certifier's language.
 */
export async function signDocket(services: Services, account: Account, docketId: number, language: Language = "en"): Promise<SigningOutcome> {
  demand(account, "certify");
  const shown = await showDocket(services, account, docketId);
  if (!shown?.mine) return { outcome: "refused", why: "not-yours" };
  if (shown.docket.signedAt !== undefined) return { outcome: "refused", why: "already-signed" };
  if (shown.docket.closedAt !== undefined) return { outcome: "refused", why: "closed" };
  const { round } = shown;
  const register = required(await openRegister(services, round.snapshot), "a round has a snapshot");
  const definitions = shown.lines.filter(({ line }) => isDefinition(line));
  const access = shown.lines.filter(({ line }) => !isDefinition(line));
  const signed = sign(
    {
      round: round.id,
      docket: docketId,
      snapshot: register.snapshot.hash,
      certifier: account.signIn,
      lines: shown.lines.map(({ id, decision, reason, narrowing, passedTo, line }) => ({ id, decision, reason, narrowing, passedTo, content: line })),
    },
    () => signingStatement(language, account.name, countDecisions(access), countDecisions(definitions)),
  );
  if (!signed.ok) return { outcome: "undecided", count: signed.error.undecided };
  const { statement, signedText } = signed.value;
  const at = services.now();
  const terms = await planningTerms(services);
  const orders = ordersOfLines(
    register,
    await readOwnership(services),
    round,
    await notYetOrdered(services, round, docketId, shown.lines),
    at,
    orderIds(register.compiled.facility, docketId, 0),
    terms,
  );
  const hash = services.digest(signedText);
  const decisions = shown.lines.map(({ id, decision, reason, narrowing, passedTo }) => ({ line: id, decision, reason, narrowing, passedTo }));
  const done = await services.rounds.sign(docketId, { statement, hash, decisions }, orders, account, at);
  if (done !== "signed") return { outcome: "refused", why: done };
  await anchorRecord(services);
  await queueReceipt(services, account, { round, docket: shown.docket, statement, hash, language });
  await closeWhereAllSigned(services, account, round.id);
  return { outcome: "signed", statement, hash, orders: orders.length };
}

/** A round of which every docket is signed is over by its rule; nobody has to close it. */
async function closeWhereAllSigned(services: Services, account: Account, round: number): Promise<void> {
  const [dockets, present] = await Promise.all([services.rounds.dockets({ round }), services.rounds.byId(round)]);
  if (present?.closedAt !== undefined || dockets.some(({ signedAt }) => signedAt === undefined)) return;
  await services.rounds.close(round, seenOf(dockets), [], account, services.now());
}

import { decideLine as decide, isUnremarkable } from "@/core/certification/decide-line";
import type { DecidedLine, DecisionRefusal } from "@/core/certification/decide-line";
import { holderOfLine } from "@/core/certification/holder-of-line";
import type { HolderId } from "@/core/facility/holder-id";
import { holderKey } from "@/core/facility/holder-id";
import type { Account } from "../ports/accounts";
import { demand } from "../rights";
import type { Services } from "../services";

export type DecisionOutcome = { readonly outcome: "decided"; readonly count: number } | { readonly outcome: "refused"; readonly why: DecisionRefusal };

const refused = (why: DecisionRefusal): DecisionOutcome => ({ outcome: "refused", why });

/** Writes a certifier's decision on one line of a docket of theirs. */
export async function decideLine(services: Services, account: Account, lineId: number, asked: DecidedLine): Promise<DecisionOutcome> {
  demand(account, "certify");
  const [line] = await services.rounds.lines({ id: lineId });
  const [docket] = line ? await services.rounds.dockets({ id: line.docket }) : [];
  if (!line || !docket) return refused("not-yours");
  const decided = decide({ flagged: line.flagged, signed: docket.signedAt !== undefined, mine: docket.account === account.id }, asked);
  if (!decided.ok) return refused(decided.error);
  const written = await services.rounds.decide(docket.id, [{ line: line.id, ...decided.value }], account, services.now());
  return written ? { outcome: "decided", count: 1 } : refused("docket-signed");
}

/** Keeps together all lines of one holder in a docket that nothing speaks against and that are not decided yet. */
export async function keepUnremarkable(services: Services, account: Account, docketId: number, holder: HolderId): Promise<DecisionOutcome> {
  demand(account, "certify");
  const [docket] = await services.rounds.dockets({ id: docketId });
  if (docket?.account !== account.id) return refused("not-yours");
  const lines = (await services.rounds.lines({ docket: docketId })).filter(
    ({ line, decision }) => decision === undefined && holderKey(holderOfLine(line)) === holderKey(holder) && isUnremarkable(line),
  );
  if (lines.length === 0) return { outcome: "decided", count: 0 };
  const decisions = lines.map(({ id }) => ({ line: id, decision: "keep" as const, reason: "" }));
  const written = await services.rounds.decide(docketId, decisions, account, services.now());
  return written ? { outcome: "decided", count: lines.length } : refused("docket-signed");
}

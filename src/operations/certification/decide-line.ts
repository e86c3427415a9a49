import { decideLine as decide } from "@/core/certification/decide-line";
import type { DecidedLine, DecisionRefusal, LineState } from "@/core/certification/decide-line";
import type { LineAbout } from "@/core/certification/line-content";
import { aboutKey, aboutOfLine, isDefinition, isKeptTogether } from "@/core/certification/line-content";
import type { Account } from "../ports/accounts";
import type { DocketLine } from "../ports/rounds";
import { demand } from "../rights";
import type { Services } from "../services";
import type { OwnLine } from "./docket-access";
import { concerns, isOwnDocket, ownLine } from "./docket-access";

export type DecisionOutcome = { readonly outcome: "decided"; readonly count: number } | { readonly outcome: "refused"; readonly why: DecisionRefusal };

export const refused = (why: DecisionRefusal): DecisionOutcome => ({ outcome: "refused", why });

const isAboutDecider = (account: Account, { line }: DocketLine): boolean =>
  account.cardholder !== undefined && !isDefinition(line) && line.cardholder === account.cardholder;

const stateOf = (account: Account, { line, docket }: OwnLine): LineState => ({
  flagged: line.flagged,
  mine: true,
  signed: docket.signedAt !== undefined,
  closed: docket.closedAt !== undefined,
  isDefinition: isDefinition(line.line),
  aboutDecider: isAboutDecider(account, line),
  wasPassedOn: line.passedFrom !== undefined,
});

/** Writes a decision on one line that is the account's to decide. */
export async function writeDecision(services: Services, account: Account, own: OwnLine, asked: DecidedLine): Promise<DecisionOutcome> {
  const decided = decide<DecidedLine>(stateOf(account, own), asked);
  if (!decided.ok) return refused(decided.error);
  const { decision, reason } = decided.value;
  const written = await services.rounds.decide(
    own.docket.id,
    [
      {
        line: own.line.id,
        decision,
        reason,
        ...(asked.decision === "narrow" && { narrowing: asked.narrowing }),
        ...(asked.decision === "pass-on" && { passedTo: asked.to }),
      },
    ],
    account,
    services.now(),
  );
  return written === "written" ? { outcome: "decided", count: 1 } : refused(written);
}

/** Keeps or withdraws one line of a docket of theirs. */
export async function decideLine(
  services: Services,
  account: Account,
  lineId: number,
  asked: Extract<DecidedLine, { readonly decision: "keep" | "withdraw" }>,
): Promise<DecisionOutcome> {
  demand(account, "certify");
  const own = await ownLine(services, account, lineId);
  return own ? writeDecision(services, account, own, asked) : refused("not-yours");
}

/** Takes a decision back, so that the line is undecided again; until the docket is signed. */
export async function undoDecision(services: Services, account: Account, lineId: number): Promise<DecisionOutcome> {
  demand(account, "certify");
  const own = await ownLine(services, account, lineId);
  if (!own) return refused("not-yours");
  if (own.docket.signedAt !== undefined) return refused("docket-signed");
  if (own.docket.closedAt !== undefined) return refused("round-closed");
  if (own.line.decision === undefined) return { outcome: "decided", count: 0 };
  const written = await services.rounds.decide(own.docket.id, [{ line: lineId, decision: undefined, reason: "" }], account, services.now());
  return written === "written" ? { outcome: "decided", count: 1 } : refused(written);
}

/** Passes a line on to whoever has another docket of the round; whether that one has it to decide shows at once. */
export async function passOnLine(services: Services, account: Account, lineId: number, to: number, reason: string): Promise<DecisionOutcome> {
  demand(account, "certify");
  const own = await ownLine(services, account, lineId);
  if (!own) return refused("not-yours");
  const [other] = await services.rounds.dockets({ id: to });
  // Nobody certifies themself, by whatever way a line comes to them.
  if (other?.round !== own.docket.round || other.id === own.docket.id || (await concerns(services, own.round, own.line.line, other.certifier)))
    return refused("not-a-certifier");
  return writeDecision(services, account, own, { decision: "pass-on", to, reason });
}

/** Keeps together all lines of one holder, or definitions of one kind, in a docket that nothing speaks against and that are not decided yet. */
export async function keepUnremarkable(services: Services, account: Account, docketId: number, about: LineAbout): Promise<DecisionOutcome> {
  demand(account, "certify");
  const [docket] = await services.rounds.dockets({ id: docketId });
  if (!docket || !(await isOwnDocket(services, account, docket))) return refused("not-yours");
  const lines = (await services.rounds.lines({ docket: docketId })).filter(
    (line) =>
      line.decision === undefined && aboutKey(aboutOfLine(line.line)) === aboutKey(about) && isKeptTogether(line.line) && !isAboutDecider(account, line),
  );
  if (lines.length === 0) return { outcome: "decided", count: 0 };
  const decisions = lines.map(({ id }) => ({ line: id, decision: "keep" as const, reason: "" }));
  const written = await services.rounds.decide(docketId, decisions, account, services.now());
  return written === "written" ? { outcome: "decided", count: lines.length } : refused(written);
}

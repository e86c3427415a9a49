import type { RoundTerms } from "@/core/certification/round-terms";
import { openRegister } from "../register/open-register";
import type { Account } from "../ports/accounts";
import type { Report } from "../ports/progress";
import { demand } from "../rights";
import type { Services } from "../services";
import { planDockets } from "./plan-dockets";

export interface NewRound {
  readonly name: string;
  /** Local date of the facility. */
  readonly due: string;
  readonly snapshot: number;
  readonly terms: RoundTerms;
  /** The certifier whose docket goes first, while the others wait; undefined where all begin at once. */
  readonly pilot?: string | undefined;
}

/** Opens a round over a snapshot: one docket for each certifier; what nobody certifies goes to who opens it. Gives its number. */
export async function openRound(services: Services, account: Account, asked: NewRound, report: Report): Promise<number> {
  demand(account, "run-rounds");
  const register = await openRegister(services, asked.snapshot);
  if (!register) throw new Error(`There is no snapshot ${asked.snapshot}.`);
  const { name, due, snapshot, terms, pilot } = asked;
  const planned = (await planDockets(services, register, terms, report)).dockets;
  const hasPilot = planned.some(({ certifier }) => certifier === pilot);
  const dockets = planned.map((docket) => ({
    ...docket,
    account: docket.certifier === undefined ? account.id : docket.account,
    held: pilot !== undefined && hasPilot && docket.certifier !== pilot,
  }));
  report({ step: "opening", done: 0, of: 1 });
  return services.rounds.open({ name, due, snapshot, terms, openedAt: services.now(), openedBy: account }, dockets);
}

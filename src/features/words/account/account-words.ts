import type { PasswordOutcome } from "@/operations/administration/own-account";
import type { Role } from "@/operations/ports/accounts";

/** What somebody's own account and the link to it say, in one language. */
export interface AccountWords {
  readonly roles: Readonly<Record<Role, string>>;
  readonly back: string;
  /** An instant, an ISO text of UTC. */
  readonly clock: (instant: string) => string;
  readonly password: {
    readonly heading: string;
    readonly present: string;
    readonly next: string;
    readonly first: string;
    readonly atLeast: string;
    readonly isChanged: string;
    readonly change: string;
    readonly set: string;
    readonly refusals: Readonly<Record<Exclude<PasswordOutcome, "changed">, string>>;
  };
  readonly factor: {
    readonly heading: string;
    readonly code: string;
    readonly wrong: string;
    readonly keepCodes: string;
    readonly isAsked: string;
    readonly inForce: string;
    readonly takeAway: string;
    readonly askedFirst: string;
    readonly what: string;
    readonly setUp: string;
    readonly readThis: string;
    readonly square: string;
    readonly putInForce: string;
  };
  readonly sessions: {
    readonly heading: (count: number) => string;
    readonly ends: string;
    readonly where: string;
    readonly lastUsed: string;
    readonly since: string;
    readonly end: string;
    readonly unknown: string;
    readonly thisOne: string;
    readonly endIt: string;
  };
  readonly link: {
    readonly once: string;
    readonly code: string;
    readonly goOn: string;
    readonly barred: string;
    readonly wrongCode: string;
    readonly used: string;
  };
}

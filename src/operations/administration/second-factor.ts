import { generateSecret, generateURI, verify } from "otplib";
import type { Account, SecondFactor } from "../ports/accounts";
import type { Services } from "../services";

/** Codes change every so many seconds; the one before and the one after are taken, too, since clocks differ. Source: RFC 6238, 5.2. */
const stepSeconds = 30;
const recoveryCodes = 10;

/** What somebody has to type into their authenticator, before it is in force. */
export interface OfferedFactor {
  readonly secret: string;
  readonly uri: string;
}

/** A secret for a new second factor; it is in force once a code of it was given. */
export async function offerSecondFactor(services: Services, account: Account): Promise<OfferedFactor> {
  const secret = generateSecret();
  return Promise.resolve({ secret, uri: generateURI({ issuer: "Nomade", label: account.signIn, secret }) });
}

const codeForm = /^\d{6}$/;

/** The time step of which a code is, if it is a right one and none of that step or a later one was used; undefined otherwise. */
async function stepOfCode(secret: string, code: string, lastStep: number, now: number): Promise<number | undefined> {
  if (!codeForm.test(code)) return undefined;
  const found = await verify({
    secret,
    token: code,
    epoch: Math.floor(now / 1000),
    epochTolerance: stepSeconds,
    ...(lastStep > 0 && { afterTimeStep: lastStep }),
  });
  if (!found.valid || !("timeStep" in found)) return undefined;
  return found.timeStep > lastStep ? found.timeStep : undefined;
}

/** Puts a second factor in force, if the code is one of the secret: gives recovery codes, each of which works once and is shown only now. */
export async function confirmSecondFactor(
  services: Services,
  account: Account,
  token: string,
  secret: string,
  code: string,
): Promise<readonly string[] | undefined> {
  const at = services.now();
  const step = await stepOfCode(secret, code, 0, Date.parse(at));
  if (step === undefined) return undefined;
  const codes = Array.from({ length: recoveryCodes }, () =>
    services.tokens
      .make()
      .token.replace(/[^A-Za-z0-9]/g, "")
      .slice(0, 12)
      .toLowerCase(),
  );
  const factor: SecondFactor = { sealed: services.sealer.seal(secret), recovery: codes.map((one) => services.digest(one)), lastStep: step };
  await services.accounts.setSecondFactor(account.id, factor, services.tokens.hashOf(token), account, at);
  return codes;
}

/** Takes one's own second factor away, with a code of it; false where that is none, or the role asks for one. */
export async function dropSecondFactor(services: Services, account: Account, token: string, code: string): Promise<boolean> {
  const factor = await services.accounts.secondFactor(account.id);
  if (!factor || (await services.accounts.rolesWithSecondFactor()).includes(account.role)) return false;
  if (!(await passesSecondFactor(services, account.id, factor, code))) return false;
  await services.accounts.setSecondFactor(account.id, undefined, services.tokens.hashOf(token), account, services.now());
  return true;
}

/** Whether a code, or a recovery code, is right; each works once. */
export async function passesSecondFactor(services: Services, account: number, factor: SecondFactor, given: string): Promise<boolean> {
  const code = given.replace(/\s/g, "").toLowerCase();
  const hash = services.digest(code);
  if (factor.recovery.includes(hash))
    return services.accounts.useSecondFactor(account, factor, { ...factor, recovery: factor.recovery.filter((one) => one !== hash) });
  const secret = services.sealer.open(factor.sealed);
  const step = secret === undefined ? undefined : await stepOfCode(secret, code, factor.lastStep, Date.parse(services.now()));
  return step !== undefined && services.accounts.useSecondFactor(account, factor, { ...factor, lastStep: step });
}

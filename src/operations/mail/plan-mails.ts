import type { Language } from "@/core/certification/signing-statement";
import { certifiers } from "@/core/certification/certifier";
import { addDays, parseCivilDay, formatCivilDay } from "@/core/time/civil-day";
import { required } from "@/core/kernel/invariant";
import { todayOf } from "../findings/today";
import { openRegister } from "../register/open-register";
import type { AccountDetails } from "../ports/accounts";
import type { NewMail } from "../ports/mail";
import type { Docket, Round } from "../ports/rounds";
import type { Services } from "../services";
import { usableAddress } from "./usable-address";

/** What a certifier needs for a line, with nothing against it and with a finding. */
export const secondsALine = { plain: 6, flagged: 25 };

export const minutesFor = (lines: number, flagged: number): number =>
  Math.max(1, Math.round((flagged * secondsALine.flagged + (lines - flagged) * secondsALine.plain) / 60));

const daysBefore = (date: string, days: number): string => formatCivilDay(addDays(required(parseCivilDay(date), "a due date is a date"), -days));

interface Recipient {
  readonly name: string;
  readonly address: string;
  readonly language: Language;
  readonly account: number | undefined;
}

/** Who gets the mails of a cardholder: the address of their account, else the one that the register has; nobody where neither can be used. */
function recipients(
  accounts: readonly AccountDetails[],
  emailOf: (cardholder: string) => { readonly name: string; readonly email: string | undefined } | undefined,
) {
  const byCardholder = new Map(
    accounts.flatMap((account) => (account.cardholder === undefined || account.endedAt !== undefined ? [] : [[account.cardholder, account] as const])),
  );
  return (cardholder: string): Recipient | undefined => {
    const [account, known] = [byCardholder.get(cardholder), emailOf(cardholder)];
    const address = usableAddress(account?.email) ?? usableAddress(known?.email);
    return address === undefined ? undefined : { name: account?.name ?? known?.name ?? "", address, language: account?.language ?? "en", account: account?.id };
  };
}

/** Which mails a docket asks for by now: only the latest reminder and the latest escalation that is due, however many days were missed. */
function dueOf(
  docket: Docket,
  { due, terms }: Round,
  today: string,
): readonly { readonly kind: "invitation" | "reminder" | "escalation"; readonly key: string }[] {
  const reminder = terms.remind.filter((days) => today >= daysBefore(due, days) && today <= due).sort((a, b) => a - b)[0];
  const escalation = terms.escalate.filter((days) => today >= daysBefore(due, -days)).sort((a, b) => b - a)[0];
  return [
    { kind: "invitation", key: `invitation ${docket.id}` },
    ...(reminder === undefined ? [] : [{ kind: "reminder" as const, key: `reminder ${docket.id} ${reminder}` }]),
    ...(escalation === undefined ? [] : [{ kind: "escalation" as const, key: `escalation ${docket.id} ${escalation}` }]),
  ];
}

/**
 * Queues what open rounds ask for by now: invitations, reminders and escalations, each once. Who has no address that can be used gets none, and the page
 * says so.
 */
export async function queueRoundMails(services: Services): Promise<number> {
  if (services.mailSender.address === undefined) return 0;
  const open = (await services.rounds.list()).filter(({ closedAt }) => closedAt === undefined);
  if (open.length === 0) return 0;
  const at = services.now();
  const today = todayOf(services);
  const known = await services.mails.queuedKeys(open.map(({ id }) => id));
  const accounts = await services.accounts.details();
  const mails: NewMail[] = [];
  for (const round of open) {
    const dockets = (await services.rounds.dockets({ round: round.id })).filter(
      ({ held, signedAt, closedAt, certifier, lines }) => !held && signedAt === undefined && closedAt === undefined && certifier !== undefined && lines > 0,
    );
    const asked = dockets.flatMap((docket) => dueOf(docket, round, today).flatMap((one) => (known.has(one.key) ? [] : [{ docket, ...one }])));
    const register = asked.length === 0 ? undefined : await openRegister(services, round.snapshot);
    if (!register) continue;
    const { facility, cardholderById } = register.compiled;
    const holderOf = (id: string) => facility.cardholders[cardholderById.get(id) ?? -1];
    const recipientOf = recipients(accounts, (id) => {
      const holder = holderOf(id);
      return holder && { name: holder.name, email: holder.email };
    });
    const managerOf = certifiers(facility);
    for (const { docket, kind, key } of asked) {
      const certifier = required(docket.certifier, "dockets without a certifier were left out");
      const holder = holderOf(certifier);
      const manager = kind === "escalation" && holder ? managerOf(holder)?.cardholder : undefined;
      const to = kind === "escalation" ? (manager === undefined ? undefined : recipientOf(manager)) : recipientOf(certifier);
      // A link signs in: where there is no account yet, there is nothing to sign in to.
      if (!to || (kind !== "escalation" && to.account === undefined)) continue;
      const [lines, flagged] = [docket.lines - docket.decided, docket.flagged];
      const words = services.papers.mailWords({
        kind,
        language: to.language,
        name: to.name,
        round: round.name,
        due: round.due,
        lines,
        flagged: Math.min(flagged, lines),
        minutes: minutesFor(lines, Math.min(flagged, lines)),
        ...(kind === "escalation" && { certifier: docket.certifierName ?? "" }),
      });
      mails.push({
        ...words,
        kind,
        dueKey: key,
        round: round.id,
        docket: docket.id,
        toAddress: to.address,
        toName: to.name,
        account: kind === "escalation" ? undefined : to.account,
        path: `/docket/${docket.id}`,
      });
    }
  }
  return services.mails.queue(mails, at);
}

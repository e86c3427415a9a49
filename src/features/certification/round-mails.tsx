"use client";

import { Button } from "@mantine/core";
import { useRouter } from "next/navigation";
import { useState } from "react";
import type { MadeAccount } from "@/operations/administration/accounts";
import type { RoundSheet } from "@/operations/certification/show-rounds";
import type { MailKind } from "@/operations/ports/mail";
import sheet from "@/ui/sheet.module.css";
import { useAction } from "@/ui/use-action";
import { LinkNote } from "../administration/link-note";
import { capital, plural } from "../words/numbers";
import { clockText } from "../words/times";

const kindWords: Readonly<Record<MailKind, readonly [one: string, many: string]>> = {
  invitation: ["invitation", "invitations"],
  reminder: ["reminder", "reminders"],
  escalation: ["escalation", "escalations"],
  receipt: ["receipt", "receipts"],
  orders: ["mail of orders", "mails of orders"],
  "orders-reminder": ["reminder of orders", "reminders of orders"],
  anchor: ["head of the record", "heads of the record"],
};

const kinds = ["invitation", "reminder", "escalation", "receipt", "orders", "orders-reminder"] as const satisfies readonly MailKind[];

/** The mails of a round: what went out, what waits or could not be sent and why, and whom no mail reaches. */
export function RoundMails({
  overview: { round, dockets, mails },
  makeAccounts,
}: {
  readonly overview: RoundSheet;
  /** Makes accounts for all certifiers that have none; undefined where this account may not. */
  readonly makeAccounts: ((round: number) => Promise<readonly MadeAccount[] | undefined>) | undefined;
}) {
  const router = useRouter();
  const { busy, run } = useAction();
  const [made, setMade] = useState<readonly MadeAccount[]>();
  const open = dockets.filter(({ signedAt, closedAt, certifier }) => signedAt === undefined && closedAt === undefined && certifier !== undefined);
  const without = open.filter(({ account }) => account === undefined).length;
  const invited = new Set((mails ?? []).filter(({ kind }) => kind === "invitation").map(({ docket }) => docket));
  const unreached = open.filter(({ id, account, held }) => account !== undefined && !held && !invited.has(id));
  const sent = kinds.flatMap((kind) => {
    const count = (mails ?? []).filter((mail) => mail.kind === kind && mail.sentAt !== undefined).length;
    return count === 0 ? [] : [plural(count, ...kindWords[kind])];
  });
  const failing = (mails ?? []).filter(({ sentAt, lastError }) => sentAt === undefined && lastError !== undefined);
  const waiting = (mails ?? []).filter(({ sentAt, lastError }) => sentAt === undefined && lastError === undefined).length;
  return (
    <>
      {mails === undefined ? (
        <p className={sheet.sub}>No mail server is set: nobody is invited or reminded by mail.</p>
      ) : (
        <>
          <p className={sheet.sub}>
            {sent.length === 0 ? "Nothing was sent yet." : `Sent: ${sent.join(", ")}.`}
            {waiting > 0 && ` ${capital(plural(waiting, "waits", "wait"))} to be sent.`}
          </p>
          {failing.map(({ toName, kind, tries, lastError, nextAt, docket, madeAt }) => (
            <p key={`${kind} ${docket} ${madeAt}`} className={sheet.grave}>
              The {kindWords[kind][0]} to {toName} could not be sent, {plural(tries, "try", "tries")} so far: {lastError} It is tried again from{" "}
              {clockText(nextAt)} on.
            </p>
          ))}
          {unreached.length > 0 && round.closedAt === undefined && (
            <p className={sheet.sub}>
              No mail reaches {unreached.map(({ certifierName }) => certifierName ?? "").join(", ")}: neither account nor register has an address that can be
              used, or it is not written yet.
            </p>
          )}
        </>
      )}
      {without > 0 && (
        <>
          <p className={sheet.sub}>{capital(plural(without, "certifier has", "certifiers have"))} no account to sign with.</p>
          {makeAccounts && (
            <Button
              variant="default"
              loading={busy}
              onClick={() =>
                run(async () => {
                  setMade(await makeAccounts(round.id));
                  router.refresh();
                })
              }
            >
              {without === 1 ? "Make the account" : `Make all ${without} accounts`}
            </Button>
          )}
        </>
      )}
      {made?.map(({ name, signIn, email, link }) => (
        <div key={signIn}>
          <LinkNote name={name} link={link} />
          {mails !== undefined && email !== undefined && <p className={sheet.sub}>They are invited by mail, too.</p>}
        </div>
      ))}
    </>
  );
}

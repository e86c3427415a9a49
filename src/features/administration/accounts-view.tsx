"use client";

import { Checkbox, UnstyledButton } from "@mantine/core";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";
import type { AccountOutcome, AccountsList, AskedAccount } from "@/operations/administration/accounts";
import type { Role } from "@/operations/ports/accounts";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { useAction } from "@/ui/use-action";
import { nothingAsked, QuestionLine } from "../inquiry/question-line";
import { RecordLink } from "../evidence/record-link";
import { capital, listWords, plural } from "../words/numbers";
import { clockText } from "../words/times";
import { AccountForm } from "./account-form";
import { accountRefusals, roleNames, stateOfAccount } from "./account-words";
import classes from "./administration.module.css";
import { LinkNote } from "./link-note";

export interface AccountsActions {
  readonly add: (asked: AskedAccount) => Promise<AccountOutcome>;
  readonly change: (id: number, asked: AskedAccount) => Promise<AccountOutcome>;
  readonly end: (id: number, isEnded: boolean) => Promise<AccountOutcome>;
  readonly reset: (id: number) => Promise<AccountOutcome>;
  readonly askFactor: (role: Role, isAsked: boolean) => Promise<void>;
}

type Listed = AccountsList["accounts"][number];

/** Every account with its role, its state and what can be done about it; new ones in the margin. */
export function AccountsView({ list, own, actions }: { readonly list: AccountsList; readonly own: number; readonly actions: AccountsActions }) {
  const router = useRouter();
  const { busy, refused, run } = useAction();
  const [link, setLink] = useState<{ readonly name: string; readonly link: string }>();
  const [changed, setChanged] = useState<number>();
  const [added, setAdded] = useState(0);
  const told = (name: string, act: Promise<AccountOutcome>) => async (): Promise<string | undefined> => {
    const done = await act;
    if (done.outcome === "refused") return accountRefusals[done.why];
    setLink(done.link === undefined ? undefined : { name, link: done.link });
    router.refresh();
    return undefined;
  };
  const { accounts, secondFactor } = list;
  const standing = accounts.filter(({ endedAt }) => endedAt === undefined);
  const waiting = standing.filter(({ hasPassword }) => !hasPassword).length;
  const margin = (
    <>
      <h2>A new account</h2>
      <p className={sheet.sub}>It begins without a password: a link that works once sets it.</p>
      <AccountForm
        key={added}
        sites={list.sites}
        send={async (asked) => {
          const why = await told(asked.name, actions.add(asked))();
          if (why === undefined) setAdded(added + 1);
          return why;
        }}
      />
      <h2>Second factor</h2>
      <p className={sheet.sub}>Who has such a role gives a code of an authenticator at each sign-in, and sets one up before anything else.</p>
      {(Object.keys(roleNames) as Role[]).map((role) => (
        <Checkbox
          key={role}
          label={roleNames[role]}
          checked={secondFactor.includes(role)}
          disabled={busy}
          my={6}
          onChange={(event) => {
            const isAsked = event.currentTarget.checked;
            run(async () => {
              await actions.askFactor(role, isAsked);
              router.refresh();
            });
          }}
        />
      ))}
    </>
  );
  const siteName = (id: string): string => list.sites.find((site) => site.id === id)?.name ?? id;
  const acts = (account: Listed) => (
    <span className={classes.acts}>
      {account.endedAt === undefined && (
        <UnstyledButton
          className={sheet.plain}
          aria-expanded={changed === account.id}
          onClick={() => setChanged(changed === account.id ? undefined : account.id)}
        >
          change …
        </UnstyledButton>
      )}
      {account.endedAt === undefined && account.id !== own && (
        <UnstyledButton className={sheet.plain} disabled={busy} onClick={() => run(() => told(account.name, actions.reset(account.id))())}>
          {account.hasPassword ? "reset" : "new link"}
        </UnstyledButton>
      )}
      {account.id !== own && (
        <UnstyledButton
          className={sheet.plain}
          disabled={busy}
          onClick={() => run(() => told(account.name, actions.end(account.id, account.endedAt === undefined))())}
        >
          {account.endedAt === undefined ? "end" : "take the end back"}
        </UnstyledButton>
      )}
      <RecordLink of={{ on: [`account ${account.id}`, account.signIn] }} words="record" />
    </span>
  );
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />} margin={margin}>
      <Heading
        result={capital(plural(standing.length, "account", "accounts"))}
        reference={<Link href="/accounts/look-ups">Who looked up whom</Link>}
        lead={waiting > 0 ? `${capital(plural(waiting, "has", "have"))} no password yet: send each their link.` : "Everybody can sign in."}
      />
      {link && <LinkNote {...link} />}
      {refused !== undefined && (
        <p role="alert" className={sheet.grave}>
          {refused}
        </p>
      )}
      <table className={sheet.table}>
        <thead>
          <tr>
            <th scope="col">Who</th>
            <th scope="col">Role</th>
            <th scope="col">State</th>
            <th scope="col">Last sign-in</th>
          </tr>
        </thead>
        <tbody>
          {accounts.map((account) => (
            <tr key={account.id} className={account.endedAt === undefined ? undefined : classes.ended}>
              <td>
                {account.name}
                <div className={sheet.sub}>
                  {account.signIn}
                  {account.email !== undefined && account.email !== account.signIn ? `, ${account.email}` : ""}
                </div>
                {acts(account)}
                {changed === account.id && (
                  <AccountForm
                    account={account}
                    sites={list.sites}
                    send={async (asked) => {
                      const why = await told(asked.name, actions.change(account.id, asked))();
                      if (why === undefined) setChanged(undefined);
                      return why;
                    }}
                  />
                )}
              </td>
              <td>
                {roleNames[account.role]}
                {account.sites && <div className={sheet.sub}>only {listWords(account.sites.map(siteName))}</div>}
                {account.cardholder !== undefined && (
                  <div className={sheet.sub}>{account.cardholderName ?? `cardholder ${account.cardholder}, whom the register does not have`}</div>
                )}
              </td>
              <td>{stateOfAccount(account, secondFactor.includes(account.role))}</td>
              <td className={sheet.sub}>{account.lastSignIn === undefined ? "never" : clockText(account.lastSignIn)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Sheet>
  );
}

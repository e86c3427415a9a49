"use client";

import { Button, PasswordInput, TextInput, UnstyledButton } from "@mantine/core";
import { useForm } from "@mantine/form";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";
import type { Language } from "@/core/certification/signing-statement";
import type { OwnAccount, PasswordOutcome } from "@/operations/administration/own-account";
import sheet from "@/ui/sheet.module.css";
import { useAction } from "@/ui/use-action";
import type { AccountWords } from "../words/account/account-words";
import { accountWords } from "../words/account/in-language";
import classes from "./administration.module.css";

export interface OfferedSquare {
  readonly secret: string;
  /** The address for an authenticator as a square to be read by its camera: SVG made by us. */
  readonly square: string;
}

export interface OwnAccountActions {
  readonly changePassword: (present: string, next: string) => Promise<PasswordOutcome>;
  readonly endSession: (id: string) => Promise<boolean>;
  readonly offer: () => Promise<OfferedSquare>;
  /** Recovery codes, or nothing where the code was not right. */
  readonly confirm: (secret: string, code: string) => Promise<readonly string[] | undefined>;
  readonly drop: (code: string) => Promise<boolean>;
}

function Password({
  hasPassword,
  change,
  words,
}: {
  readonly hasPassword: boolean;
  readonly change: OwnAccountActions["changePassword"];
  readonly words: AccountWords["password"];
}) {
  const router = useRouter();
  const { busy, refused, run } = useAction();
  const form = useForm({ initialValues: { present: "", next: "" } });
  const [isDone, setDone] = useState(false);
  const submit = form.onSubmit(({ present, next }) =>
    run(async () => {
      const done = await change(present, next);
      if (done !== "changed") return words.refusals[done];
      form.reset();
      setDone(true);
      router.refresh();
      return undefined;
    }),
  );
  return (
    <form className={classes.form} onSubmit={submit}>
      {hasPassword && <PasswordInput label={words.present} autoComplete="current-password" {...form.getInputProps("present")} />}
      <PasswordInput
        label={hasPassword ? words.next : words.first}
        description={words.atLeast}
        autoComplete="new-password"
        {...form.getInputProps("next")}
      />
      {refused !== undefined && (
        <p role="alert" className={sheet.grave}>
          {refused}
        </p>
      )}
      {isDone && refused === undefined && <p role="status">{words.isChanged}</p>}
      <Button type="submit" loading={busy} disabled={form.values.next === ""}>
        {hasPassword ? words.change : words.set}
      </Button>
    </form>
  );
}

function SecondFactor({ own, actions, words }: { readonly own: OwnAccount; readonly actions: OwnAccountActions; readonly words: AccountWords["factor"] }) {
  const router = useRouter();
  const { busy, refused, run } = useAction();
  const [offered, setOffered] = useState<OfferedSquare>();
  const [code, setCode] = useState("");
  const [codes, setCodes] = useState<readonly string[]>();
  const confirm = () =>
    run(async () => {
      const made = offered && (await actions.confirm(offered.secret, code));
      if (!made) return words.wrong;
      setCodes(made);
      setOffered(undefined);
      setCode("");
      router.refresh();
      return undefined;
    });
  const drop = () =>
    run(async () => {
      if (!(await actions.drop(code))) return words.wrong;
      setCode("");
      router.refresh();
      return undefined;
    });
  const field = (
    <TextInput
      label={words.code}
      inputMode="numeric"
      autoComplete="one-time-code"
      maxLength={16}
      value={code}
      onChange={(event) => setCode(event.currentTarget.value)}
    />
  );
  const told = refused !== undefined && (
    <p role="alert" className={sheet.grave}>
      {refused}
    </p>
  );
  if (codes)
    return (
      <div role="status">
        <p>{words.keepCodes}</p>
        <ul className={classes.codes}>
          {codes.map((one) => (
            <li key={one}>{one}</li>
          ))}
        </ul>
      </div>
    );
  if (own.account.hasSecondFactor)
    return own.isFactorAsked ? (
      <p>{words.isAsked}</p>
    ) : (
      <div className={classes.form}>
        <p>{words.inForce}</p>
        {field}
        {told}
        <Button variant="default" loading={busy} disabled={code === ""} onClick={drop}>
          {words.takeAway}
        </Button>
      </div>
    );
  if (!offered)
    return (
      <>
        <p>{own.isFactorAsked ? words.askedFirst : words.what}</p>
        <Button variant="default" loading={busy} onClick={() => run(async () => setOffered(await actions.offer()))}>
          {words.setUp}
        </Button>
      </>
    );
  return (
    <div className={classes.form}>
      <p>{words.readThis}</p>
      <div className={classes.square} role="img" aria-label={words.square} dangerouslySetInnerHTML={{ __html: offered.square }} />
      <code>{offered.secret}</code>
      {field}
      {told}
      <Button loading={busy} disabled={code === ""} onClick={confirm}>
        {words.putInForce}
      </Button>
    </div>
  );
}

/** One's own account: password, second factor, and where one is signed in. */
export function OwnAccountView({
  own,
  actions,
  back,
  language,
}: {
  readonly own: OwnAccount;
  readonly actions: OwnAccountActions;
  readonly back: string | undefined;
  readonly language: Language;
}) {
  const words = accountWords(language);
  const router = useRouter();
  const { busy, run } = useAction();
  const { account, sessions } = own;
  return (
    <main className={classes.own} lang={language}>
      <h1>{account.name}</h1>
      <p className={sheet.sub}>
        {account.signIn}, {language === "en" ? words.roles[account.role].toLowerCase() : words.roles[account.role]}
        {back !== undefined && (
          <>
            {" · "}
            <Link href={back}>{words.back}</Link>
          </>
        )}
      </p>
      <h2>{words.password.heading}</h2>
      <Password hasPassword={account.hasPassword} change={actions.changePassword} words={words.password} />
      <h2>{words.factor.heading}</h2>
      <SecondFactor own={own} actions={actions} words={words.factor} />
      <h2>{words.sessions.heading(sessions.length)}</h2>
      <p className={sheet.sub}>{words.sessions.ends}</p>
      <table className={sheet.table}>
        <thead>
          <tr>
            <th scope="col">{words.sessions.where}</th>
            <th scope="col">{words.sessions.lastUsed}</th>
            <th scope="col">{words.sessions.since}</th>
            <th scope="col">{words.sessions.end}</th>
          </tr>
        </thead>
        <tbody>
          {sessions.map(({ id, agent, lastUsedAt, openedAt, isThis }) => (
            <tr key={id}>
              <td className={sheet.sub}>{agent === "" ? words.sessions.unknown : agent}</td>
              <td>{words.clock(lastUsedAt)}</td>
              <td>{words.clock(openedAt)}</td>
              <td>
                {isThis ? (
                  words.sessions.thisOne
                ) : (
                  <UnstyledButton
                    className={sheet.plain}
                    disabled={busy}
                    onClick={() =>
                      run(async () => {
                        await actions.endSession(id);
                        router.refresh();
                      })
                    }
                  >
                    {words.sessions.endIt}
                  </UnstyledButton>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </main>
  );
}

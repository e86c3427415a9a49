"use client";

import { Button, PasswordInput, TextInput, UnstyledButton } from "@mantine/core";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";
import type { OwnAccount, PasswordOutcome } from "@/operations/administration/own-account";
import sheet from "@/ui/sheet.module.css";
import { useAction } from "@/ui/use-action";
import { capital, plural } from "../words/numbers";
import { clockText } from "../words/times";
import { passwordRefusals, roleNames } from "./account-words";
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

function Password({ hasPassword, change }: { readonly hasPassword: boolean; readonly change: OwnAccountActions["changePassword"] }) {
  const router = useRouter();
  const { busy, refused, run } = useAction();
  const [present, setPresent] = useState("");
  const [next, setNext] = useState("");
  const [isDone, setDone] = useState(false);
  const submit = () =>
    run(async () => {
      const done = await change(present, next);
      if (done !== "changed") return passwordRefusals[done];
      setPresent("");
      setNext("");
      setDone(true);
      router.refresh();
      return undefined;
    });
  return (
    <form
      className={classes.form}
      onSubmit={(event) => {
        event.preventDefault();
        submit();
      }}
    >
      {hasPassword && (
        <PasswordInput label="Present password" autoComplete="current-password" value={present} onChange={(event) => setPresent(event.currentTarget.value)} />
      )}
      <PasswordInput
        label={hasPassword ? "New password" : "Password"}
        description="At least twelve characters."
        autoComplete="new-password"
        value={next}
        onChange={(event) => setNext(event.currentTarget.value)}
      />
      {refused !== undefined && (
        <p role="alert" className={sheet.grave}>
          {refused}
        </p>
      )}
      {isDone && refused === undefined && <p role="status">It is changed. All your other sessions have ended.</p>}
      <Button type="submit" loading={busy} disabled={next === ""}>
        {hasPassword ? "Change the password" : "Set the password"}
      </Button>
    </form>
  );
}

function SecondFactor({ own, actions }: { readonly own: OwnAccount; readonly actions: OwnAccountActions }) {
  const router = useRouter();
  const { busy, refused, run } = useAction();
  const [offered, setOffered] = useState<OfferedSquare>();
  const [code, setCode] = useState("");
  const [codes, setCodes] = useState<readonly string[]>();
  const wrong = "This code is not right, or was used already. Wait for the next one.";
  const confirm = () =>
    run(async () => {
      const made = offered && (await actions.confirm(offered.secret, code));
      if (!made) return wrong;
      setCodes(made);
      setOffered(undefined);
      setCode("");
      router.refresh();
      return undefined;
    });
  const drop = () =>
    run(async () => {
      if (!(await actions.drop(code))) return wrong;
      setCode("");
      router.refresh();
      return undefined;
    });
  const field = (
    <TextInput
      label="Code"
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
        <p>It is in force. Keep these codes where you find them without your authenticator: each works once, and they are shown only now.</p>
        <ul className={classes.codes}>
          {codes.map((one) => (
            <li key={one}>{one}</li>
          ))}
        </ul>
      </div>
    );
  if (own.account.hasSecondFactor)
    return own.isFactorAsked ? (
      <p>It is in force, and your role asks for it.</p>
    ) : (
      <div className={classes.form}>
        <p>It is in force. To take it away, give a code of it.</p>
        {field}
        {told}
        <Button variant="default" loading={busy} disabled={code === ""} onClick={drop}>
          Take it away
        </Button>
      </div>
    );
  if (!offered)
    return (
      <>
        <p>
          {own.isFactorAsked ? "Your role asks for one: set it up before anything else." : "A code of an authenticator beside the password, at each sign-in."}
        </p>
        <Button variant="default" loading={busy} onClick={() => run(async () => setOffered(await actions.offer()))}>
          Set it up
        </Button>
      </>
    );
  return (
    <div className={classes.form}>
      <p>Read this with your authenticator, or type the secret; then give the code that it shows.</p>
      <div
        className={classes.square}
        role="img"
        aria-label="The secret as a square to be read by a camera"
        dangerouslySetInnerHTML={{ __html: offered.square }}
      />
      <code>{offered.secret}</code>
      {field}
      {told}
      <Button loading={busy} disabled={code === ""} onClick={confirm}>
        Put it in force
      </Button>
    </div>
  );
}

/** One's own account: password, second factor, and where one is signed in. */
export function OwnAccountView({ own, actions, back }: { readonly own: OwnAccount; readonly actions: OwnAccountActions; readonly back: string | undefined }) {
  const router = useRouter();
  const { busy, run } = useAction();
  const { account, sessions } = own;
  return (
    <main className={classes.own}>
      <h1>{account.name}</h1>
      <p className={sheet.sub}>
        {account.signIn}, {roleNames[account.role].toLowerCase()}
        {back !== undefined && (
          <>
            {" · "}
            <Link href={back}>Back to your work</Link>
          </>
        )}
      </p>
      <h2>Password</h2>
      <Password hasPassword={account.hasPassword} change={actions.changePassword} />
      <h2>Second factor</h2>
      <SecondFactor own={own} actions={actions} />
      <h2>{capital(plural(sessions.length, "session", "sessions"))}</h2>
      <p className={sheet.sub}>Each ends by itself after twelve hours, or after eight without use.</p>
      <table className={sheet.table}>
        <thead>
          <tr>
            <th scope="col">Where</th>
            <th scope="col">Last used</th>
            <th scope="col">Since</th>
            <th scope="col">End</th>
          </tr>
        </thead>
        <tbody>
          {sessions.map(({ id, agent, lastUsedAt, openedAt, isThis }) => (
            <tr key={id}>
              <td className={sheet.sub}>{agent === "" ? "unknown browser" : agent}</td>
              <td>{clockText(lastUsedAt)}</td>
              <td>{clockText(openedAt)}</td>
              <td>
                {isThis ? (
                  "this one"
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
                    end it
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

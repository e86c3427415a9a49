"use client";

import { Button, PasswordInput, TextInput } from "@mantine/core";
import { useActionState, useState } from "react";
import classes from "./sign-in-form.module.css";

/** What became of a try to sign in: why it was refused, and whether a code of the second factor is asked for. */
export interface SignInState {
  readonly refused?: string;
  readonly codeNeeded?: boolean;
}

/** The way in. What was typed stays when it is refused. */
export function SignInForm({
  signIn,
  provider,
  refused,
}: {
  readonly signIn: (before: SignInState, form: FormData) => Promise<SignInState>;
  /** What the identity provider is called; undefined where there is none. */
  readonly provider: string | undefined;
  /** Why whoever came back from it was not let in. */
  readonly refused: string | undefined;
}) {
  const [state, action, busy] = useActionState(signIn, {});
  const [name, setName] = useState("");
  const [password, setPassword] = useState("");
  return (
    <main className={classes.page}>
      <section className={classes.words}>
        <h1>
          <span>Who</span> can open <span>which doors</span>, and <span>when</span>?
        </h1>
        <p>
          Nomade works out what people can really open, shows why, has it certified by those who answer for them, and proves afterwards that what was withdrawn
          is gone.
        </p>
      </section>
      <section className={classes.form}>
        <h2>Nomade</h2>
        <form action={action}>
          <TextInput
            label="Sign-in name"
            name="signIn"
            autoComplete="username"
            value={name}
            onChange={(event) => setName(event.currentTarget.value)}
            autoFocus
            required
          />
          <PasswordInput
            label="Password"
            name="password"
            autoComplete="current-password"
            mt="sm"
            value={password}
            onChange={(event) => setPassword(event.currentTarget.value)}
            required
          />
          {state.codeNeeded && (
            <TextInput
              label="Code of your authenticator"
              name="code"
              inputMode="numeric"
              autoComplete="one-time-code"
              maxLength={16}
              mt="sm"
              autoFocus
              required
            />
          )}
          {(state.refused ?? refused) !== undefined && (
            <p className={classes.refused} role="alert">
              {state.refused ?? refused}
            </p>
          )}
          <Button type="submit" mt="lg" loading={busy} fullWidth>
            Sign in
          </Button>
          {provider !== undefined && (
            // A whole new page: the way leads out of here.
            <Button component="a" href="/sign-in/on" variant="default" mt="sm" fullWidth>
              Sign in with {provider}
            </Button>
          )}
        </form>
      </section>
    </main>
  );
}

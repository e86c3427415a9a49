"use client";

import { Button, TextInput } from "@mantine/core";
import { useActionState } from "react";
import classes from "./sign-in-form.module.css";
import type { SignInState } from "./sign-in-form";

/** The way in by a link: it is used up only when somebody goes on, since programs that read mail open what they find. */
export function LinkForm({
  token,
  name,
  goOn,
}: {
  readonly token: string;
  readonly name: string;
  readonly goOn: (before: SignInState, form: FormData) => Promise<SignInState>;
}) {
  const [state, action, busy] = useActionState(goOn, {});
  return (
    <main className={classes.page}>
      <section className={classes.words}>
        <h1>{name}</h1>
        <p>This link signs you in once. If you are somebody else, close this page.</p>
      </section>
      <section className={classes.form}>
        <h2>Nomade</h2>
        <form action={action}>
          <input type="hidden" name="token" value={token} />
          {state.codeNeeded && (
            <TextInput label="Code of your authenticator" name="code" inputMode="numeric" autoComplete="one-time-code" maxLength={16} autoFocus required />
          )}
          {state.refused !== undefined && (
            <p className={classes.refused} role="alert">
              {state.refused}
            </p>
          )}
          <Button type="submit" mt="lg" loading={busy} fullWidth>
            Go on
          </Button>
        </form>
      </section>
    </main>
  );
}

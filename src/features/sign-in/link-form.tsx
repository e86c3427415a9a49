"use client";

import { Button, TextInput } from "@mantine/core";
import { useActionState } from "react";
import type { Language } from "@/core/certification/signing-statement";
import { accountWords } from "../words/account/in-language";
import classes from "./sign-in-form.module.css";
import type { SignInState } from "./sign-in-form";

/** The way in by a link: it is used up only when somebody goes on, since programs that read mail open what they find. */
export function LinkForm({
  token,
  name,
  language,
  goOn,
}: {
  readonly token: string;
  readonly name: string;
  readonly language: Language;
  readonly goOn: (before: SignInState, form: FormData) => Promise<SignInState>;
}) {
  const [state, action, busy] = useActionState(goOn, {});
  const words = accountWords(language).link;
  return (
    <main className={classes.page} lang={language}>
      <section className={classes.words}>
        <h1>{name}</h1>
        <p>{words.once}</p>
      </section>
      <section className={classes.form}>
        <h2>Nomade</h2>
        <form action={action}>
          <input type="hidden" name="token" value={token} />
          <input type="hidden" name="language" value={language} />
          {state.codeNeeded && <TextInput label={words.code} name="code" inputMode="numeric" autoComplete="one-time-code" maxLength={16} autoFocus required />}
          {state.refused !== undefined && (
            <p className={classes.refused} role="alert">
              {state.refused}
            </p>
          )}
          <Button type="submit" mt="lg" loading={busy} fullWidth>
            {words.goOn}
          </Button>
        </form>
      </section>
    </main>
  );
}

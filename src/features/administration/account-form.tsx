"use client";

import { Button, MultiSelect, Select, TextInput } from "@mantine/core";
import { useForm } from "@mantine/form";
import type { Language } from "@/core/certification/signing-statement";
import type { AskedAccount } from "@/operations/administration/accounts";
import type { AccountDetails, Role } from "@/operations/ports/accounts";
import sheet from "@/ui/sheet.module.css";
import { useAction } from "@/ui/use-action";
import { roleNames } from "./account-words";
import classes from "./administration.module.css";

interface Values {
  readonly signIn: string;
  readonly name: string;
  readonly role: Role;
  readonly cardholder: string;
  readonly email: string;
  readonly language: Language;
  readonly sites: string[];
}

const isLimitable = (role: Role): boolean => role === "reviewer" || role === "auditor";

const given = (text: string): string | undefined => (text.trim() === "" ? undefined : text.trim());

/** Adds an account, or changes one that is there. */
export function AccountForm({
  account,
  sites,
  send,
}: {
  readonly account?: AccountDetails;
  /** To which a reviewer or an auditor can be limited. */
  readonly sites: readonly { readonly id: string; readonly name: string }[];
  readonly send: (asked: AskedAccount) => Promise<string | undefined>;
}) {
  const { busy, refused, run } = useAction();
  const form = useForm<Values>({
    initialValues: {
      signIn: account?.signIn ?? "",
      name: account?.name ?? "",
      role: account?.role ?? "manager",
      cardholder: account?.cardholder ?? "",
      email: account?.email ?? "",
      language: account?.language ?? "en",
      sites: [...(account?.sites ?? [])],
    },
    validate: {
      signIn: (text) => (text.trim() === "" ? "Give a name to sign in with." : null),
      name: (text) => (text.trim() === "" ? "Give a full name." : null),
      email: (text) => (text.trim() === "" || /^[^\s@]+@[^\s@]+$/.test(text.trim()) ? null : "This is no e-mail address."),
    },
  });
  const submit = form.onSubmit(({ signIn, name, role, cardholder, email, language, sites: limitedTo }) =>
    run(() =>
      send({
        signIn: signIn.trim(),
        name: name.trim(),
        role,
        cardholder: given(cardholder),
        email: given(email),
        language,
        ...(isLimitable(role) && limitedTo.length > 0 && { sites: limitedTo }),
      }),
    ),
  );
  return (
    <form className={classes.form} onSubmit={submit}>
      <TextInput label="Sign-in name" maxLength={128} disabled={account !== undefined} {...form.getInputProps("signIn")} />
      <TextInput label="Full name" maxLength={255} {...form.getInputProps("name")} />
      <Select label="Role" data={Object.entries(roleNames).map(([value, label]) => ({ value, label }))} allowDeselect={false} {...form.getInputProps("role")} />
      {isLimitable(form.values.role) && (
        <MultiSelect
          label="Only these sites"
          description="Then they see register, questions and answers of these, and rounds that were opened for these alone; no findings, events, drafts, intakes or record."
          placeholder={form.values.sites.length === 0 ? "all sites" : ""}
          data={sites.map(({ id, name }) => ({ value: id, label: name }))}
          searchable
          clearable
          {...form.getInputProps("sites")}
        />
      )}
      <TextInput
        label="Cardholder"
        description="Their id in the register; managers and area owners need one."
        maxLength={128}
        {...form.getInputProps("cardholder")}
      />
      <TextInput label="E-mail" maxLength={254} {...form.getInputProps("email")} />
      <Select
        label="Language of docket and mail"
        data={[
          { value: "en", label: "English" },
          { value: "de", label: "Deutsch" },
        ]}
        allowDeselect={false}
        {...form.getInputProps("language")}
      />
      {refused !== undefined && (
        <p role="alert" className={sheet.grave}>
          {refused}
        </p>
      )}
      <Button type="submit" loading={busy}>
        {account ? "Keep it so" : "Add the account"}
      </Button>
    </form>
  );
}

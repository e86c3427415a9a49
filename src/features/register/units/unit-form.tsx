"use client";

import { Button, PasswordInput, Select, Switch, TextInput } from "@mantine/core";
import { useForm } from "@mantine/form";
import { useRouter } from "next/navigation";
import type { KeptUnit, WrittenUnit } from "@/operations/units/keep-units";
import type { ShownUnit } from "@/operations/units/show-units";
import { useAction } from "@/ui/use-action";
import classes from "./units.module.css";

export interface UnitFormActions {
  readonly keep: (unit: WrittenUnit) => Promise<KeptUnit>;
  readonly drop: (unit: string) => Promise<boolean>;
}

const refusedWords: Readonly<Record<Exclude<KeptUnit, "kept">, string>> = {
  "no-such-address": "Its address begins with http:// or https:// and has no name, password or question in it.",
  "token-missing": "A unit answers to its token only: enter it.",
};

/** Where a unit answers, by what token, and whether it is sent from here. */
export function UnitForm({ unit: { line, address, erring }, actions }: { readonly unit: ShownUnit; readonly actions: UnitFormActions }) {
  const router = useRouter();
  const { busy, refused, run } = useAction();
  const isKnown = line.standing !== "not-known";
  const form = useForm({
    initialValues: { address: address ?? "", token: "", isSentFromHere: line.isSentFromHere, erring },
    validate: { address: (text: string) => (text.trim() === "" ? "Type its address." : null) },
  });
  const keep = form.onSubmit((typed) =>
    run(async () => {
      const outcome = await actions.keep({
        id: line.id,
        address: typed.address.trim(),
        ...(typed.token !== "" && { token: typed.token }),
        isSentFromHere: typed.isSentFromHere,
        erring: typed.erring,
      });
      if (outcome !== "kept") return refusedWords[outcome];
      form.setFieldValue("token", "");
      router.refresh();
      return undefined;
    }),
  );
  const drop = (): void =>
    run(async () => {
      await actions.drop(line.id);
      router.refresh();
    });
  return (
    <section aria-labelledby="where-it-answers">
      <h2 id="where-it-answers">Where it answers</h2>
      <form onSubmit={keep} className={classes.stack} noValidate>
        <TextInput label="Address" size="xs" placeholder="https://unit.example/" {...form.getInputProps("address")} />
        <PasswordInput label="Token" size="xs" autoComplete="off" placeholder={isKnown ? "as it is" : ""} {...form.getInputProps("token")} />
        <Switch label="What it holds is sent from here" size="xs" {...form.getInputProps("isSentFromHere", { type: "checkbox" })} />
        <Select
          label="Where it cannot hold what the register says"
          size="xs"
          allowDeselect={false}
          data={[
            { value: "less", label: "it opens less" },
            { value: "more", label: "it opens more" },
          ]}
          {...form.getInputProps("erring")}
        />
        <div className={classes.side}>
          <Button type="submit" size="xs" loading={busy}>
            {isKnown ? "Keep it so" : "Make it known"}
          </Button>
          {isKnown && (
            <Button size="xs" variant="default" disabled={busy} onClick={drop}>
              Forget it
            </Button>
          )}
        </div>
      </form>
      {refused !== undefined && <p role="alert">{refused}</p>}
    </section>
  );
}

"use client";

import { Button, Select, TextInput } from "@mantine/core";
import { useForm } from "@mantine/form";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";
import type { BoxFault, CardBox } from "@/core/drafting/card-box";
import { bitsOf26, cardsOf, faultsOf, open26 } from "@/core/drafting/card-box";
import type { Credential } from "@/core/facility/document";
import { credentialLabel } from "@/core/facility/labels";
import type { BoxOutcome } from "@/operations/register/drafts/change-draft";
import type { Draft } from "@/operations/ports/drafts";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { useAction } from "@/ui/use-action";
import { nothingAsked, QuestionLine } from "../../inquiry/question-line";
import { plural } from "../../words/numbers";
import { draftHref } from "./addresses";
import type { DraftActions } from "./draft-actions";
import classes from "./drafts.module.css";

const kinds: readonly Credential["kind"][] = ["card", "fob"];
const statuses: readonly (readonly [Credential["status"], string])[] = [
  ["stock", "stock, not handed out"],
  ["active", "active"],
  ["suspended", "suspended"],
];

/** The bits of a card in groups: parity, facility code, number, parity. */
const grouped = (bits: string): string => `${bits.slice(0, 1)} ${bits.slice(1, 9)} ${bits.slice(9, 25)} ${bits.slice(25)}`;

function Sample({ card, is26 }: { readonly card: Credential; readonly is26: boolean }) {
  const bits = is26 ? bitsOf26(Number(card.facilityCode), Number(card.number)) : undefined;
  return (
    <>
      <dt>{credentialLabel(card)}</dt>
      <dd>
        {card.facilityCode}-{card.number}
        {bits !== undefined && <div className={classes.bits}>{grouped(bits)}</div>}
      </dd>
    </>
  );
}

/** What is wrong with each field, in words. */
function faultWords(box: CardBox): Partial<Record<BoxFault["field"], string>> {
  const words: Partial<Record<BoxFault["field"], string>> = {};
  for (const { field, value, expected } of faultsOf(box)) words[field] ??= `${value === "" ? "Nothing is here" : `Found ${value}`}; expected ${expected}`;
  return words;
}

/** A box of cards by its first and last number, checked as it is typed. */
export function BoxForm({ draft, add }: { readonly draft: Pick<Draft, "id" | "name">; readonly add: DraftActions["addBox"] }) {
  const router = useRouter();
  const { busy, run } = useAction();
  const [outcome, setOutcome] = useState<BoxOutcome>();
  const form = useForm<CardBox>({
    initialValues: { kind: "card", status: "stock", bitFormat: open26.name, facilityCode: "", first: "", last: "", printedFirst: undefined },
    validateInputOnBlur: true,
    validate: faultWords,
    onValuesChange: () => setOutcome(undefined),
  });
  const box = form.values;
  const cards = faultsOf(box).length === 0 ? cardsOf(box) : [];
  const is26 = box.bitFormat === open26.name;
  const number = (field: "facilityCode" | "first" | "last" | "printedFirst", label: string, hint?: string) => (
    <TextInput
      label={label}
      description={hint}
      inputMode="numeric"
      required={field !== "printedFirst"}
      {...form.getInputProps(field)}
      value={box[field] ?? ""}
      onChange={(event) => {
        const typed = event.currentTarget.value.trim();
        form.setFieldValue(field, field === "printedFirst" && typed === "" ? undefined : typed);
      }}
    />
  );
  const submit = (wanted: CardBox): void =>
    run(async () => {
      const done = await add(draft.id, wanted);
      if (done.outcome === "written") router.push(draftHref(draft.id));
      else setOutcome(done);
    });
  const [first, last] = [cards[0], cards[cards.length - 1]];
  const margin = (
    <>
      <h2>{cards.length > 0 ? `${cards.length.toLocaleString("en-GB")} cards` : "The cards"}</h2>
      {first && last ? (
        <>
          <dl className={sheet.facts}>
            <Sample card={first} is26={is26} />
            {cards.length > 1 && <Sample card={last} is26={is26} />}
          </dl>
          {is26 && <p className={sheet.sub}>Bits as they are sent: parity, facility code, number, parity.</p>}
        </>
      ) : (
        <p className={sheet.sub}>Facility code, first and last number say which they are.</p>
      )}
    </>
  );
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />} margin={margin}>
      <Heading
        result="A box of cards"
        reference={
          <>
            <Link href={draftHref(draft.id)}>Draft {draft.id}</Link>, {draft.name}
          </>
        }
        lead="Cards come in boxes of consecutive numbers with one facility code. Those in stock should not be active before they are handed out."
      />
      {outcome?.outcome === "faulty-box" && outcome.takenCount > 0 && (
        <div className={classes.faults} role="alert">
          <strong>Nothing was written: {plural(outcome.takenCount, "of these numbers is", "of these numbers are")} there already.</strong>
          <div>
            {outcome.taken.map(({ number: taken, by }) => `${taken} (${by})`).join(", ")}
            {outcome.takenCount > outcome.taken.length && " and others"}
          </div>
        </div>
      )}
      {outcome && outcome.outcome !== "faulty-box" && (
        <p role="alert" className={sheet.grave}>
          {outcome.outcome === "ended"
            ? "This draft is open no more; nothing was written."
            : "Somebody else added some of these meanwhile; nothing was written."}
        </p>
      )}
      <form className={classes.form} noValidate onSubmit={form.onSubmit(submit)}>
        <Select label="Kind" allowDeselect={false} data={[...kinds]} {...form.getInputProps("kind")} />
        <Select label="Status" allowDeselect={false} data={statuses.map(([value, label]) => ({ value, label }))} {...form.getInputProps("status")} />
        <Select
          label="Format"
          allowDeselect={false}
          data={[
            { value: open26.name, label: "open, 26 bits" },
            { value: "", label: "another, not checked" },
          ]}
          value={box.bitFormat ?? ""}
          onChange={(format) => form.setFieldValue("bitFormat", format === open26.name ? format : undefined)}
        />
        {number("facilityCode", "Facility code", is26 ? `0 to ${open26.facilityCodes - 1}` : undefined)}
        {number("first", "First number", is26 ? `0 to ${open26.numbers - 1}` : undefined)}
        {number("last", "Last number")}
        {number("printedFirst", "Number printed on the first", "where it is another than the encoded one")}
        <div className={`${classes.buttons} ${classes.wideField}`}>
          <Button type="submit" loading={busy}>
            {cards.length > 0 ? `Put ${cards.length.toLocaleString("en-GB")} cards into the draft` : "Put them into the draft"}
          </Button>
          <Button variant="default" component={Link} href={draftHref(draft.id)}>
            Leave it
          </Button>
        </div>
      </form>
    </Sheet>
  );
}

"use client";

import { Button, Checkbox, TextInput } from "@mantine/core";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { fieldChanges, sameValue } from "@/core/drafting/change";
import { differingParts } from "@/core/drafting/field-words";
import type { RegisterKind } from "@/core/register/kinds";
import { listOfKind } from "@/core/register/kinds";
import type { ChangeOutcome, WantedObject } from "@/operations/register/drafts/change-draft";
import type { EditedObject } from "@/operations/register/drafts/edit-object";
import { Heading, Sheet } from "@/ui/sheet";
import { useAction } from "@/ui/use-action";
import { nothingAsked, QuestionLine } from "../../inquiry/question-line";
import { capital } from "../../words/numbers";
import { draftHref } from "./addresses";
import type { DraftActions } from "./draft-actions";
import classes from "./drafts.module.css";
import type { EditorForm, Value } from "./editor-form";
import { EditorMargin } from "./editor-margin";
import { FieldInput } from "./field-input";
import { fieldsOf, listNames } from "./field-names";
import type { EditedMembership } from "./memberships-editor";
import { asEdited, MembershipsEditor } from "./memberships-editor";
import { nearId } from "./near-id";
import { NotWritten } from "./not-written";
import { wideFields } from "./special-fields";

interface EditorProps {
  readonly object: EditedObject;
  readonly change: DraftActions["change"];
}

/** One object as the draft would have it: its fields, and beside them what differs from the register. */
export function ObjectEditor({ object, change }: EditorProps) {
  const { draft, list, key, present, schedules, dayTypes } = object;
  const router = useRouter();
  const [value, setValue] = useState<Value>(object.value);
  const [ownId, setOwnId] = useState<string>();
  const [names, setNames] = useState(object.names);
  const [memberships, setMemberships] = useState<readonly EditedMembership[]>(() => asEdited(object.memberships));
  const [outcome, setOutcome] = useState<ChangeOutcome>();
  const [sent, setSent] = useState<readonly WantedObject[]>([]);
  const [ending, setEnding] = useState(false);
  const { busy, run } = useAction();

  const isNew = key === undefined;
  const id = isNew ? (ownId ?? nearId(list, value)) : key;
  const nameOf = (kind: RegisterKind, of: string): string => names[`${listOfKind[kind]} ${of}`] ?? of;
  const onNamed = (kind: RegisterKind, of: string, name: string): void => setNames((before) => ({ ...before, [`${listOfKind[kind]} ${of}`]: name }));
  const set = (changes: Value): void =>
    setValue((before) => Object.fromEntries(Object.entries({ ...before, ...changes }).filter(([, part]) => part !== undefined)));
  const faultOf = (field: string): string | undefined =>
    outcome?.outcome === "faulty"
      ? outcome.faults
          .filter(({ path }) => path === field || path.startsWith(`${field}.`) || path.startsWith(`${field}[`))
          .map(({ message }) => message)
          .join(" ") || undefined
      : undefined;

  const membershipChanges = (): WantedObject[] =>
    memberships.flatMap(({ key: own, other, from, until, seen, removed }): WantedObject[] => {
      const before = object.memberships.find((one) => one.key === own);
      if (own !== undefined && !removed && (before?.from ?? "") === from && (before?.until ?? "") === until) return [];
      const [group, cardholder] = list === "groups" ? [id, other] : [other, id];
      const wanted = removed ? undefined : { group, cardholder, ...(from !== "" && { from }), ...(until !== "" && { until }) };
      return [{ list: "memberships", key: own, value: wanted, seen }];
    });

  const send = (objects: readonly WantedObject[], despite = false): void =>
    run(async () => {
      setSent(objects);
      const done = objects.length === 0 ? ({ outcome: "written", revision: 0 } as const) : await change(draft.id, objects, despite);
      if (done.outcome === "written") router.push(draftHref(draft.id));
      else {
        setOutcome(done);
        window.scrollTo({ top: 0 });
      }
    });
  const wanted = (seen: number): WantedObject[] => {
    const own: Value = { ...value, ...(list !== "memberships" && { id }) };
    const isSame = !isNew && sameValue(own, object.value) && seen === object.seen;
    return [...(isSame ? [] : [{ list, key, value: own, seen }]), ...membershipChanges()];
  };

  const fields = fieldsOf[list];
  const flags = fields.filter((field) => field.as === "flag");
  const differing = fieldChanges(present, isNew ? value : { ...value, id }).map(({ field, before, after }) => ({
    field,
    ...differingParts(
      list,
      field,
      before,
      after,
      (of, one) => names[`${of} ${one}`] ?? schedules.find((schedule) => of === "schedules" && schedule.id === one)?.name ?? one,
    ),
  }));
  const what = listNames[list][0];
  const form: EditorForm = { draft: draft.id, list, value, timeZone: object.timeZone, set, faultOf, nameOf, onNamed, schedules, dayTypes };
  const margin = (
    <EditorMargin
      object={object}
      differing={differing}
      taken={ownId}
      onTake={(number) => {
        setOwnId(number?.credential);
        set({ number: number?.credential, ...(number?.facilityCode !== undefined && { facilityCode: number.facilityCode }) });
      }}
    />
  );
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />} margin={margin}>
      <Heading
        result={isNew ? `A new ${what}` : object.label}
        reference={
          <>
            <Link href={draftHref(draft.id)}>Draft {draft.id}</Link>, {draft.name}
          </>
        }
        lead={isNew ? "It is in no register yet." : `${capital(what)} ${key}${present === undefined ? ", new in this draft" : ""}`}
      />
      <NotWritten
        outcome={outcome}
        list={list}
        busy={busy}
        onMine={({ differences }) => send(wanted(differences.find((one) => one.list === list)?.version ?? object.seen))}
        onTheirs={() => router.push(draftHref(draft.id))}
        onDespite={() => send(sent, true)}
        onAlong={({ along }) => send([...sent, ...along.map(({ label: _label, ...one }) => one)], true)}
      />
      <form
        className={classes.form}
        onSubmit={(event) => {
          event.preventDefault();
          send(wanted(object.seen));
        }}
        // In a field that offers something Enter takes what is offered, and nothing more.
        onKeyDown={(event) => {
          if (event.key === "Enter" && (event.target as HTMLElement).getAttribute("aria-haspopup") === "listbox") event.preventDefault();
        }}
        noValidate
      >
        {fields
          .filter((field) => field.as !== "flag")
          .map((field) => (
            <div key={field.key} className={field.as === "own" && wideFields.includes(field.key) ? classes.wideField : undefined}>
              <FieldInput form={form} field={field} />
            </div>
          ))}
        {isNew && list !== "memberships" && (
          <TextInput
            label="Id"
            description="as the source will call it"
            required
            error={faultOf("id")}
            value={id}
            onChange={(event) => setOwnId(event.currentTarget.value)}
          />
        )}
        {flags.length > 0 && (
          <div className={classes.flags}>
            {flags.map((field) => (
              <Checkbox
                key={field.key}
                label={field.label}
                checked={value[field.key] === true}
                onChange={(event) => set({ [field.key]: event.currentTarget.checked ? true : undefined })}
              />
            ))}
          </div>
        )}
        {(list === "groups" || list === "cardholders") && (
          <MembershipsEditor
            timeZone={object.timeZone}
            draft={draft.id}
            of={list === "groups" ? "group" : "cardholder"}
            rows={memberships}
            total={object.membershipCount}
            onChange={setMemberships}
          />
        )}
        <div className={`${classes.buttons} ${classes.wideField}`}>
          <Button type="submit" loading={busy}>
            Put it into the draft
          </Button>
          <Button variant="default" component={Link} href={draftHref(draft.id)}>
            Leave it
          </Button>
          {!isNew &&
            (ending ? (
              <>
                <span>
                  {list === "cardholders"
                    ? "Somebody who has left is better set to “left”: then it stays known what they could open. Take this person out, with their cards and grants, as if they had never been?"
                    : "Take it out of the register altogether?"}
                </span>
                <Button color="madder" variant="outline" disabled={busy} onClick={() => send([{ list, key, value: undefined, seen: object.seen }])}>
                  Take it out
                </Button>
              </>
            ) : (
              <Button variant="default" onClick={() => setEnding(true)}>
                Take it out …
              </Button>
            ))}
        </div>
      </form>
    </Sheet>
  );
}

"use client";

import { Button, Checkbox, NumberInput, Select, TextInput } from "@mantine/core";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import { fieldChanges, sameValue } from "@/core/drafting/change";
import { differingParts } from "@/core/drafting/field-words";
import type { CalendarDayDraft, LevelRow } from "@/core/facility/draft";
import type { RegisterKind } from "@/core/register/kinds";
import { listOfKind } from "@/core/register/kinds";
import type { ChangeOutcome, WantedObject } from "@/operations/change-draft";
import type { EditedObject } from "@/operations/edit-object";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { nothingAsked, QuestionLine } from "../../inquiry/question-line";
import { capital, listWords } from "../../words/numbers";
import { clockText } from "../../words/times";
import { draftHref } from "./addresses";
import { CalendarEditor } from "./calendar-editor";
import type { DraftActions } from "./draft-actions";
import classes from "./drafts.module.css";
import { FieldDifference } from "./field-difference";
import type { Field } from "./field-names";
import { fieldLabel, fieldsOf, listNames } from "./field-names";
import { HoursEditor } from "./hours-editor";
import { LevelSheet } from "./level-sheet";
import type { EditedMembership } from "./memberships-editor";
import { asEdited, MembershipsEditor } from "./memberships-editor";
import { ReferenceField, ReferencesField } from "./reference-field";

type Value = Readonly<Record<string, unknown>>;

const momentHint = "2026-12-31 [T18:00Z]";
const instantHint = "2026-12-31T18:00Z";
const slug = (text: string): string =>
  text
    .normalize("NFD")
    .replace(/\p{M}/gu, "")
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-|-$/g, "");

/** An id that lies near: from the name, or from the number of a card. */
function nearId({ list }: EditedObject, value: Value): string {
  if (list === "credentials") return [value.kind, value.facilityCode, value.number ?? value.printedNumber].filter((part) => typeof part === "string" && part !== "").join("-");
  if (list === "grants") {
    const side = (key: string): string => Object.values((value[key] ?? {}) as Record<string, string>)[0] ?? "";
    return slug(`${value.effect === "block" ? "block" : "grant"} ${side("to")} ${side("open")}`);
  }
  return slug(typeof value.name === "string" ? value.name : "");
}

const receivers = ["cardholder", "group", "credential"] as const satisfies readonly RegisterKind[];
const targets = ["level", "bundle", "door", "doorGroup", "area"] as const satisfies readonly RegisterKind[];

interface EditorProps {
  readonly object: EditedObject;
  readonly change: DraftActions["change"];
}

/** One object as the draft would have it: its fields, and beside them what differs from the register. */
export function ObjectEditor({ object, change }: EditorProps) {
  const { draft, list, key, present, schedules, dayTypes, unknownNumbers } = object;
  const router = useRouter();
  const [value, setValue] = useState<Value>(object.value);
  const [ownId, setOwnId] = useState<string>();
  const [names, setNames] = useState(object.names);
  const [memberships, setMemberships] = useState<readonly EditedMembership[]>(() => asEdited(object.memberships));
  const [outcome, setOutcome] = useState<ChangeOutcome>();
  const [ending, setEnding] = useState(false);
  const [busy, start] = useTransition();

  const isNew = key === undefined;
  const id = isNew ? (ownId ?? nearId(object, value)) : key;
  const nameOf = (kind: RegisterKind, of: string): string => names[`${listOfKind[kind]} ${of}`] ?? of;
  const onNamed = (kind: RegisterKind, of: string, name: string): void => setNames((before) => ({ ...before, [`${listOfKind[kind]} ${of}`]: name }));
  const set = (changes: Value): void =>
    setValue((before) => Object.fromEntries(Object.entries({ ...before, ...changes }).filter(([, part]) => part !== undefined)));
  const faultOf = (field: string): string | undefined =>
    outcome?.outcome === "faulty" ? outcome.faults.filter(({ path }) => path === field || path.startsWith(`${field}.`) || path.startsWith(`${field}[`)).map(({ message }) => message).join(" ") || undefined : undefined;

  const membershipChanges = (): WantedObject[] =>
    memberships.flatMap(({ key: own, other, from, until, seen, removed }): WantedObject[] => {
      const before = object.memberships.find((one) => one.key === own);
      if (own !== undefined && !removed && (before?.from ?? "") === from && (before?.until ?? "") === until) return [];
      const [group, cardholder] = list === "groups" ? [id, other] : [other, id];
      const wanted = removed ? undefined : { group, cardholder, ...(from !== "" && { from }), ...(until !== "" && { until }) };
      return [{ list: "memberships", key: own, value: wanted, seen }];
    });

  const send = (objects: readonly WantedObject[]): void =>
    start(async () => {
      const done = objects.length === 0 ? ({ outcome: "written", revision: 0 } as const) : await change(draft.id, objects);
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

  const own = (field: Field) => {
    switch (field.key) {
      case "rows":
        return (
          <LevelSheet
            draft={draft.id}
            rows={(value.rows ?? []) as readonly LevelRow[]}
            schedules={schedules}
            nameOf={(kind, of) => (kind === "schedule" ? (schedules.find((one) => one.id === of)?.name ?? of) : nameOf(kind, of))}
            onNamed={onNamed}
            onChange={(rows) => set({ rows: rows.length > 0 ? rows : undefined })}
          />
        );
      case "week":
        return <HoursEditor value={value} dayTypes={dayTypes} onChange={set} />;
      case "days":
        return <CalendarEditor days={(value.days ?? []) as readonly CalendarDayDraft[]} dayTypes={dayTypes} faultAt={(at) => faultOf(`days[${at}]`)} onChange={(days) => set({ days: days.length > 0 ? days : undefined })} />;
      case "to":
      case "open": {
        const side = (value[field.key] ?? {}) as Record<string, string>;
        const [kind, of] = Object.entries(side)[0] ?? [];
        return (
          <ReferenceField
            draft={draft.id}
            kinds={field.key === "to" ? receivers : targets}
            label={field.label}
            required
            error={faultOf(field.key)}
            nameOf={nameOf}
            onNamed={onNamed}
            value={kind !== undefined && of !== undefined ? { kind: kind as RegisterKind, id: of } : undefined}
            onChange={(chosen) => set({ [field.key]: chosen ? { [chosen.kind]: chosen.id } : {} })}
          />
        );
      }
      case "override": {
        const override = value.override as true | readonly string[] | undefined;
        return (
          <div>
            <Select
              label={field.label}
              allowDeselect={false}
              value={override === undefined ? "no" : override === true ? "everywhere" : "sites"}
              data={[
                { value: "no", label: "no" },
                { value: "everywhere", label: "everywhere, without a grant" },
                { value: "sites", label: "at some sites, without a grant" },
              ]}
              onChange={(choice) => set({ override: choice === "everywhere" ? true : choice === "sites" ? [] : undefined })}
            />
            {Array.isArray(override) && <ReferencesField draft={draft.id} kinds={["site"]} label="At which sites" nameOf={nameOf} onNamed={onNamed} value={override as string[]} onChange={(sites) => set({ override: sites })} />}
          </div>
        );
      }
      case "expiry": {
        const expiry = value.expiry as { after: string; days: number } | undefined;
        return (
          <div style={{ display: "flex", gap: 8 }}>
            <Select
              label={field.label}
              style={{ flex: 1 }}
              allowDeselect={false}
              value={expiry?.after ?? "no"}
              data={[
                { value: "no", label: "no" },
                { value: "first-use", label: "after its first use" },
                { value: "last-use", label: "after its last use" },
              ]}
              onChange={(after) => set({ expiry: after === "no" ? undefined : { after, days: expiry?.days ?? 90 } })}
            />
            {expiry && <NumberInput label="Days" w={80} min={1} allowDecimal={false} error={faultOf("expiry")} value={expiry.days} onChange={(days) => set({ expiry: { ...expiry, days: Number(days) } })} />}
          </div>
        );
      }
      case "requirements": {
        const requirements = (value.requirements ?? []) as readonly { name: string; until?: string }[];
        const put = (next: readonly { name: string; until?: string }[]): void => set({ requirements: next.length > 0 ? next : undefined });
        return (
          <div className={classes.wideField}>
            <span style={{ fontSize: 13.5, fontWeight: 500 }}>{field.label}</span>
            {requirements.map((one, at) => (
              <div key={at} className={classes.member} style={{ gridTemplateColumns: "220px 220px auto" }}>
                <TextInput size="xs" aria-label={`Requirement ${at + 1}`} placeholder="induction" value={one.name} onChange={(event) => put(requirements.with(at, { ...one, name: event.currentTarget.value }))} />
                <TextInput
                  size="xs"
                  aria-label={`Requirement ${at + 1} until`}
                  placeholder="for good"
                  value={one.until ?? ""}
                  onChange={(event) => put(requirements.with(at, { name: one.name, ...(event.currentTarget.value !== "" && { until: event.currentTarget.value }) }))}
                />
                <button type="button" className={sheet.plain} onClick={() => put(requirements.filter((_, other) => other !== at))} aria-label={`Remove requirement ${at + 1}`}>
                  Remove
                </button>
              </div>
            ))}
            <div>
              <button type="button" className={sheet.plain} onClick={() => put([...requirements, { name: "" }])}>
                Add a requirement
              </button>
            </div>
          </div>
        );
      }
      default:
        return null;
    }
  };

  const input = (field: Field) => {
    const common = { label: field.label, description: field.hint, error: faultOf(field.key), required: field.required ?? false };
    const textOf = (value[field.key] as string | undefined) ?? "";
    switch (field.as) {
      case "own":
        return own(field);
      case "flag":
        return null;
      case "reference":
        return (
          <ReferenceField
            draft={draft.id}
            kinds={[field.kind]}
            label={field.label}
            hint={field.hint}
            required={field.required}
            error={faultOf(field.key)}
            nameOf={nameOf}
            onNamed={onNamed}
            value={textOf === "" ? undefined : { kind: field.kind, id: textOf }}
            onChange={(chosen) => set({ [field.key]: chosen?.id })}
          />
        );
      case "references":
        return (
          <ReferencesField
            draft={draft.id}
            kinds={[field.kind]}
            label={field.label}
            hint={field.hint}
            error={faultOf(field.key)}
            nameOf={nameOf}
            onNamed={onNamed}
            value={(value[field.key] ?? []) as string[]}
            onChange={(ids) => set({ [field.key]: ids.length > 0 ? ids : undefined })}
          />
        );
      case "choice": {
        const isNumber = typeof value[field.key] === "number" || field.key === "sensitivity";
        return (
          <Select
            {...common}
            allowDeselect={!field.required}
            clearable={!field.required}
            value={value[field.key] === undefined ? null : String(value[field.key])}
            placeholder={field.choices[0]?.[1] ?? ""}
            data={field.choices.map(([choice, words]) => ({ value: choice, label: words }))}
            onChange={(choice) => set({ [field.key]: choice === null ? undefined : isNumber ? Number(choice) : choice })}
          />
        );
      }
      case "number":
        return <NumberInput {...common} min={0} allowDecimal={false} value={(value[field.key] as number | undefined) ?? ""} onChange={(next) => set({ [field.key]: next === "" ? undefined : Number(next) })} />;
      default:
        return (
          <TextInput
            {...common}
            placeholder={field.as === "moment" ? momentHint : field.as === "instant" ? instantHint : field.as === "zone" ? "Europe/Paris" : ""}
            value={textOf}
            onChange={(event) => set({ [field.key]: event.currentTarget.value === "" && !field.required ? undefined : event.currentTarget.value })}
          />
        );
    }
  };

  const fields = fieldsOf[list];
  const flags = fields.filter((field) => field.as === "flag");
  const differing = fieldChanges(present, isNew ? value : { ...value, id }).map(({ field, before, after }) => ({
    field,
    ...differingParts(list, field, before, after, (of, one) => names[`${of} ${one}`] ?? schedules.find((schedule) => of === "schedules" && schedule.id === one)?.name ?? one),
  }));
  const what = listNames[list][0];
  const margin = (
    <>
      <h2>{isNew ? "What comes into the register" : "What would differ from the register"}</h2>
      {differing.length === 0 ? <p className={sheet.sub}>Nothing yet.</p> : <FieldDifference list={list} fields={differing.filter(({ field }) => field !== "id")} />}
      {object.also.length > 0 && (
        <div className={sheet.grave}>
          <strong>Others change this, too:</strong> {listWords(object.also.map(({ owner, draft: other }) => `${owner} in draft ${other}`))}.
        </div>
      )}
      {unknownNumbers.length > 0 && (
        <div className={sheet.notes}>
          <h2>Numbers that doors saw</h2>
          <p style={{ paddingLeft: 0 }}>Nobody in the register has them. Taking one fills in the number.</p>
          <Select
            searchable
            clearable
            aria-label="Take a number that doors saw"
            placeholder="part of a number …"
            value={unknownNumbers.some(({ credential }) => credential === ownId) ? (ownId ?? null) : null}
            data={unknownNumbers.map(({ credential, times, lastAt }) => ({ value: credential, label: `${credential}, ${times} × until ${new Date(lastAt * 60_000).toISOString().slice(0, 10)}` }))}
            onChange={(credential) => {
              setOwnId(credential ?? undefined);
              set({ number: credential ?? undefined });
            }}
          />
        </div>
      )}
    </>
  );
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />} margin={margin}>
      <Heading
        result={isNew ? capital(`${/^[aeiou]/.test(what) ? "an" : "a"} new ${what}`).replace(/^An new/, "A new") : object.label}
        reference={
          <>
            <Link href={draftHref(draft.id)}>Draft {draft.id}</Link>, {draft.name}
          </>
        }
        lead={isNew ? undefined : `${capital(what)} ${key}${present === undefined ? ", new in this draft" : ""}`}
      />
      {outcome?.outcome === "faulty" && (
        <div className={classes.faults} role="alert">
          <strong>Nothing was written yet.</strong>
          <ul>
            {outcome.faults.map(({ path, message }) => (
              <li key={`${path} ${message}`}>
                {path === "" ? "" : `${fieldLabel(list, path.split(/[.[]/)[0] ?? "")}${/[.[]/.test(path) ? ` (${path})` : ""}: `}
                {message}
              </li>
            ))}
          </ul>
        </div>
      )}
      {outcome?.outcome === "ended" && (
        <p role="alert" className={sheet.grave}>
          This draft is open no more; nothing was written. What you typed is still here.
        </p>
      )}
      {outcome?.outcome === "changed-meanwhile" && (
        <div role="alert" className={sheet.grave}>
          <strong>{outcome.differences[0]?.changedBy} changed this meanwhile</strong>
          {outcome.differences[0]?.changedAt && `, ${clockText(outcome.differences[0].changedAt)}`}. Nothing was written. Struck through: theirs; behind it: yours.
          {outcome.differences.map((difference) => (
            <FieldDifference key={difference.key} list={difference.list} fields={difference.fields.map(({ field, theirs, yours }) => ({ field, gone: theirs, come: yours }))} />
          ))}
          <div className={classes.add} style={{ margin: "8px 0 0" }}>
            <Button size="xs" loading={busy} onClick={() => send(wanted(outcome.differences.find((one) => one.list === list)?.version ?? object.seen))}>
              Use mine
            </Button>
            <Button size="xs" variant="default" onClick={() => router.push(draftHref(draft.id))}>
              Use theirs
            </Button>
          </div>
        </div>
      )}
      <form
        className={classes.form}
        onSubmit={(event) => {
          event.preventDefault();
          send(wanted(object.seen));
        }}
        noValidate
      >
        {fields.map((field) => {
          const shown = input(field);
          const isWide = field.as === "own" && ["rows", "week", "days", "requirements"].includes(field.key);
          return shown && (isWide ? <div key={field.key} className={classes.wideField}>{shown}</div> : <div key={field.key}>{shown}</div>);
        })}
        {isNew && list !== "memberships" && <TextInput label="Id" description="as the source will call it" required error={faultOf("id")} value={id} onChange={(event) => setOwnId(event.currentTarget.value)} />}
        {flags.length > 0 && (
          <div className={classes.flags}>
            {flags.map((field) => (
              <Checkbox key={field.key} label={field.label} checked={value[field.key] === true} onChange={(event) => set({ [field.key]: event.currentTarget.checked ? true : undefined })} />
            ))}
          </div>
        )}
        {(list === "groups" || list === "cardholders") && <MembershipsEditor draft={draft.id} of={list === "groups" ? "group" : "cardholder"} rows={memberships} total={object.membershipCount} onChange={setMemberships} />}
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
                <span>Take it out of the register altogether?</span>
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


"use client";

import { Checkbox, Group, NumberInput, Radio, Select, TagsInput, TextInput } from "@mantine/core";
import type { FieldSource, HoursForm, MomentForm, MomentFormName, ProfileTarget } from "@/operations/intake/try-profile";
import sheet from "@/ui/sheet.module.css";
import { fieldName, momentFormWords } from "../../words/profile-fields";
import classes from "../intake.module.css";

export interface ColumnValue {
  readonly text: string;
  readonly count: number;
}

interface FieldFormProps {
  readonly target: ProfileTarget["fields"][number];
  readonly label: string;
  readonly source: FieldSource;
  /** The values of its column, those that come most often first. */
  readonly values: readonly ColumnValue[];
  /** Fields of the list that a reference names an object by. */
  readonly by: readonly string[];
  readonly onChange: (source: FieldSource) => void;
}

/** A source without what was cleared. */
const cleaned = (source: { readonly [K in keyof FieldSource]: FieldSource[K] | undefined }): FieldSource =>
  Object.fromEntries(Object.entries(source).filter(([, value]) => value !== undefined));

const valuesListed = 100;

/** What each value of a column means, for a field that has only some. */
export function ValuesForm({
  values,
  choices,
  said,
  label,
  onChange,
}: {
  readonly values: readonly ColumnValue[];
  readonly choices: readonly string[];
  readonly said: Readonly<Record<string, string | null>>;
  readonly label: string;
  readonly onChange: (text: string, meaning: string | null | undefined) => void;
}) {
  const nothing = "(nothing)";
  return (
    <table className={sheet.table} style={{ maxWidth: 460 }}>
      <thead>
        <tr>
          <th scope="col">In the file</th>
          <th scope="col" className={sheet.number}>
            rows
          </th>
          <th scope="col">means</th>
        </tr>
      </thead>
      <tbody>
        {values.slice(0, valuesListed).map(({ text, count }) => {
          const meaning = Object.hasOwn(said, text) ? said[text] : choices.includes(text) ? text : undefined;
          return (
            <tr key={text}>
              <td>
                <code>{text === "" ? "empty" : text}</code>
              </td>
              <td className={sheet.number}>{count.toLocaleString("en-GB")}</td>
              <td>
                <Select
                  size="xs"
                  w={170}
                  aria-label={`${text === "" ? "Empty" : text} as ${label} means`}
                  data={[...choices, nothing]}
                  value={meaning === null ? nothing : (meaning ?? null)}
                  error={meaning === undefined}
                  clearable
                  onChange={(value) => onChange(text, value === nothing ? null : (value ?? undefined))}
                />
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

function MomentsForm({ moment, isEnd, onChange }: { readonly moment: MomentForm; readonly isEnd: boolean; readonly onChange: (moment: MomentForm) => void }) {
  const change = (part: { readonly [K in keyof MomentForm]?: MomentForm[K] | undefined }): void =>
    onChange(Object.fromEntries(Object.entries({ ...moment, ...part }).filter(([, value]) => value !== undefined)) as unknown as MomentForm);
  const never = moment.never ?? [];
  return (
    <>
      <Select
        size="xs"
        w={270}
        label="Written as"
        data={Object.entries(momentFormWords).map(([value, label]) => ({ value, label }))}
        value={moment.forms[0] ?? null}
        error={moment.forms.length === 0}
        onChange={(form) => change({ forms: form === null ? [] : [form as MomentFormName] })}
      />
      <TextInput
        size="xs"
        w={150}
        label="Zone of times"
        placeholder="of the facility"
        value={moment.zone ?? ""}
        onChange={(event) => change({ zone: event.currentTarget.value || undefined })}
      />
      <NumberInput
        size="xs"
        w={190}
        label="Two digits are 20.. below"
        placeholder="years have four"
        min={0}
        max={100}
        value={moment.pivot ?? ""}
        onChange={(value) => change({ pivot: typeof value === "number" ? value : undefined })}
      />
      {isEnd && (
        <>
          <NumberInput
            size="xs"
            w={170}
            label="Never ends from year"
            placeholder="no such year"
            min={1}
            max={9999}
            value={moment.neverFrom ?? ""}
            onChange={(value) => change({ neverFrom: typeof value === "number" ? value : undefined })}
          />
          <TagsInput
            size="xs"
            w={220}
            label="Texts that mean never"
            value={never.filter((text) => text !== "")}
            onChange={(texts) => change({ never: [...texts, ...(never.includes("") ? [""] : [])] })}
          />
          <Checkbox
            size="xs"
            label="Empty means that it never ends"
            checked={never.includes("")}
            onChange={(event) => change({ never: [...never.filter((text) => text !== ""), ...(event.currentTarget.checked ? [""] : [])] })}
          />
          <Select
            size="xs"
            w={200}
            label="Midnight means"
            placeholder="not said"
            clearable
            data={[
              { value: "date", label: "the date, to its end" },
              { value: "instant", label: "the instant" },
            ]}
            value={moment.midnight ?? null}
            onChange={(value) => change({ midnight: (value as MomentForm["midnight"] | null) ?? undefined })}
          />
        </>
      )}
    </>
  );
}

function HoursOfField({ hours, onChange }: { readonly hours: HoursForm; readonly onChange: (hours: HoursForm) => void }) {
  const change = (part: { readonly [K in keyof HoursForm]?: HoursForm[K] | undefined }): void =>
    onChange(Object.fromEntries(Object.entries({ ...hours, ...part }).filter(([, value]) => value !== undefined)));
  return (
    <>
      <Checkbox
        size="xs"
        label="The end minute is included: 00:00–23:59 is the whole day"
        checked={hours.endsIncluded ?? false}
        onChange={(event) => change({ endsIncluded: event.currentTarget.checked ? true : undefined })}
      />
      <Radio.Group
        size="xs"
        label="An interval that ends before it begins means"
        value={hours.backwards ?? ""}
        onChange={(value) => change({ backwards: value as "overnight" | "never" })}
      >
        <Group gap="md" mt={4}>
          <Radio size="xs" value="overnight" label="over midnight" />
          <Radio size="xs" value="never" label="never" />
        </Group>
      </Radio.Group>
      <TagsInput
        size="xs"
        w={220}
        label="Texts for the whole day"
        value={[...(hours.allDay ?? [])]}
        onChange={(texts) => change({ allDay: texts.length > 0 ? texts : undefined })}
      />
      <TagsInput
        size="xs"
        w={220}
        label="Texts for no time at all"
        value={[...(hours.never ?? [])]}
        onChange={(texts) => change({ never: texts.length > 0 ? texts : undefined })}
      />
    </>
  );
}

const separators = [
  { value: ";", label: "semicolons" },
  { value: ",", label: "commas" },
  { value: "|", label: "bars" },
  { value: "/", label: "slashes" },
  { value: "", label: "line breaks" },
];

type PartKind = "whole" | "delimiter" | "place" | "pattern";
const partKind = ({ part }: FieldSource): PartKind => (!part ? "whole" : "pattern" in part ? "pattern" : "delimiter" in part ? "delimiter" : "place");

/** The part of a cell that is taken. */
function PartForm({ source, onChange }: { readonly source: FieldSource; readonly onChange: (source: FieldSource) => void }) {
  const { part } = source;
  const set = (one: FieldSource["part"] | undefined): void => onChange(cleaned({ ...source, part: one }));
  return (
    <>
      <Select
        size="xs"
        w={170}
        label="Of the cell"
        allowDeselect={false}
        data={[
          { value: "whole", label: "all of it" },
          { value: "delimiter", label: "a part between signs" },
          { value: "place", label: "some characters" },
          { value: "pattern", label: "a part of a pattern" },
        ]}
        value={partKind(source)}
        onChange={(value) =>
          set(
            value === "delimiter"
              ? { delimiter: ",", nth: 1 }
              : value === "place"
                ? { from: 1, to: 1 }
                : value === "pattern"
                  ? { pattern: "{part}" }
                  : undefined,
          )
        }
      />
      {part && "delimiter" in part && (
        <>
          <TextInput size="xs" w={80} label="Sign" value={part.delimiter} onChange={(event) => set({ ...part, delimiter: event.currentTarget.value || "," })} />
          <NumberInput
            size="xs"
            w={110}
            label="Which of them"
            description="−1: the last"
            value={part.nth}
            onChange={(value) => set({ ...part, nth: Number(value) || 1 })}
          />
        </>
      )}
      {part && "from" in part && (
        <>
          <NumberInput size="xs" w={90} min={1} label="From" value={part.from} onChange={(value) => set({ ...part, from: Math.max(1, Number(value)) })} />
          <NumberInput
            size="xs"
            w={90}
            min={part.from}
            label="To"
            value={part.to}
            onChange={(value) => set({ ...part, to: Math.max(part.from, Number(value)) })}
          />
        </>
      )}
      {part && "pattern" in part && (
        <TextInput
          size="xs"
          w={220}
          label="Pattern"
          description="{part} is taken, {*} is any text"
          value={part.pattern}
          onChange={(event) => set({ pattern: event.currentTarget.value })}
        />
      )}
    </>
  );
}

/** How one field is written in its columns: only what its kind has. */
export function FieldForm({ target, label, source, values, by, onChange }: FieldFormProps) {
  const set = (part: { readonly [K in keyof FieldSource]?: FieldSource[K] | undefined }): void => onChange(cleaned({ ...source, ...part }));
  const { kind } = target;
  const choices = kind === "closed" ? (target.values ?? []) : kind === "flag" ? ["true", "false"] : undefined;
  const isMoment = kind === "date" || kind === "moment" || kind === "instant";
  const isReference = kind === "reference" || kind === "references";
  const isText = kind === "text" || isReference || kind === "texts" || kind === "card-number";
  return (
    <fieldset className={classes.fieldForm} aria-label={`How ${label} is written`}>
      {choices && (
        <ValuesForm
          values={values}
          choices={choices}
          said={source.values ?? {}}
          label={fieldName("", target.name)}
          onChange={(text, meaning) => {
            const others = Object.fromEntries(Object.entries(source.values ?? {}).filter(([one]) => one !== text));
            set({ values: meaning === undefined ? others : { ...others, [text]: meaning } });
          }}
        />
      )}
      {isMoment && <MomentsForm moment={source.moment ?? { forms: ["iso"] }} isEnd={target.name === "until"} onChange={(moment) => set({ moment })} />}
      {(kind === "hours" || kind === "clock") && <HoursOfField hours={source.hours ?? {}} onChange={(hours) => set({ hours })} />}
      {kind === "card-number" && (
        <Select
          size="xs"
          w={260}
          label="The number is written"
          allowDeselect={false}
          data={[
            { value: "", label: "as it is" },
            { value: "code-and-number", label: "facility code, a sign, number: 012-34567" },
            { value: "26-bit", label: "both in one number of 26 bits" },
            { value: "hexadecimal", label: "in hexadecimal digits" },
          ]}
          value={source.number ?? ""}
          onChange={(value) => set({ number: value ? value : undefined })}
        />
      )}
      {kind === "weekday" && (
        <Select
          size="xs"
          w={220}
          label="Weekdays are"
          allowDeselect={false}
          data={[
            { value: "", label: "names" },
            { value: "1,7", label: "numbers, Monday 1, Sunday 7" },
            { value: "1,0", label: "numbers, Monday 1, Sunday 0" },
            { value: "0,6", label: "numbers, Monday 0, Sunday 6" },
            { value: "2,1", label: "numbers, Monday 2, Sunday 1" },
          ]}
          value={source.weekdays ? `${source.weekdays.monday},${source.weekdays.sunday}` : ""}
          onChange={(value) => {
            const [monday, sunday] = (value ?? "").split(",").map(Number);
            set({ weekdays: value && monday !== undefined && sunday !== undefined ? { monday, sunday } : undefined });
          }}
        />
      )}
      {kind === "pin" && (
        <TagsInput
          size="xs"
          w={220}
          label="PINs that mean there is none"
          placeholder="0000"
          value={[...(source.noPin ?? [])]}
          onChange={(noPin) => set({ noPin: noPin.length > 0 ? noPin : undefined })}
        />
      )}
      {isReference && (
        <Select
          size="xs"
          w={170}
          label="The cell names it by"
          placeholder="id, number or name"
          clearable
          data={by.map((field) => ({ value: field, label: fieldName("", field) }))}
          value={source.by ?? null}
          onChange={(value) => set({ by: value ?? undefined })}
        />
      )}
      {(isReference || kind === "texts" || kind === "text") && (
        <Select
          size="xs"
          w={190}
          label="Several in a cell, with"
          placeholder="one only"
          clearable
          data={separators}
          value={source.split ?? null}
          onChange={(value) => set({ split: value ?? undefined })}
        />
      )}
      {isText && <PartForm source={source} onChange={onChange} />}
      {(source.columns?.length ?? 0) > 1 && (
        <TextInput
          size="xs"
          w={150}
          label="Joined by"
          placeholder="a space"
          value={source.join ?? ""}
          onChange={(event) => set({ join: event.currentTarget.value || undefined })}
        />
      )}
      {isText && (
        <>
          <Checkbox
            size="xs"
            label="“Last, First” is turned round"
            checked={source.turned ?? false}
            onChange={(event) => set({ turned: event.currentTarget.checked ? true : undefined })}
          />
          <Select
            size="xs"
            w={140}
            label="Letters"
            allowDeselect={false}
            data={[
              { value: "", label: "as they are" },
              { value: "lower", label: "small" },
              { value: "upper", label: "capital" },
            ]}
            value={source.case ?? ""}
            onChange={(value) => set({ case: value ? value : undefined })}
          />
        </>
      )}
      {!isMoment && kind !== "pin" && (
        <TextInput
          size="xs"
          w={170}
          label="An empty cell is"
          placeholder="nothing"
          value={source.otherwise ?? ""}
          onChange={(event) => set({ otherwise: event.currentTarget.value || undefined })}
        />
      )}
    </fieldset>
  );
}

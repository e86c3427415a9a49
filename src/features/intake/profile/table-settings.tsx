"use client";

import { Checkbox, Group, MultiSelect, NumberInput, Select, TextInput } from "@mantine/core";
import type { ProfileTarget, SourceProfile, TableProfile, TriedTable } from "@/operations/intake/try-profile";
import sheet from "@/ui/sheet.module.css";
import { listWords } from "../../words/kinds";
import { plural } from "../../words/numbers";
import { fieldName, madeWords } from "../../words/profile-fields";
import classes from "../intake.module.css";
import { leaveTableAside, makeFromNames, readRowsBy, setConstant, setKey, setMissing, setTextForm, targetKey } from "./edit-profile";
import { targetLabel } from "./columns-table";

interface SettingsProps {
  readonly tried: TriedTable;
  readonly said: TableProfile | undefined;
  readonly profile: SourceProfile;
  readonly targets: readonly ProfileTarget[];
  readonly onChange: (profile: SourceProfile) => void;
}

const encodings = [
  { value: "utf-8", label: "UTF-8" },
  { value: "utf-16le", label: "UTF-16, little-endian" },
  { value: "utf-16be", label: "UTF-16, big-endian" },
  { value: "windows-1252", label: "Windows-1252, western Europe" },
  { value: "windows-1250", label: "Windows-1250, central Europe" },
  { value: "iso-8859-1", label: "ISO 8859-1" },
  { value: "iso-8859-2", label: "ISO 8859-2" },
  { value: "iso-8859-15", label: "ISO 8859-15" },
];

const delimiterWords: Readonly<Record<string, string>> = { ",": "commas", ";": "semicolons", "\t": "tabulators", "|": "bars" };

/** How the text of a table is cut into cells. */
export function TextSettings({ tried, profile, onChange }: SettingsProps) {
  const { form, name, isSheet } = tried;
  const words = [
    ...(isSheet ? [] : [encodings.find(({ value }) => value === form.encoding)?.label ?? form.encoding, delimiterWords[form.delimiter] ?? form.delimiter]),
    form.header ? (form.skip === 0 ? "the header first" : `${plural(form.skip, "row", "rows")} above the header`) : "no header",
  ];
  return (
    <details open={!form.isSure} className={classes.textForm}>
      <summary>
        How its text is cut: {words.join(", ")}
        {!form.isSure && "; the encoding only looks like it, so look at the rows"}
      </summary>
      <Group gap="sm" align="flex-end" role="group" aria-label={`How the text of ${name} is cut`}>
        {!isSheet && (
          <>
            <Select
              size="xs"
              w={220}
              label="Encoding"
              allowDeselect={false}
              data={encodings}
              value={form.encoding}
              onChange={(value) => value && onChange(setTextForm(profile, name, { encoding: value as typeof form.encoding }))}
            />
            <Select
              size="xs"
              w={130}
              label="Between cells"
              allowDeselect={false}
              data={[
                { value: ",", label: "comma" },
                { value: ";", label: "semicolon" },
                { value: "\t", label: "tabulator" },
                { value: "|", label: "bar" },
              ]}
              value={form.delimiter}
              onChange={(value) => value && onChange(setTextForm(profile, name, { delimiter: value }))}
            />
            <Select
              size="xs"
              w={130}
              label="Quotation mark"
              allowDeselect={false}
              data={[
                { value: '"', label: "double" },
                { value: "'", label: "single" },
                { value: "", label: "none" },
              ]}
              value={form.quote}
              onChange={(value) => value !== null && onChange(setTextForm(profile, name, { quote: value }))}
            />
          </>
        )}
        <NumberInput
          size="xs"
          w={150}
          min={0}
          max={1000}
          label="Rows above the header"
          value={form.skip}
          onChange={(value) => typeof value === "number" && onChange(setTextForm(profile, name, { skip: value }))}
        />
        <Checkbox
          size="xs"
          label="There is a header"
          checked={form.header}
          onChange={(event) => onChange(setTextForm(profile, name, { header: event.currentTarget.checked }))}
        />
      </Group>
    </details>
  );
}

const valuesListed = 40;

/** Which rows are read, by the values of a column: sums at the end, and whoever is not meant, are left out. */
function RowsRead({ tried, said, profile, onChange }: SettingsProps & { readonly said: TableProfile }) {
  const few = tried.columns.filter(({ values, hasMore, isSecret }) => !isSecret && !hasMore && values.length <= valuesListed);
  const by = few.find(({ name }) => name === said.only?.column);
  const valuesOf = (name: string): Record<string, boolean> => {
    const column = few.find((one) => one.name === name);
    return Object.fromEntries([...(column?.values.map(({ text }) => [text, true] as const) ?? []), ...((column?.empty ?? 0) > 0 ? [["", true] as const] : [])]);
  };
  if (few.length === 0) return null;
  return (
    <>
      <Select
        size="xs"
        w={230}
        label="Only some rows are read, by"
        placeholder="all are"
        clearable
        data={few.map(({ name }) => name)}
        value={said.only?.column ?? null}
        onChange={(column) => onChange(readRowsBy(profile, tried.name, column, column === null ? {} : valuesOf(column)))}
      />
      {by && said.only && (
        <Checkbox.Group
          size="xs"
          label={`Rows are read whose ${by.name} is`}
          value={Object.entries(said.only.values).flatMap(([text, isRead]) => (isRead ? [text] : []))}
          onChange={(read) =>
            onChange(readRowsBy(profile, tried.name, by.name, Object.fromEntries(Object.keys(valuesOf(by.name)).map((text) => [text, read.includes(text)]))))
          }
        >
          <Group gap="sm" mt={4}>
            {Object.keys(valuesOf(by.name)).map((text) => (
              <Checkbox key={text} size="xs" value={text} label={text === "" ? "empty" : text} />
            ))}
          </Group>
        </Checkbox.Group>
      )}
    </>
  );
}

const keyed = ["cardholders", "credentials", "groups", "doors", "levels", "schedules", "areas"] as const;

/** What all rows of a table have in common, what its objects are known by, and which of them are made from names. */
export function MadeSettings({ tried, said, profile, targets, onChange }: SettingsProps) {
  const name = tried.name;
  if (!said) return null;
  const constants = said.makes.flatMap(({ table, fields }) =>
    Object.entries(fields).flatMap(([field, { constant }]) => (constant === undefined ? [] : [{ table, field, constant }])),
  );
  const free = said.makes.flatMap(({ table, fields }) =>
    (targets.find((target) => target.table === table)?.fields ?? []).flatMap(({ name: field }) =>
      Object.hasOwn(fields, field) ? [] : [{ value: targetKey(table, field), label: targetLabel(targetKey(table, field)) }],
    ),
  );
  const made = new Set(said.makes.map(({ table }) => targets.find((target) => target.table === table)?.list));
  return (
    <div className={classes.madeSettings}>
      {constants.map(({ table, field, constant }) => {
        const values = targets.find((target) => target.table === table)?.fields.find((one) => one.name === field)?.values;
        const label = `${madeWords[table] ?? table}: ${fieldName(table, field)} of every row`;
        const set = (value: string): void => onChange(setConstant(profile, name, targetKey(table, field), value));
        return values ? (
          <Select key={label} size="xs" w={230} label={label} clearable data={[...values]} value={constant} onChange={(value) => set(value ?? "")} />
        ) : (
          <TextInput
            key={`${label} ${constant}`}
            size="xs"
            w={230}
            label={label}
            defaultValue={constant}
            onBlur={(event) => event.currentTarget.value !== constant && set(event.currentTarget.value.trim())}
          />
        );
      })}
      {free.length > 0 && (
        <Select
          size="xs"
          w={230}
          label="Say the same for every row of"
          placeholder="choose a field"
          searchable
          value={null}
          data={free}
          onChange={(value) => {
            const [table = "", field = ""] = (value ?? "").split(".");
            const known = targets.find((target) => target.table === table)?.fields.find((one) => one.name === field);
            if (value) onChange(setConstant(profile, name, value, known?.values?.[0] ?? "…"));
          }}
        />
      )}
      {keyed
        .filter((list) => made.has(list))
        .map((list) => (
          <MultiSelect
            key={list}
            size="xs"
            w={230}
            label={`${listWords[list]} are told apart by`}
            placeholder={profile.keys?.[list] ? undefined : "id, number or name"}
            data={(targets.find((target) => target.list === list)?.fields ?? [])
              .filter(({ kind }) => kind === "text" || kind === "card-number")
              .map((one) => ({ value: one.name, label: fieldName("", one.name) }))}
            value={[...(profile.keys?.[list] ?? [])]}
            onChange={(fields) =>
              onChange(
                fields.length > 0
                  ? setKey(profile, list, fields)
                  : { ...profile, keys: Object.fromEntries(Object.entries(profile.keys ?? {}).filter(([one]) => one !== list)) },
              )
            }
          />
        ))}
      {said.makes
        .flatMap(({ table }) => {
          const list = targets.find((target) => target.table === table)?.list;
          return list === undefined ? [] : [list];
        })
        .map((list) => (
          <Select
            key={`${list} missing`}
            size="xs"
            w={230}
            label={`${listWords[list] ?? list} not in this list`}
            allowDeselect={false}
            data={[
              { value: "gone", label: "are gone" },
              ...(list === "cardholders" ? [{ value: "left", label: "have left" }] : []),
              ...(list === "memberships" ? [{ value: "gone-from-named", label: "are gone from groups it names" }] : []),
              { value: "kept", label: "stay as they are" },
            ]}
            value={(profile.missing as Readonly<Record<string, string>> | undefined)?.[list] ?? "gone"}
            onChange={(value) => value && onChange(setMissing(profile, list, value))}
          />
        ))}
      {Object.keys(profile.madeFromNames ?? {}).map((list) => (
        <Checkbox
          key={list}
          size="xs"
          checked
          label={`${listWords[list] ?? list} that nothing brings are made from their names`}
          onChange={() => onChange(makeFromNames(profile, list, undefined))}
        />
      ))}
      {(["doors", "areas"] as const)
        .filter((list) => profile.madeFromNames?.[list])
        .map((list) => (
          <TextInput
            key={`${list} site`}
            size="xs"
            w={230}
            label={`Site of ${list} made from names`}
            placeholder="the only one"
            defaultValue={profile.madeFromNames?.[list]?.with?.site ?? ""}
            onBlur={(event) =>
              onChange(makeFromNames(profile, list, event.currentTarget.value.trim() === "" ? {} : { site: event.currentTarget.value.trim() }))
            }
          />
        ))}
      <RowsRead tried={tried} said={said} profile={profile} targets={targets} onChange={onChange} />
      <Checkbox
        size="xs"
        checked={said.makes.length === 0 && said.aside !== undefined}
        label={`Leave ${name} aside as a whole`}
        onChange={(event) =>
          onChange(
            leaveTableAside(
              profile,
              name,
              tried.columns.map((column) => column.name),
              event.currentTarget.checked,
            ),
          )
        }
      />
      <p className={sheet.sub} style={{ margin: 0, width: "100%" }}>
        A row that names an object again adds to it; where two rows contradict each other, both are refused.
      </p>
    </div>
  );
}

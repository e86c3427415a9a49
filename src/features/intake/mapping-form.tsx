"use client";

import { Button, Select } from "@mantine/core";
import { useState } from "react";
import type { IntakePreview } from "@/operations/services";
import sheet from "@/ui/sheet.module.css";
import classes from "./intake.module.css";

export type Tables = NonNullable<Extract<IntakePreview, { kind: "refused" }>["tables"]>;
/** By file, which table it is, and for each header the column, or null to leave it aside. */
export type Mapping = Readonly<Record<string, { readonly table?: string; readonly headers?: Readonly<Record<string, string | null>> }>>;

const aside = "(leave aside)";

/** Whether something in the headers was not understood. */
export const hasUnknown = (tables: Tables): boolean => tables.some(({ table, headers }) => table === undefined || headers.some(({ column }) => column === undefined));

/** What a bundle's files and headers are: understood where they are called as here, else to be chosen. */
export function MappingForm({ tables, columns, busy, onRead }: { readonly tables: Tables; readonly columns: Readonly<Record<string, readonly string[]>>; readonly busy: boolean; readonly onRead: (mapping: Mapping) => void }) {
  const [chosen, setChosen] = useState(tables);
  const setTable = (file: string, table: string | null) => setChosen(chosen.map((one) => (one.file === file ? { ...one, table: table ?? undefined } : one)));
  const setColumn = (file: string, text: string, value: string | null) =>
    setChosen(chosen.map((one) => (one.file === file ? { ...one, headers: one.headers.map((header) => (header.text === text ? { text, column: value === null ? undefined : value === aside ? null : value } : header)) } : one)));
  const read = () =>
    onRead(
      Object.fromEntries(
        chosen.map(({ file, table, headers }) => [
          file,
          { ...(table !== undefined && { table }), headers: Object.fromEntries(headers.flatMap(({ text, column }) => (column === undefined ? [] : [[text, column]]))) },
        ]),
      ),
    );
  return (
    <section>
      <h2 className={classes.section}>Which header is what</h2>
      <p className={sheet.sub}>Choose what the files and headers are that Nomade does not know. It is kept with the source when the file is stored, and used the next time.</p>
      {chosen.map(({ file, table, headers }) => (
        <fieldset key={file} className={classes.mapping}>
          <legend>
            <b>{file}.csv</b>
          </legend>
          <Select size="xs" w={200} label="is the table" aria-label={`${file}.csv is the table`} searchable value={table ?? null} data={Object.keys(columns)} onChange={(value) => setTable(file, value)} error={table === undefined} />
          {headers.map(({ text, column }) => (
            <Select
              key={text}
              size="xs"
              w={170}
              label={text}
              aria-label={`${text} in ${file}.csv is`}
              searchable
              clearable
              value={column === null ? aside : (column ?? null)}
              data={[...(table === undefined ? [] : (columns[table] ?? [])), aside]}
              onChange={(value) => setColumn(file, text, value)}
              error={column === undefined}
            />
          ))}
        </fieldset>
      ))}
      <Button onClick={read} loading={busy} mt="sm">
        Read it so
      </Button>
    </section>
  );
}

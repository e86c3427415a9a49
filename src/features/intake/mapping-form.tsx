"use client";

import { DndContext, DragOverlay, PointerSensor, useDraggable, useDroppable, useSensor, useSensors } from "@dnd-kit/core";
import { Button, Checkbox, Select, TagsInput, TextInput } from "@mantine/core";
import type { ReactNode } from "react";
import { useState } from "react";
import type { IntakePreview } from "@/operations/services";
import sheet from "@/ui/sheet.module.css";
import classes from "./intake.module.css";

export type Tables = NonNullable<Extract<IntakePreview, { kind: "refused" }>["tables"]>;
/** By file, which table it is, and for each header the column, or null to leave it aside. */
export type Mapping = Readonly<
  Record<
    string,
    {
      readonly table?: string;
      readonly headers?: Readonly<Record<string, string | null>>;
      readonly writes?: Tables[number]["writes"];
      readonly dayTypes?: Readonly<Record<string, string>>;
    }
  >
>;

const aside = "(leave aside)";

/** Whether something in the headers was not understood. */
export const hasUnknown = (tables: Tables): boolean =>
  tables.some(({ table, headers }) => table === undefined || headers.some(({ column }) => column === undefined));

type Writes = { readonly [K in keyof Tables[number]["writes"]]: Tables[number]["writes"][K] | undefined };

/** How a file writes things that may be written otherwise elsewhere: only what its table has. */
function Writing({
  table,
  columns,
  writes,
  onChange,
}: {
  readonly table: string | undefined;
  readonly columns: readonly string[];
  readonly writes: Tables[number]["writes"];
  readonly onChange: (change: Writes) => void;
}) {
  const hasDates = ["on", "from", "to", "until"].some((column) => columns.includes(column));
  return (
    <>
      {table === "schedule-hours" && (
        <>
          <Checkbox
            size="xs"
            checked={writes.endsIncluded ?? false}
            onChange={(event) => onChange({ endsIncluded: event.currentTarget.checked })}
            label="The end minute is included: 00:00–23:59 is the whole day"
          />
          <Checkbox
            size="xs"
            checked={writes.backwards === "never"}
            onChange={(event) => onChange({ backwards: event.currentTarget.checked ? "never" : undefined })}
            label="An interval that ends before it starts means never, not overnight"
          />
        </>
      )}
      {hasDates && (
        <Select
          size="xs"
          w={170}
          label="Dates are written"
          value={writes.dates ?? "iso"}
          allowDeselect={false}
          data={[
            { value: "iso", label: "2026-04-03" },
            { value: "dmy", label: "3.4.2026, day first" },
            { value: "mdy", label: "4/3/2026, month first" },
          ]}
          onChange={(value) => onChange({ dates: value === "dmy" || value === "mdy" ? value : undefined })}
        />
      )}
      {table !== undefined && ["from", "until", "statusSince", "lastUse"].some((column) => columns.includes(column)) && (
        <TextInput
          size="xs"
          w={170}
          label="Zone of times without an offset"
          placeholder="Europe/Paris"
          value={writes.zone ?? ""}
          onChange={(event) => onChange({ zone: event.currentTarget.value })}
        />
      )}
      {columns.includes("pin") && (
        <TagsInput
          size="xs"
          w={200}
          label="PINs that mean there is none"
          placeholder="0000"
          value={[...(writes.noPin ?? [])]}
          onChange={(noPin) => onChange({ noPin: noPin.length > 0 ? noPin : undefined })}
        />
      )}
      {columns.includes("until") && (
        <TextInput
          size="xs"
          w={170}
          label="No end from this date on"
          placeholder="2099-12-31"
          value={writes.endless ?? ""}
          onChange={(event) => onChange({ endless: event.currentTarget.value })}
        />
      )}
    </>
  );
}

const changedWords: Readonly<Record<keyof Tables[number]["changed"], string>> = {
  endsIncluded: "end minutes included",
  backwards: "backward intervals as never",
  endless: "far ends as no end",
  dates: "dates put in order",
  zone: "times read in the zone",
  noPin: "PINs as none",
};

/** What the conventions changed when the file was read with them. */
function Changed({ changed }: { readonly changed: Tables[number]["changed"] }) {
  const counts = Object.entries(changed) as [keyof Tables[number]["changed"], number][];
  if (counts.length === 0) return null;
  return (
    <p className={sheet.sub} style={{ width: "100%", margin: 0 }}>
      Read so, it changed rows: {counts.map(([convention, count]) => `${count.toLocaleString("en-GB")} ${changedWords[convention]}`).join(", ")}.
    </p>
  );
}

/** A column that no header was given yet: dragged onto one. Choosing in the header's list does the same from the keyboard. */
function Chip({ column }: { readonly column: string }) {
  const { listeners, setNodeRef, isDragging } = useDraggable({ id: column });
  return (
    <span ref={setNodeRef} {...listeners} className={classes.chip} style={isDragging ? { opacity: 0.4 } : undefined}>
      {column}
    </span>
  );
}

function HeaderPlace({ text, children }: { readonly text: string; readonly children: ReactNode }) {
  const { setNodeRef, isOver } = useDroppable({ id: text });
  return (
    <div ref={setNodeRef} className={isOver ? `${classes.headerPlace} ${classes.overPlace}` : classes.headerPlace}>
      {children}
    </div>
  );
}

interface FileProps {
  readonly one: Tables[number];
  readonly columns: Readonly<Record<string, readonly string[]>>;
  readonly onTable: (table: string | null) => void;
  readonly onColumn: (text: string, value: string | null) => void;
  readonly onWriting: (change: Writes) => void;
}

/** One file: which table it is, and its headers with the columns that they stand for. */
function FileMapping({ one: { file, table, headers, writes, changed }, columns, onTable, onColumn, onWriting }: FileProps) {
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }));
  const [dragged, setDragged] = useState<string>();
  const known = table === undefined ? [] : (columns[table] ?? []);
  const untaken = known.filter((column) => !headers.some((header) => header.column === column));
  return (
    <DndContext
      id={`mapping ${file}`}
      sensors={sensors}
      onDragStart={({ active }) => setDragged(String(active.id))}
      onDragCancel={() => setDragged(undefined)}
      onDragEnd={({ active, over }) => {
        setDragged(undefined);
        if (over) onColumn(String(over.id), String(active.id));
      }}
    >
      <fieldset className={classes.mapping}>
        <legend>
          <b>{file}.csv</b>
        </legend>
        <Select
          size="xs"
          w={200}
          label="is the table"
          aria-label={`${file}.csv is the table`}
          searchable
          value={table ?? null}
          data={Object.keys(columns)}
          onChange={onTable}
          error={table === undefined}
        />
        {headers.map(({ text, column }) => (
          <HeaderPlace key={text} text={text}>
            <Select
              size="xs"
              w={170}
              label={text}
              aria-label={`${text} in ${file}.csv is`}
              searchable
              clearable
              value={column === null ? aside : (column ?? null)}
              data={[...known, aside]}
              onChange={(value) => onColumn(text, value)}
              error={column === undefined}
            />
          </HeaderPlace>
        ))}
        <Writing table={table} columns={known} writes={writes} onChange={onWriting} />
        <Changed changed={changed} />
        {untaken.length > 0 && headers.some(({ column }) => column === undefined || column === null) && (
          <div className={classes.chips} role="group" aria-label={`Columns of ${table} that no header stands for`}>
            <span className={sheet.sub}>Drag onto a header:</span>
            {untaken.map((column) => (
              <Chip key={column} column={column} />
            ))}
          </div>
        )}
      </fieldset>
      <DragOverlay dropAnimation={null}>{dragged !== undefined && <span className={classes.chip}>{dragged}</span>}</DragOverlay>
    </DndContext>
  );
}

/** What a bundle's files and headers are: understood where they are called as here, else to be chosen. */
export function MappingForm({
  tables,
  columns,
  busy,
  onRead,
}: {
  readonly tables: Tables;
  readonly columns: Readonly<Record<string, readonly string[]>>;
  readonly busy: boolean;
  readonly onRead: (mapping: Mapping) => void;
}) {
  const [chosen, setChosen] = useState(tables);
  const setTable = (file: string, table: string | null) => setChosen(chosen.map((one) => (one.file === file ? { ...one, table: table ?? undefined } : one)));
  const setColumn = (file: string, text: string, value: string | null) =>
    setChosen(
      chosen.map((one) =>
        one.file === file
          ? {
              ...one,
              headers: one.headers.map((header) =>
                header.text === text ? { text, column: value === null ? undefined : value === aside ? null : value } : header,
              ),
            }
          : one,
      ),
    );
  const setWriting = (file: string, change: Writes) =>
    setChosen(
      chosen.map((one) =>
        one.file === file
          ? {
              ...one,
              writes: Object.fromEntries(
                Object.entries({ ...one.writes, ...change }).filter(([, value]) => value !== undefined && value !== false && value !== ""),
              ),
            }
          : one,
      ),
    );
  const read = () =>
    onRead(
      Object.fromEntries(
        chosen.map(({ file, table, headers, writes }) => [
          file,
          {
            ...(table !== undefined && { table }),
            ...(Object.keys(writes).length > 0 && { writes }),
            headers: Object.fromEntries(headers.flatMap(({ text, column }) => (column === undefined ? [] : [[text, column]]))),
          },
        ]),
      ),
    );
  return (
    <section>
      <h2 className={classes.section}>Which header is what, and how it is written</h2>
      <p className={sheet.sub}>
        Choose what the files and headers are that Nomade does not know, or drag a column onto its header, and how this source writes dates and times. It is
        kept with the source when the file is stored, and used the next time.
      </p>
      {chosen.map((one) => (
        <FileMapping
          key={one.file}
          // What was changed is of the reading before us, the rest of what is chosen for the next.
          one={{ ...one, changed: tables.find(({ file }) => file === one.file)?.changed ?? {} }}
          columns={columns}
          onTable={(table) => setTable(one.file, table)}
          onColumn={(text, value) => setColumn(one.file, text, value)}
          onWriting={(change) => setWriting(one.file, change)}
        />
      ))}
      <Button onClick={read} loading={busy} mt="sm">
        Read it so
      </Button>
    </section>
  );
}

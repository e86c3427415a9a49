"use client";

import { DndContext, DragOverlay, PointerSensor, useDraggable, useDroppable, useSensor, useSensors } from "@dnd-kit/core";
import { ActionIcon, Select } from "@mantine/core";
import type { ReactNode } from "react";
import { Fragment, useState } from "react";
import type { ProfileTarget, SourceProfile, TableProfile, TriedTable } from "@/operations/intake/try-profile";
import sheet from "@/ui/sheet.module.css";
import { fieldName, madeWords } from "../../words/profile-fields";
import classes from "../intake.module.css";
import { cellColumn, changeField, headingColumn, leftAside, readColumnAs, readUnfoldedAs, splitKey, targetKey, toRows, usesOf } from "./edit-profile";
import type { ColumnValue } from "./field-form";
import { FieldForm } from "./field-form";

interface ColumnsTableProps {
  readonly tried: TriedTable;
  readonly said: TableProfile;
  readonly profile: SourceProfile;
  readonly targets: readonly ProfileTarget[];
  /** Fields that are needed and no column is read as yet. */
  readonly untaken: readonly string[];
  readonly onChange: (profile: SourceProfile) => void;
}

export const targetLabel = (key: string): string => {
  const [table, field] = splitKey(key);
  return `${madeWords[table] ?? table}: ${fieldName(table, field)}`;
};

/** All fields that a column can be, those of what the table makes already first. */
export function targetChoices(targets: readonly ProfileTarget[], said: TableProfile) {
  const made = new Set(said.makes.map(({ table }) => table));
  const sorted = [...targets].sort((a, b) => Number(made.has(b.table)) - Number(made.has(a.table)));
  return sorted.map(({ table, fields }) => ({
    group: madeWords[table] ?? table,
    items: fields.map(({ name }) => ({ value: targetKey(table, name), label: `${madeWords[table] ?? table}: ${fieldName(table, name)}` })),
  }));
}

const samplesShown = 3;

/** The first values of a column, and how many it has. */
function Samples({ column }: { readonly column: TriedTable["columns"][number] }) {
  if (column.isSecret) return <span className={sheet.sub}>not shown</span>;
  const several = column.values.length + (column.hasMore ? 1 : 0);
  return (
    <>
      {column.values.slice(0, samplesShown).map(({ text }) => (
        <code key={text} className={classes.sample}>
          {text.slice(0, 40)}
        </code>
      ))}
      <span className={sheet.sub}>
        {several > samplesShown ? ` ${column.hasMore ? "more than " : ""}${column.values.length.toLocaleString("en-GB")} values` : ""}
        {column.empty > 0 ? ` ${column.empty.toLocaleString("en-GB")} empty` : ""}
      </span>
    </>
  );
}

function DropPlace({ column, children }: { readonly column: string; readonly children: ReactNode }) {
  const { setNodeRef, isOver } = useDroppable({ id: column });
  return (
    <tr ref={setNodeRef} className={isOver ? classes.overPlace : undefined}>
      {children}
    </tr>
  );
}

function Chip({ target }: { readonly target: string }) {
  const { listeners, setNodeRef, isDragging } = useDraggable({ id: target });
  return (
    <span ref={setNodeRef} {...listeners} className={classes.chip} style={isDragging ? { opacity: 0.4 } : undefined}>
      {targetLabel(target)}
    </span>
  );
}

/** How the fields that a column is read as are written in it. */
function Written({
  uses,
  values,
  ...props
}: Omit<ColumnsTableProps, "tried" | "untaken"> & { readonly uses: readonly string[]; readonly values: readonly ColumnValue[] }) {
  const { said, profile, targets, onChange } = props;
  return uses.map((use) => {
    const [table, field] = splitKey(use);
    const target = targets.find((one) => one.table === table)?.fields.find(({ name }) => name === field);
    const source = said.makes.find((one) => one.table === table)?.fields[field];
    if (!target || !source) return null;
    const by =
      target.list === undefined
        ? []
        : (targets.find(({ list }) => list === target.list)?.fields ?? [])
            .filter(({ kind }) => kind === "text" || kind === "card-number")
            .map(({ name }) => name);
    return (
      <FieldForm
        key={use}
        target={target}
        label={targetLabel(use)}
        source={source}
        values={values}
        by={by}
        onChange={(changed) => onChange(changeField(profile, said.name, use, () => changed))}
      />
    );
  });
}

/** The columns of a table as they came, with their values, and what each is read as. */
export function ColumnsTable(props: ColumnsTableProps) {
  const { tried, said, profile, targets, untaken, onChange } = props;
  const [open, setOpen] = useState<string>();
  const [dragged, setDragged] = useState<string>();
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }));
  const choices = targetChoices(targets, said);
  const read = (column: string, use: string | null): void => onChange(readColumnAs(profile, said.name, column, use, targets));
  const unfolded = said.unfold?.flatMap(({ columns }) => columns) ?? [];
  const unfoldedValues = tried.columns.filter(({ name }) => unfolded.includes(name)).flatMap(({ values }) => values);
  const selectOf = (label: string, value: string | null, onUse: (use: string | null) => void, isOpen: boolean, others: readonly string[]) => (
    <Select
      size="xs"
      w={220}
      aria-label={label}
      placeholder="not said"
      searchable
      clearable
      value={value}
      error={isOpen}
      data={[{ group: "Not an object", items: others.map((other) => ({ value: other, label: other })) }, ...choices]}
      onChange={onUse}
    />
  );
  const changedBy = (uses: readonly string[]): number => Math.max(0, ...uses.map((use) => tried.outcome?.changed[use] ?? 0));
  const row = (name: string, uses: readonly string[], samples: ReactNode, select: ReactNode, values: readonly ColumnValue[]) => {
    const canOpen = uses.some((use) => use.includes("."));
    return (
      <Fragment key={name}>
        <DropPlace column={name}>
          <td className={classes.columnName}>{name}</td>
          <td className={classes.samples}>{samples}</td>
          <td>
            <div className={classes.uses}>
              {select}
              {uses.slice(1).map((use) => (
                <span key={use} className={sheet.sub}>
                  and {targetLabel(use)}
                </span>
              ))}
              {changedBy(uses) > 0 && <span className={sheet.sub}>{changedBy(uses).toLocaleString("en-GB")} changed</span>}
              {canOpen && (
                <ActionIcon
                  size="sm"
                  variant="subtle"
                  aria-expanded={open === name}
                  aria-label={`How ${name} is written`}
                  onClick={() => setOpen(open === name ? undefined : name)}
                >
                  {open === name ? "▾" : "▸"}
                </ActionIcon>
              )}
            </div>
          </td>
        </DropPlace>
        {open === name && canOpen && (
          <tr>
            <td colSpan={3}>
              <Written said={said} profile={profile} targets={targets} onChange={onChange} uses={uses} values={values} />
            </td>
          </tr>
        )}
      </Fragment>
    );
  };
  return (
    <DndContext
      id={`columns ${said.name}`}
      sensors={sensors}
      onDragStart={({ active }) => setDragged(String(active.id))}
      onDragCancel={() => setDragged(undefined)}
      onDragEnd={({ active, over }) => {
        setDragged(undefined);
        if (over) read(String(over.id), String(active.id));
      }}
    >
      <table className={`${sheet.table} ${classes.columns}`}>
        <thead>
          <tr>
            <th scope="col">Column</th>
            <th scope="col">Its values</th>
            <th scope="col">is read as</th>
          </tr>
        </thead>
        <tbody>
          {tried.columns
            .filter(({ name }) => !unfolded.includes(name))
            .map((column) => {
              const uses = usesOf(said, column.name);
              const select = selectOf(`${column.name} is`, uses[0] ?? null, (use) => read(column.name, use), uses.length === 0, [leftAside, toRows]);
              return row(column.name, uses, <Samples column={column} />, select, column.values);
            })}
          {unfolded.length > 0 && (
            <>
              <tr>
                <td className={classes.columnName}>{unfolded.length.toLocaleString("en-GB")} columns</td>
                <td className={classes.samples} colSpan={2}>
                  become rows:{" "}
                  {unfolded.map((name) => (
                    <button key={name} type="button" className={classes.unfolded} aria-label={`Take ${name} out of the rows`} onClick={() => read(name, null)}>
                      {name} ×
                    </button>
                  ))}
                </td>
              </tr>
              {([headingColumn, cellColumn] as const).map((which) => {
                const uses = usesOf(said, which);
                const words = which === headingColumn ? "Their headings" : "Their cells";
                const marks = said.makes.find(({ when }) => when?.column === which)?.when?.values ?? {};
                const yes = Object.entries(marks).flatMap(([text, holds]) => (holds ? [text] : []));
                const samples =
                  which === headingColumn ? (
                    <code className={classes.sample}>{unfolded.slice(0, 3).join(", ")}</code>
                  ) : yes.length > 0 ? (
                    <>
                      {yes.map((text) => (
                        <code key={text} className={classes.sample}>
                          {text}
                        </code>
                      ))}
                      <span className={sheet.sub}>say yes</span>
                    </>
                  ) : (
                    [...new Set(unfoldedValues.map(({ text }) => text))].slice(0, 3).map((text) => (
                      <code key={text} className={classes.sample}>
                        {text}
                      </code>
                    ))
                  );
                const select = selectOf(
                  `${words} are`,
                  uses[0] ?? null,
                  (use) => onChange(readUnfoldedAs(profile, said.name, which, use, targets)),
                  uses.length === 0 && yes.length === 0,
                  [],
                );
                return row(words, uses, samples, select, unfoldedValues);
              })}
            </>
          )}
        </tbody>
      </table>
      {untaken.length > 0 && (
        <div className={classes.chips} role="group" aria-label="What no column is read as yet">
          <span className={sheet.sub}>Drag onto a column:</span>
          {untaken.map((target) => (
            <Chip key={target} target={target} />
          ))}
        </div>
      )}
      <DragOverlay dropAnimation={null}>{dragged !== undefined && <span className={classes.chip}>{targetLabel(dragged)}</span>}</DragOverlay>
    </DndContext>
  );
}

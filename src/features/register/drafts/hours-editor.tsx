"use client";

import { Autocomplete, Button, Checkbox, Menu, Select, TextInput, UnstyledButton } from "@mantine/core";
import { useState } from "react";
import { drawnOnRow, minutesOfRow, readRow, writtenRow } from "@/core/drafting/clock-row";
import type { ClockRange } from "@/core/facility/document";
import { weekdays } from "@/core/time/civil-day";
import { RowPainter } from "@/ui/row-painter";
import sheet from "@/ui/sheet.module.css";
import classes from "./drafts.module.css";
import { MomentInput } from "./moment-input";

type Rows = Readonly<Record<string, readonly ClockRange[]>>;

const dayNames: Readonly<Record<string, string>> = {
  mon: "Monday",
  tue: "Tuesday",
  wed: "Wednesday",
  thu: "Thursday",
  fri: "Friday",
  sat: "Saturday",
  sun: "Sunday",
};
const weekdayCopies: readonly (readonly [words: string, days: readonly string[]])[] = [
  ["Monday to Friday", ["mon", "tue", "wed", "thu", "fri"]],
  ["Saturday and Sunday", ["sat", "sun"]],
  ["Every day", weekdays],
];

interface RowProps {
  readonly name: string;
  readonly row: readonly ClockRange[];
  /** What runs over from the day before. */
  readonly tail: readonly number[];
  readonly copies: readonly (readonly [words: string, onto: readonly string[]])[];
  readonly onChange: (row: ClockRange[]) => void;
  readonly onCopy: (onto: readonly string[]) => void;
  readonly onRemove?: () => void;
}

function Row({ name, row, tail, copies, onChange, onCopy, onRemove }: RowProps) {
  const [typed, setTyped] = useState<string>();
  const [unread, setUnread] = useState<string>();
  const settle = (): void => {
    if (typed === undefined) return;
    const read = readRow(typed);
    if ("unread" in read) {
      setUnread(read.unread);
      return;
    }
    setUnread(undefined);
    setTyped(undefined);
    onChange(read.row);
  };
  return (
    <>
      <span>{name}</span>
      <RowPainter
        open={minutesOfRow(row).own}
        tail={tail}
        label={`${name}: ${row.length === 0 ? "closed" : writtenRow(row)}`}
        onPaint={(from, to, isOpen) => onChange(drawnOnRow(row, from, to, isOpen))}
      />
      <TextInput
        size="xs"
        aria-label={`Hours of ${name}`}
        placeholder="closed"
        value={typed ?? writtenRow(row)}
        error={unread === undefined ? undefined : `“${unread}” is no stretch of time such as 08:00–18:00`}
        onChange={(event) => setTyped(event.currentTarget.value)}
        onBlur={settle}
        onKeyDown={(event) => {
          if (event.key !== "Enter") return;
          event.preventDefault();
          settle();
        }}
      />
      <span style={{ whiteSpace: "nowrap" }}>
        <Menu position="bottom-end">
          <Menu.Target>
            <UnstyledButton className={sheet.plain} aria-label={`Copy ${name} to`}>
              Copy to …
            </UnstyledButton>
          </Menu.Target>
          <Menu.Dropdown>
            {copies.map(([words, onto]) => (
              <Menu.Item key={words} onClick={() => onCopy(onto)}>
                {words}
              </Menu.Item>
            ))}
          </Menu.Dropdown>
        </Menu>
        {onRemove && (
          <UnstyledButton className={sheet.plain} onClick={onRemove} aria-label={`Remove the row of ${name}`} style={{ marginLeft: 10 }}>
            Remove
          </UnstyledButton>
        )}
      </span>
    </>
  );
}

/** Hours across, so that the rows below can be read. */
const Scale = () => (
  <>
    <span />
    <span className={classes.scale} aria-hidden>
      {[0, 6, 12, 18, 24].map((hour) => (
        <span key={hour} style={{ left: `${(100 * hour) / 24}%` }}>
          {String(hour).padStart(2, "0")}
        </span>
      ))}
    </span>
    <span />
    <span />
  </>
);

interface HoursEditorProps {
  readonly value: Readonly<Record<string, unknown>>;
  readonly dayTypes: readonly string[];
  readonly onChange: (change: Readonly<Record<string, unknown>>) => void;
}

/** The hours of a schedule: drawn by dragging, copied from day to day, or typed exactly; a row for each day type that needs one. */
export function HoursEditor({ value, dayTypes, onChange }: HoursEditorProps) {
  const [dayType, setDayType] = useState("");
  const isAlways = value.always === true;
  const week = (value.week ?? {}) as Rows;
  const holidays = (value.holidays ?? {}) as Rows;
  const setDay = (day: string, row: readonly ClockRange[]): Rows => {
    const { [day]: _before, ...others } = week;
    return row.length === 0 ? others : { ...others, [day]: row };
  };
  const copyDays = (from: readonly ClockRange[], days: readonly string[]): void =>
    onChange({
      week: {
        ...Object.fromEntries(Object.entries(week).filter(([day]) => !days.includes(day))),
        ...(from.length > 0 && Object.fromEntries(days.map((day) => [day, from]))),
      },
    });
  const tailInto = (day: number): readonly number[] => minutesOfRow(week[weekdays[(day + 6) % 7] ?? ""] ?? []).tail;
  const setHolidays = (next: Rows): void => onChange({ holidays: Object.keys(next).length === 0 ? undefined : next });
  const typeCopies = Object.keys(holidays).map((type): readonly [string, readonly string[]] => [`Day type ${type}`, [type]]);
  return (
    <div className={classes.wideField}>
      <Checkbox
        label="At all hours, whatever the day"
        checked={isAlways}
        onChange={(event) =>
          onChange(
            event.currentTarget.checked
              ? { always: true, week: undefined, holidays: undefined, onHoliday: undefined, from: undefined, until: undefined }
              : { always: undefined, week: {} },
          )
        }
        mb="md"
      />
      {!isAlways && (
        <>
          <p className={sheet.sub} style={{ margin: "0 0 8px" }}>
            Drag across a day to open it, or to close what is open; type for exact minutes. Hours over midnight are typed, as 22:00–06:00, and end on the next
            day (hatched).
          </p>
          <div className={classes.hours}>
            <Scale />
            {weekdays.map((day, at) => (
              <Row
                key={day}
                name={dayNames[day] ?? day}
                row={week[day] ?? []}
                tail={tailInto(at)}
                copies={weekdayCopies}
                onChange={(row) => onChange({ week: setDay(day, row) })}
                onCopy={(onto) => copyDays(week[day] ?? [], onto)}
              />
            ))}
            {Object.entries(holidays).map(([type, row]) => (
              <Row
                key={type}
                name={`Type ${type}`}
                row={row}
                tail={[]}
                copies={typeCopies.filter(([, [onto]]) => onto !== type)}
                onChange={(next) => setHolidays({ ...holidays, [type]: next })}
                onCopy={(onto) => setHolidays({ ...holidays, ...Object.fromEntries(onto.map((other) => [other, row])) })}
                onRemove={() => setHolidays(Object.fromEntries(Object.entries(holidays).filter(([other]) => other !== type)))}
              />
            ))}
          </div>
          <div className={classes.add} style={{ alignItems: "flex-end", marginTop: 14 }}>
            <Autocomplete
              label="A row for days of type"
              size="xs"
              w={140}
              value={dayType}
              data={dayTypes.filter((type) => !(type in holidays))}
              onChange={setDayType}
            />
            <Button
              size="xs"
              variant="default"
              disabled={dayType.trim() === "" || dayType.trim() in holidays}
              onClick={() => {
                setHolidays({ ...holidays, [dayType.trim()]: [] });
                setDayType("");
              }}
            >
              Add the row
            </Button>
            <Select
              label="On day types without a row"
              size="xs"
              w={170}
              allowDeselect={false}
              value={(value.onHoliday as string | undefined) ?? "closed"}
              data={[
                { value: "closed", label: "closed" },
                { value: "weekday", label: "as on the weekday" },
              ]}
              onChange={(choice) => onChange({ onHoliday: choice === "weekday" ? choice : undefined })}
            />
            <MomentInput
              label="First date"
              size="xs"
              w={132}
              timeZone={undefined}
              placeholder="31 Dec 2026"
              value={(value.from as string | undefined) ?? ""}
              onText={(text) => onChange({ from: text || undefined })}
            />
            <MomentInput
              label="Last date"
              size="xs"
              w={132}
              timeZone={undefined}
              placeholder="31 Dec 2026"
              value={(value.until as string | undefined) ?? ""}
              onText={(text) => onChange({ until: text || undefined })}
            />
          </div>
        </>
      )}
    </div>
  );
}

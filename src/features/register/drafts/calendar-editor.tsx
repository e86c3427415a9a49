"use client";

import { Autocomplete, Button, NumberInput, Select, TextInput } from "@mantine/core";
import type { DocumentDay } from "@/core/facility/document";
import { weekdays } from "@/core/time/civil-day";
import sheet from "@/ui/sheet.module.css";
import classes from "./drafts.module.css";

type Day = DocumentDay;

const rules = [
  { value: "on", label: "one date" },
  { value: "from", label: "a range of dates" },
  { value: "yearly", label: "a day every year" },
  { value: "yearlyFrom", label: "a span every year" },
  { value: "easter", label: "days from Easter" },
  { value: "nth", label: "n-th weekday" },
] as const;
type Rule = (typeof rules)[number]["value"];

const ruleOf = (day: Day): Rule => rules.find(({ value }) => day[value] !== undefined)?.value ?? "on";

/** What stays of an entry when it follows another rule: its name, day type and priority. */
const withRule = ({ name, dayType, priority }: Day, rule: Rule): Day => ({
  name,
  dayType,
  ...(priority !== undefined && { priority }),
  ...(rule === "easter"
    ? { easter: 0 }
    : rule === "nth"
      ? { nth: { month: 1, weekday: "mon", n: 1 } }
      : rule === "from"
        ? { from: "", to: "" }
        : rule === "yearlyFrom"
          ? { yearlyFrom: "", yearlyTo: "" }
          : { [rule]: "" }),
});

const months = ["January", "February", "March", "April", "May", "June", "July", "August", "September", "October", "November", "December"];
const counts = [
  { value: "1", label: "first" },
  { value: "2", label: "second" },
  { value: "3", label: "third" },
  { value: "4", label: "fourth" },
  { value: "5", label: "fifth" },
  { value: "-1", label: "last" },
];
const dayChoices = weekdays.map((day) => ({ value: day, label: day.charAt(0).toUpperCase() + day.slice(1) }));

function RuleFields({ day, at, onChange }: { readonly day: Day; readonly at: number; readonly onChange: (day: Day) => void }) {
  const text = (key: "on" | "from" | "to" | "yearly" | "yearlyFrom" | "yearlyTo", label: string, placeholder: string) => (
    <TextInput
      size="xs"
      aria-label={`${label} of entry ${at + 1}`}
      placeholder={placeholder}
      value={day[key] ?? ""}
      onChange={(event) => onChange({ ...day, [key]: event.currentTarget.value })}
    />
  );
  switch (ruleOf(day)) {
    case "on":
      return text("on", "Date", "YYYY-MM-DD");
    case "from":
      return (
        <>
          {text("from", "First date", "YYYY-MM-DD")} {text("to", "Last date", "YYYY-MM-DD")}
        </>
      );
    case "yearly":
      return text("yearly", "Day of the year", "MM-DD");
    case "yearlyFrom":
      return (
        <>
          {text("yearlyFrom", "First day of the year", "MM-DD")} {text("yearlyTo", "Last day of the year", "MM-DD")}
        </>
      );
    case "easter":
      return (
        <NumberInput
          size="xs"
          aria-label={`Days after Easter of entry ${at + 1}`}
          allowDecimal={false}
          value={day.easter ?? 0}
          onChange={(value) => onChange({ ...day, easter: Number(value) })}
        />
      );
    case "nth": {
      const nth = day.nth ?? { month: 1, weekday: "mon" as const, n: 1 };
      const set = (change: Partial<typeof nth>): void => onChange({ ...day, nth: { ...nth, ...change } });
      return (
        <>
          <Select
            size="xs"
            w={74}
            aria-label={`Which one, entry ${at + 1}`}
            allowDeselect={false}
            data={counts}
            value={String(nth.n)}
            onChange={(value) => set({ n: Number(value) })}
          />
          <Select
            size="xs"
            w={64}
            aria-label={`Weekday of entry ${at + 1}`}
            allowDeselect={false}
            data={dayChoices}
            value={nth.weekday}
            onChange={(value) => value !== null && set({ weekday: value })}
          />
          <Select
            size="xs"
            w={96}
            aria-label={`Month of entry ${at + 1}`}
            allowDeselect={false}
            data={months.map((label, i) => ({ value: String(i + 1), label }))}
            value={String(nth.month)}
            onChange={(value) => set({ month: Number(value) })}
          />
        </>
      );
    }
  }
}

/** The entries of a calendar in their order: of two with one priority the upper wins. */
export function CalendarEditor({
  days,
  dayTypes,
  faultAt,
  onChange,
}: {
  readonly days: readonly Day[];
  readonly dayTypes: readonly string[];
  readonly faultAt: (entry: number) => string | undefined;
  readonly onChange: (days: readonly Day[]) => void;
}) {
  const put = (at: number, day: Day): void => onChange(days.with(at, day));
  const swap = (at: number, with_: number): void => {
    const [a, b] = [days[at], days[with_]];
    if (a && b) onChange(days.with(at, b).with(with_, a));
  };
  return (
    <div className={classes.wideField}>
      <p className={sheet.sub} style={{ margin: "0 0 4px" }}>
        Where several fall on a date, the highest priority wins; of equal ones the upper.
      </p>
      {days.map((day, at) => (
        <div key={at}>
          <div className={classes.entry}>
            <TextInput
              size="xs"
              label={at === 0 ? "Name" : undefined}
              aria-label={`Name of entry ${at + 1}`}
              value={day.name}
              onChange={(event) => put(at, { ...day, name: event.currentTarget.value })}
            />
            <Autocomplete
              size="xs"
              label={at === 0 ? "Day type" : undefined}
              aria-label={`Day type of entry ${at + 1}`}
              data={[...dayTypes]}
              value={day.dayType}
              onChange={(dayType) => put(at, { ...day, dayType })}
            />
            <NumberInput
              size="xs"
              label={at === 0 ? "Priority" : undefined}
              aria-label={`Priority of entry ${at + 1}`}
              allowDecimal={false}
              value={day.priority ?? 0}
              onChange={(value) => {
                const { priority: _before, ...rest } = day;
                put(at, Number(value) === 0 ? rest : { ...rest, priority: Number(value) });
              }}
            />
            <Select
              size="xs"
              label={at === 0 ? "Comes on" : undefined}
              aria-label={`Rule of entry ${at + 1}`}
              allowDeselect={false}
              data={[...rules]}
              value={ruleOf(day)}
              onChange={(value) => value !== null && put(at, withRule(day, value))}
            />
            <span className={classes.rule}>
              <RuleFields day={day} at={at} onChange={(next) => put(at, next)} />
            </span>
            <span style={{ whiteSpace: "nowrap" }}>
              <button
                type="button"
                className={sheet.plain}
                disabled={at === 0}
                onClick={() => swap(at, at - 1)}
                aria-label={`Move entry ${at + 1} up`}
                style={{ minWidth: 24 }}
              >
                ↑
              </button>
              <button
                type="button"
                className={sheet.plain}
                disabled={at === days.length - 1}
                onClick={() => swap(at, at + 1)}
                aria-label={`Move entry ${at + 1} down`}
                style={{ minWidth: 24 }}
              >
                ↓
              </button>
              <button
                type="button"
                className={sheet.plain}
                onClick={() => onChange(days.filter((_, other) => other !== at))}
                aria-label={`Remove entry ${at + 1}`}
                style={{ marginLeft: 6 }}
              >
                Remove
              </button>
            </span>
          </div>
          {faultAt(at) !== undefined && <div className={classes.faults}>{faultAt(at)}</div>}
        </div>
      ))}
      <Button size="xs" variant="default" mt="sm" onClick={() => onChange([...days, { name: "", dayType: dayTypes[0] ?? "public", on: "" }])}>
        Add an entry
      </Button>
    </div>
  );
}

"use client";

import { Autocomplete, Button, NumberInput, Select, TextInput, UnstyledButton } from "@mantine/core";
import type { DocumentDay, DocumentDayRule, NthWeekday } from "@/core/facility/document";
import { typedDayOfYear } from "@/core/questions/typed-date";
import { weekdays } from "@/core/time/civil-day";
import sheet from "@/ui/sheet.module.css";
import { dayOfYearText } from "../../words/times";
import classes from "./drafts.module.css";
import { MomentInput } from "./moment-input";
import { TypedInput } from "./typed-input";

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

/** What each rule begins with when it is chosen. */
const freshRules: Readonly<Record<Rule, DocumentDayRule>> = {
  on: { on: "" },
  from: { from: "", to: "" },
  yearly: { yearly: "" },
  yearlyFrom: { yearlyFrom: "", yearlyTo: "" },
  easter: { easter: 0 },
  nth: { nth: { month: 1, weekday: "mon", n: 1 } },
};

/** The entry by another rule: its name, day type and priority stay. */
const withRule = ({ name, dayType, priority }: Day, rule: DocumentDayRule): Day => ({
  name,
  dayType,
  ...(priority !== undefined && { priority }),
  ...rule,
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
  const set = (rule: DocumentDayRule): void => onChange(withRule(day, rule));
  const date = (label: string, value: string, ruleWith: (date: string) => DocumentDayRule) => (
    <MomentInput
      size="xs"
      timeZone={undefined}
      aria-label={`${label} of entry ${at + 1}`}
      placeholder="31 Dec 2026"
      value={value}
      onText={(text) => set(ruleWith(text))}
    />
  );
  const dayOfYear = (label: string, value: string, ruleWith: (dayOfYear: string) => DocumentDayRule) => (
    <TypedInput
      size="xs"
      aria-label={`${label} of entry ${at + 1}`}
      placeholder="25 Dec"
      value={value}
      show={dayOfYearText}
      read={typedDayOfYear}
      onText={(text) => set(ruleWith(text))}
    />
  );
  if (day.on !== undefined) return date("Date", day.on, (on) => ({ on }));
  if (day.from !== undefined) {
    const { from, to } = day;
    return (
      <>
        {date("First date", from, (text) => ({ from: text, to }))} {date("Last date", to, (text) => ({ from, to: text }))}
      </>
    );
  }
  if (day.yearly !== undefined) return dayOfYear("Day of the year", day.yearly, (yearly) => ({ yearly }));
  if (day.yearlyFrom !== undefined) {
    const { yearlyFrom: from, yearlyTo: to } = day;
    return (
      <>
        {dayOfYear("First day of the year", from, (text) => ({ yearlyFrom: text, yearlyTo: to }))}{" "}
        {dayOfYear("Last day of the year", to, (text) => ({ yearlyFrom: from, yearlyTo: text }))}
      </>
    );
  }
  if (day.easter !== undefined)
    return (
      <NumberInput
        size="xs"
        aria-label={`Days after Easter of entry ${at + 1}`}
        allowDecimal={false}
        value={day.easter}
        onChange={(value) => set({ easter: Number(value) })}
      />
    );
  const setNth = (change: Partial<NthWeekday>): void => set({ nth: { ...day.nth, ...change } });
  return (
    <>
      <Select
        size="xs"
        w={74}
        aria-label={`Which one, entry ${at + 1}`}
        allowDeselect={false}
        data={counts}
        value={String(day.nth.n)}
        onChange={(value) => setNth({ n: Number(value) })}
      />
      <Select
        size="xs"
        w={64}
        aria-label={`Weekday of entry ${at + 1}`}
        allowDeselect={false}
        data={dayChoices}
        value={day.nth.weekday}
        onChange={(value) => value !== null && setNth({ weekday: value })}
      />
      <Select
        size="xs"
        w={96}
        aria-label={`Month of entry ${at + 1}`}
        allowDeselect={false}
        data={months.map((label, i) => ({ value: String(i + 1), label }))}
        value={String(day.nth.month)}
        onChange={(value) => setNth({ month: Number(value) })}
      />
    </>
  );
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
              onChange={(value) => value !== null && put(at, withRule(day, freshRules[value]))}
            />
            <span className={classes.rule}>
              <RuleFields day={day} at={at} onChange={(next) => put(at, next)} />
            </span>
            <span style={{ whiteSpace: "nowrap" }}>
              <UnstyledButton
                className={sheet.plain}
                disabled={at === 0}
                onClick={() => swap(at, at - 1)}
                aria-label={`Move entry ${at + 1} up`}
                style={{ minWidth: 24 }}
              >
                ↑
              </UnstyledButton>
              <UnstyledButton
                className={sheet.plain}
                disabled={at === days.length - 1}
                onClick={() => swap(at, at + 1)}
                aria-label={`Move entry ${at + 1} down`}
                style={{ minWidth: 24 }}
              >
                ↓
              </UnstyledButton>
              <UnstyledButton
                className={sheet.plain}
                onClick={() => onChange(days.filter((_, other) => other !== at))}
                aria-label={`Remove entry ${at + 1}`}
                style={{ marginLeft: 6 }}
              >
                Remove
              </UnstyledButton>
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

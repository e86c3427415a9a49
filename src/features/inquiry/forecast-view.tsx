"use client";

import { NumberInput } from "@mantine/core";
import { useForm } from "@mantine/form";
import Link from "next/link";
import { useRouter } from "next/navigation";
import type { ReactNode } from "react";
import { addDays, formatCivilDay, parseCivilDay, weekdayNumber, yearMonthDay } from "@/core/time/civil-day";
import type { CivilDay } from "@/core/time/civil-day";
import type { ToldComing, ToldDates, ToldDay, ToldForecast, ToldReach } from "@/operations/inquiry/show-forecast";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { capital, countWords, plural, someWords } from "../words/numbers";
import { dateText, monthText, weekdayText } from "../words/times";
import classes from "./forecast.module.css";
import shared from "./inquiry.module.css";
import { nothingAsked, QuestionLine } from "./question-line";
import { TakeAway } from "./take-away";

const listName: Readonly<Record<ToldComing["list"], readonly [one: string, many: string]>> = {
  cardholders: ["person", "people"],
  credentials: ["card", "cards"],
  memberships: ["membership", "memberships"],
  grants: ["grant", "grants"],
  schedules: ["schedule", "schedules"],
};
const kindOfList = { cardholders: "cardholder", credentials: "credential", memberships: "group", grants: "grant", schedules: "schedule" } as const;
const byWords: Readonly<Record<ToldComing["by"], string>> = {
  window: "",
  "first-use": "so long after it was first used",
  "last-use": "if it is not used again",
  status: "by its status",
};

const dayOf = (written: string): CivilDay => parseCivilDay(written) ?? (0 as CivilDay);
const fullDate = (written: string): string => `${weekdayText(dayOf(written))} ${dateText(dayOf(written))}`;

function Item({ item }: { readonly item: ToldComing }) {
  const more = [item.of, item.isBlock ? "a block" : "", byWords[item.by]].filter(Boolean).join(", ");
  return (
    <>
      <Link href={`/register/${kindOfList[item.list]}/${encodeURIComponent(item.id)}`}>{item.name}</Link>
      {more !== "" && ` (${more})`}
    </>
  );
}

function Reach({ reach, words }: { readonly reach: ToldReach; readonly words: string }) {
  return (
    <li>
      {capital(plural(reach.holders, "holder", "holders"))} {reach.holders === 1 ? "opens" : "open"} {plural(reach.doors, "door", "doors")} {words}:{" "}
      {someWords(reach.names, 5)}
      {reach.holders > reach.names.length ? ` and ${(reach.holders - reach.names.length).toLocaleString("en-GB")} more` : ""}.
    </li>
  );
}

const changeWords = ({ holdersLess, holdersMore, doorsLessCount, doorsMoreCount, freeLess, freeMore, dates }: ToldDates): string => {
  const most = dates > 1 ? "up to " : "";
  const parts = [
    holdersLess === 0 ? "" : `${most}${plural(holdersLess, "holder opens", "holders open")} ${plural(doorsLessCount, "door", "doors")} for less of it`,
    holdersMore === 0 ? "" : `${most}${plural(holdersMore, "holder opens", "holders open")} ${plural(doorsMoreCount, "door", "doors")} for more of it`,
    freeLess.length === 0 ? "" : `${someWords(freeLess, 3)} ${freeLess.length === 1 ? "stands" : "stand"} free for less of it`,
    freeMore.length === 0 ? "" : `${someWords(freeMore, 3)} ${freeMore.length === 1 ? "stands" : "stand"} free for more of it`,
  ].filter(Boolean);
  return parts.length === 0 ? "nothing opens otherwise" : parts.join("; ");
};

const spanText = ({ from, to }: ToldDates): string => (from === to ? fullDate(from) : `${fullDate(from)} – ${fullDate(to)}`);

function Missing({ missing, typedUntil }: Pick<ToldForecast, "missing" | "typedUntil">) {
  return (
    <section>
      <h2>If the calendars are not renewed</h2>
      {typedUntil.map(({ calendar, name, last }) => (
        <p key={calendar}>
          <Link href={`/register/calendar/${encodeURIComponent(calendar)}`}>{name}</Link>: the last date that was typed in singly is {fullDate(last)}. After it
          only days that recur count, and doors open as on any other day.
        </p>
      ))}
      {missing.length === 0 && <p>No date that was typed in for the years before is missing in this time.</p>}
      {missing.map((one) => (
        <p key={`${one.calendar} ${one.site} ${one.name} ${one.from}`}>
          <b>{one.name}</b>, {spanText(one)}, {one.site}: typed in for the years before and not for this one (
          <Link href={`/register/calendar/${encodeURIComponent(one.calendar)}`}>{one.calendarName}</Link>). As it is, {changeWords(one)} than if it were.
        </p>
      ))}
    </section>
  );
}

function Dates({ dates }: { readonly dates: readonly ToldDates[] }) {
  return (
    <section>
      <h2>Days of the calendars</h2>
      {dates.length === 0 && <p>None in this time.</p>}
      {dates.map((one) => (
        <p key={`${one.site} ${one.name} ${one.from}`}>
          <b>{one.name}</b> ({one.dayType}), {spanText(one)}, {one.site}: {changeWords(one)}.
        </p>
      ))}
    </section>
  );
}

/** The weeks of the forecast, a row each: what begins and ends on each date, and which are of a day type. */
function Weeks({ forecast }: { readonly forecast: ToldForecast }) {
  const [first, last] = [dayOf(forecast.from), dayOf(forecast.to)];
  const byDate = new Map(forecast.byDate.map((day) => [day.date, day]));
  const special = new Map<string, string[]>();
  const note = (written: string, name: string): void => {
    const known = special.get(written) ?? [];
    if (!known.includes(name)) special.set(written, [...known, name]);
  };
  // What goes on for weeks would stand in every cell: it is told beside.
  for (const { from, dates, name } of forecast.dates) if (dates <= 7) for (let i = 0; i < dates; i++) note(formatCivilDay(addDays(dayOf(from), i)), name);
  for (const { from, dates, name } of forecast.missing) for (let i = 0; i < dates; i++) note(formatCivilDay(addDays(dayOf(from), i)), `${name} missing`);
  const monday = addDays(first, -weekdayNumber(first));
  const weeks = Array.from({ length: Math.ceil((last - monday + 1) / 7) }, (_, i) => addDays(monday, 7 * i));
  return (
    <table className={classes.weeks}>
      <caption className={classes.caption}>What begins and ends, by date</caption>
      <thead>
        <tr>
          {["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"].map((name) => (
            <th key={name} scope="col">
              {name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {weeks.map((week) => (
          <tr key={week}>
            {Array.from({ length: 7 }, (_, i) => addDays(week, i)).map((date) => {
              const written = formatCivilDay(date);
              if (date < first || date > last) return <td key={date} className={classes.beyond} />;
              const day = byDate.get(written);
              const count = (change: ToldDay["comes"][number]["change"]): number =>
                (day?.comes ?? []).reduce((sum, one) => sum + (one.change === change ? one.count : 0), 0);
              const [ends, begins] = [count("ends"), count("begins")];
              const { day: number, month } = yearMonthDay(date);
              return (
                <td key={date}>
                  <span className={classes.date}>{number === 1 || date === first ? `${number} ${monthText(month)}` : number}</span>
                  {(ends > 0 || begins > 0 || day?.lost || day?.gained) && (
                    <a href={`#on-${written}`} className={classes.marks}>
                      {ends > 0 && <span>{ends} end</span>}
                      {begins > 0 && <span>{begins} begin</span>}
                      {ends === 0 && begins === 0 && <span>access changes</span>}
                    </a>
                  )}
                  {special.get(written)?.map((name) => (
                    <span key={name} className={name.endsWith(" missing") ? classes.missing : classes.special}>
                      {name}
                    </span>
                  ))}
                </td>
              );
            })}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Day({ day }: { readonly day: ToldDay }) {
  return (
    <article id={`on-${day.date}`} className={classes.day}>
      <h3>{fullDate(day.date)}</h3>
      <ul>
        {day.comes.map(({ change, list, count, items }) => (
          <li key={`${change} ${list}`}>
            {capital(plural(count, ...listName[list]))} {count === 1 ? (change === "ends" ? "ends" : "begins") : change === "ends" ? "end" : "begin"}:{" "}
            {items.map((item, i) => (
              <span key={`${item.id} ${item.of ?? ""}`}>
                {i > 0 && ", "}
                <Item item={item} />
              </span>
            ))}
            {count > items.length && ` and ${(count - items.length).toLocaleString("en-GB")} more`}.
          </li>
        ))}
        {day.lost && <Reach reach={day.lost} words="for the last time" />}
        {day.gained && <Reach reach={day.gained} words="for the first time" />}
      </ul>
    </article>
  );
}

/** What comes by itself though nobody touches anything: as a calendar, and as a list by date. */
export function ForecastView({ forecast, reference, longest }: { readonly forecast: ToldForecast; readonly reference: ReactNode; readonly longest: number }) {
  const router = useRouter();
  const form = useForm({ initialValues: { days: forecast.days as number | string } });
  const total = (change: "begins" | "ends"): number =>
    forecast.byDate.reduce((sum, day) => sum + day.comes.reduce((own, one) => own + (one.change === change ? one.count : 0), 0), 0);
  const [ends, begins] = [total("ends"), total("begins")];
  const go = (): void => {
    const wanted = Number(form.values.days);
    if (Number.isInteger(wanted) && wanted >= 1 && wanted <= longest && wanted !== forecast.days) router.push(`/inquiry/forecast?days=${wanted}`);
  };
  const margin = (
    <div className={classes.beside}>
      <Missing missing={forecast.missing} typedUntil={forecast.typedUntil} />
      <Dates dates={forecast.dates} />
    </div>
  );
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />} margin={margin}>
      <Heading
        result={`In the coming ${forecast.days} days ${ends === 0 ? "nothing ends" : plural(ends, "thing ends", "things end")} and ${begins === 0 ? "nothing begins" : plural(begins, "begins", "begin")} by itself`}
        reference={reference}
        lead={`From ${fullDate(forecast.from)}, the export, to ${fullDate(forecast.to)}, though nobody touches anything. A door is opened for the last time where it is not opened again in the 13 months ahead; for the first where an ordinary week at the export does not have it. Dates are those of ${forecast.timeZone}.${forecast.endsUnused ? " Some cards end by not being used: what is said of them holds if they are not used again." : ""}`}
      />
      <form className={classes.days} onSubmit={form.onSubmit(go)}>
        <NumberInput size="xs" w={120} label="Days ahead" min={1} max={longest} {...form.getInputProps("days")} onBlur={go} />
        <span className={shared.away}>
          <TakeAway address={`/inquiry/forecast/export?days=${forecast.days}`} />
        </span>
      </form>
      <Weeks forecast={forecast} />
      {forecast.byDate.length === 0 && <p>{capital(countWords(0))} date on which anything begins or ends.</p>}
      {forecast.byDate.map((day) => (
        <Day key={day.date} day={day} />
      ))}
      <p className={sheet.links}>
        <Link href="/inquiry">Ask a question</Link>
      </p>
    </Sheet>
  );
}

/** In place of the forecast while it is worked out. */
export function AwaitedForecast({ days }: { readonly days: number }) {
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />} margin={<span />}>
      <Heading
        result={`Working out the coming ${days} days …`}
        lead="The register is laid out with and without the days of its calendars, and both are compared date by date."
      />
    </Sheet>
  );
}

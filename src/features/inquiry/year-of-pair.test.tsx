/** @jest-environment jsdom */
import { describe, expect, it } from "@jest/globals";
import { screen, within } from "@testing-library/react";
import { minute } from "~/tests/builders";
import { show } from "~/tests/components/show";
import type { HolidayCalendar } from "@/core/time/calendar";
import { holidayCalendar } from "@/core/time/calendar";
import { parseCivilDay } from "@/core/time/civil-day";
import { zoneOf } from "@/core/time/zone";
import { yearOfAccess } from "@/core/questions/year-of-access";
import { hoursOfDate } from "../words/date-hours";
import { sumsOfMonths, YearOfPair } from "./year-of-pair";

const zone = zoneOf("Europe/Vienna");
const [from, to] = [minute("2026-03-01T00:00:00Z"), minute("2026-04-30T22:00:00Z")];
const labour: HolidayCalendar = holidayCalendar([
  { name: "Stocktaking", dayType: "company", priority: 0, when: { rule: "on", date: parseCivilDay("2026-04-07") ?? (0 as never) } },
]);
/** From 07:30 UTC on for two hours, on the first three dates of April. */
const open = [1, 2, 3].flatMap((day) => [minute(`2026-04-0${day}T07:30:00Z`), minute(`2026-04-0${day}T09:30:00Z`)]);

describe("a year of somebody at a door", () => {
  it("tells first and last opening, hours and how much of them is out of hours, by month and on dates that are not like others", () => {
    const business = [minute("2026-04-01T00:00:00Z"), minute("2026-04-01T12:00:00Z")];
    const year = yearOfAccess(open, { zone, calendar: labour, business }, from, to);
    show(<YearOfPair year={year} at={minute("2026-04-02T08:00:00Z")} />);
    screen.getByText(
      "It opens on three dates of 61, for 6 h in all, 67 % of it out of hours; first on Wed 1 Apr 2026, 09:30, for the last time until Fri 3 Apr 2026, 11:30.",
    );
    screen.getByText("The table behind it, and two dates out of the ordinary");
    const rowsOf = (table: HTMLElement | undefined) =>
      within(table as HTMLElement)
        .getAllByRole("row")
        .map((row) => [...row.children].map(({ textContent }) => textContent));
    const [months, dates] = screen.getAllByRole("table", { hidden: true });
    expect(rowsOf(months).slice(1)).toEqual([
      ["Mar 2026", "0 of 31", "0 h", "–"],
      ["Apr 2026", "3 of 30", "6 h", "67 %"],
    ]);
    expect(rowsOf(dates).slice(1)).toEqual([
      ["Sun 29 Mar 2026", "the clocks go forward by an hour", "stays shut"],
      ["Tue 7 Apr 2026", "Stocktaking (company days)", "stays shut"],
    ]);
  });

  it("says where it never opens, and draws nothing of no time", () => {
    const { unmount, container } = show(<YearOfPair year={yearOfAccess([], { zone, calendar: undefined, business: [] }, from, to)} at={from} />);
    screen.getByText("It opens at no minute of the 13 months.");
    unmount();
    const live = show(<YearOfPair year={yearOfAccess(open, { zone, calendar: undefined, business: [] }, from, to)} at={from} asIfLive />);
    screen.getByText(/^It would open on three dates of 61, for 6 h in all, .*, if every card were live\.$/);
    live.unmount();
    expect(container.querySelector("svg")).toBeNull();
  });

  it("writes the hours of a date, and adds up months without losing one", () => {
    expect([hoursOfDate([]), hoursOfDate([0, 1440]), hoursOfDate([0, 360, 1200, 1440])]).toEqual(["stays shut", "all day", "00:00–06:00, 20:00–24:00"]);
    const { days } = yearOfAccess(open, { zone, calendar: undefined, business: [] }, from, to);
    expect(sumsOfMonths(days).reduce((sum, { dates }) => sum + dates, 0)).toBe(days.length);
  });
});

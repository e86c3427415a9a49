import type { SomeRules } from "./told-rule";

/** What can be wrong with doors, levels, schedules and calendars themselves. */
export const definitions = {
  "nothing-behind": {
    title: "Nothing behind it",
    flags: "A level, bundle, group, schedule or calendar that nothing uses, that opens nothing, or a group of just one person.",
    why: "What is left over is taken up again one day by somebody who does not know what it was for.",
    blind: "Whether it is kept for something that is to come.",
  },
  "door-without-grants": {
    title: "Nobody opens it",
    flags: "No credential opens a door in the time ahead that is looked at, and it never stands free.",
    why: "Either it is opened in a way that is not in the record, or it is not there any more.",
    blind: "Keys.",
  },
  "door-only-free": {
    title: "A sensitive door stands open",
    flags: "A sensitive door stands unlocked for anybody at times.",
    why: "While it stands open it does not matter who holds what.",
    blind: "Doors that are held open by hand.",
  },
  "single-factor": {
    title: "Asks for less than card and PIN",
    flags: "A door of sensitivity {sensitivity} or more asks at times for something else than card and PIN.",
    why: "A found card, or a PIN seen over a shoulder, is then enough by itself.",
    blind: "What a reader really asks for: it goes by the record.",
  },
  "calendar-runs-out": {
    title: "A calendar runs out",
    flags:
      "The last date of a calendar with {entries} entries for single dates or more is past or less than {days|day|days} ahead; or a day that was entered for each of two years is missing in the next.",
    why: "After the last entry holidays are ordinary days, and doors unlock by themselves.",
    blind: "Days that were entered for one year only.",
  },
  "holiday-missing": {
    title: "A public holiday is not in the calendar",
    flags: "A public holiday of the whole country, by an independent library, is none in the calendar of a site there.",
    why: "On that day doors unlock, and people come in, as on any working day.",
    needs: "countries of sites",
    isSilentWithout: true,
    blind: "Holidays of a region, those that were decreed lately, and days off of the house itself.",
  },
  "holiday-tie": {
    title: "Two entries of one rank on one date",
    flags: "Two entries of a calendar fall on one date with one priority and different day types: only their order decides.",
    why: "Whoever sorts the list anew changes which doors open on that date.",
    blind: "Whether the one that wins is the one that was meant.",
  },
  "holiday-open": {
    title: "Open on public holidays",
    flags: "A sensitive door stands open on public holidays, or more than {holders|holder opens|holders open} it then.",
    why: "On a holiday the house is empty, and whoever comes in is alone.",
    blind: "Holidays that are not in the calendar.",
  },
  "schedule-odd": {
    title: "A schedule that hardly anybody means",
    flags: "A schedule has an empty interval, a minute missing before midnight, intervals that overlap, or is over and still used.",
    why: "It does something else than whoever wrote it believes.",
    blind: "Hours that are well formed and wrong.",
  },
} as const satisfies SomeRules;

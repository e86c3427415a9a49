/**
 * Names of months and weekdays in English, German, French, Spanish and Dutch, from the locale data of the platform (Unicode CLDR), in full and short, without
 * accents and dots.
 */
const languages = ["en", "de", "fr", "es", "nl"] as const;

export const plainWord = (text: string): string => text.normalize("NFKD").replace(/\p{M}/gu, "").toLowerCase().replace(/\./g, "").trim();

/** By name the number from 0 of what has it, or −1 where a name is of several. */
function named(count: number, dateOf: (at: number) => Date, part: "month" | "weekday"): ReadonlyMap<string, number> {
  const names = new Map<string, number>();
  for (const language of languages)
    for (const width of ["long", "short"] as const) {
      const format = new Intl.DateTimeFormat(language, { [part]: width, timeZone: "UTC" });
      for (let at = 0; at < count; at++) {
        const name = plainWord(format.format(dateOf(at)));
        const known = names.get(name);
        names.set(name, known === undefined || known === at ? at : -1);
      }
    }
  return names;
}

const january = Date.UTC(2026, 0, 15);
const monday = Date.UTC(2026, 0, 5);
const dayMs = 86_400_000;

const months = named(12, (at) => new Date(january + at * 30.4 * dayMs), "month");
/** Short forms that are not in the data of the platform, or are written longer there: common practice, no source. */
const otherMonths: Readonly<Record<string, number>> = {
  mar: 2,
  mrz: 2,
  mrt: 2,
  sept: 8,
  sep: 8,
  maerz: 2,
  jan: 0,
  feb: 1,
  apr: 3,
  jun: 5,
  jul: 6,
  aug: 7,
  oct: 9,
  okt: 9,
  nov: 10,
  dec: 11,
  dez: 11,
};

/** The month of a name, from 1; undefined where no month is called so, or several are. */
export function monthNamed(word: string): number | undefined {
  const plain = plainWord(word);
  const at = Object.hasOwn(otherMonths, plain) ? otherMonths[plain] : months.get(plain);
  return at === undefined || at < 0 ? undefined : at + 1;
}

const days = named(7, (at) => new Date(monday + at * dayMs), "weekday");
/** Two letters and more of English, which has three in the data: common practice, no source. */
const otherDays: Readonly<Record<string, number>> = { tues: 1, weds: 2, thur: 3, thurs: 3, tu: 1, th: 3, fr: 4, su: 6, mo: 0, we: 2, sonnabend: 5 };

/** The weekday of a name, from 0 for Monday; undefined where none is called so, or several are in different languages. */
export function weekdayNamed(word: string): number | undefined {
  const plain = plainWord(word);
  const at = Object.hasOwn(otherDays, plain) ? otherDays[plain] : days.get(plain);
  return at === undefined || at < 0 ? undefined : at;
}

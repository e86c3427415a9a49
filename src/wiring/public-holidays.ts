import type { PublicHolidays } from "@/core/findings/judged";
import { parseCivilDay } from "@/core/time/civil-day";

/** Public holidays as an independent library knows them (date-holidays 3.37.0), of the countries that are asked for; it is large, and loaded only for these. */
export async function publicHolidaysOf(countries: readonly string[]): Promise<PublicHolidays> {
  if (countries.length === 0) return () => [];
  const { default: Holidays } = await import("date-holidays");
  const known = new Map(countries.map((country) => [country, new Holidays(country)]));
  return (country, year) => {
    const ofCountry = known.get(country);
    // A country that the library does not know has no holidays there.
    if (!ofCountry || !Object.hasOwn(ofCountry.getCountries(), country)) return [];
    return ofCountry.getHolidays(year).flatMap(({ date, name, type }) => {
      const day = type === "public" ? parseCivilDay(date.slice(0, 10)) : undefined;
      return day === undefined ? [] : [{ date: day, name }];
    });
  };
}

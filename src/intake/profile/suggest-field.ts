import { formsThatFit, readInForm } from "./moments";
import type { LookedAtColumn } from "./looked-at";
import { readHours, readWeekdays } from "./hours";
import { allDayWords, isOneOf, neverWords, noEndWords } from "./plain-values";
import { suggestedMeaning } from "./read-field";
import type { FieldSource, HoursForm, MomentForm } from "./source-profile";
import type { TargetField } from "./target-fields";

/** Dates from this year on are written for "never ends" (common practice, no source). */
const farYear = 2099;
/** Two digits below this are years of 2000. */
const usualPivot = 70;

/** The forms of a column of moments: one that fits all its values; none where day and month could be either, or nothing fits. */
export function suggestMoments(texts: readonly string[], side: "from" | "until"): MomentForm {
  const never = texts.filter((text) => isOneOf(noEndWords, text));
  const moments = texts.filter((text) => !never.includes(text));
  const four = formsThatFit(moments);
  const fits = four.length > 0 ? four : formsThatFit(moments, usualPivot);
  const [first] = fits;
  const twoWays =
    fits.includes("dmy") &&
    fits.includes("mdy") &&
    moments.some((text) => JSON.stringify(readInForm(text, "dmy", usualPivot)) !== JSON.stringify(readInForm(text, "mdy", usualPivot)));
  const forms = moments.length === 0 ? (["iso"] as const) : twoWays || !first ? [] : [first];
  const isFar = moments.some((text) => {
    const read = forms[0] === undefined ? undefined : readInForm(text, forms[0], usualPivot);
    return read !== undefined && yearOfText(read) >= farYear;
  });
  return {
    forms,
    ...(four.length === 0 && fits.length > 0 && { pivot: usualPivot }),
    ...(never.length > 0 && { never }),
    ...(isFar && side === "until" && { neverFrom: farYear }),
  };
}

function yearOfText(read: NonNullable<ReturnType<typeof readInForm>>): number {
  return read.kind === "instant" ? Number(read.text.slice(0, 4)) : new Date(Number(read.date) * 86_400_000).getUTCFullYear();
}

export function suggestHours(texts: readonly string[]): HoursForm {
  const different = [...new Set(texts)];
  const allDay = different.filter((text) => isOneOf(allDayWords, text));
  const never = different.filter((text) => isOneOf(neverWords, text));
  // Every end a minute before the hour, the half or the quarter: ends are included (00:00–23:59 is the whole day; common practice, no source).
  const ends = texts.flatMap((text) => text.match(/(\d{1,2}:?\d{2})(?=\s*([ap]m)?\s*$)/gi) ?? []);
  const isIncluded = ends.length > 0 && ends.every((end) => /[0-5]9$/.test(end));
  return { ...(allDay.length > 0 && { allDay }), ...(never.length > 0 && { never }), ...(isIncluded && { endsIncluded: true as const }) };
}

/** How a field is plainly written in a column, by the column's values. */
export function suggestSource(table: string, target: TargetField, columns: readonly LookedAtColumn[], extra: FieldSource = {}): FieldSource {
  const [column] = columns;
  const source: FieldSource = { columns: columns.map(({ name }) => name), ...extra };
  const texts = column?.values.map(({ text }) => text) ?? [];
  const { reads } = target;
  switch (reads.kind) {
    case "closed":
    case "flag": {
      const expected: readonly string[] = reads.kind === "closed" ? reads.values : ["true", "false"];
      const values = Object.fromEntries(
        texts.flatMap((text) => {
          const meaning = expected.includes(text) ? undefined : suggestedMeaning(table, target, text);
          return meaning === undefined ? [] : [[text, meaning]];
        }),
      );
      return Object.keys(values).length > 0 ? { ...source, values } : source;
    }
    case "date":
    case "moment":
    case "instant": {
      const joined = columns.length > 1 ? joinedTexts(columns) : texts;
      return {
        ...source,
        moment: {
          ...suggestMoments(joined, reads.side),
          ...(reads.side === "until" && reads.kind === "moment" && { never: [...(suggestMoments(joined, "until").never ?? []), ""] }),
        },
      };
    }
    case "hours":
    case "clock":
      return { ...source, hours: suggestHours(texts) };
    case "weekday": {
      const areNumbers = texts.length > 0 && texts.every((text) => /^\d$/.test(text));
      return areNumbers ? { ...source, weekdays: texts.includes("0") ? { monday: 1, sunday: 0 } : { monday: 1, sunday: 7 } } : source;
    }
    case "card-number": {
      if (texts.length > 0 && texts.every((text) => /^\d{1,4}\s*[-:/]\s*\d{1,8}$/.test(text))) return { ...source, number: "code-and-number" };
      if (texts.some((text) => /[a-f]/i.test(text)) && texts.every((text) => /^(0x)?[0-9a-f\s:]{4,}h?$/i.test(text)))
        return { ...source, number: "hexadecimal" };
      return source;
    }
    case "references":
    case "texts":
    case "reference": {
      const split = reads.kind === "reference" ? undefined : separatorIn(texts);
      return { ...source, ...firstOfDirectoryName(texts), ...(split !== undefined && { split }) };
    }
    case "pin":
      // Four zeros for no PIN: common practice, no source.
      return texts.length > 0 ? { ...source, noPin: texts } : source;
    default:
      return source;
  }
}

/** A date's column with that of the time beside it: every date with some time is enough to see their form. */
function joinedTexts(columns: readonly LookedAtColumn[]): string[] {
  const [dates, times] = columns;
  const time = times?.values[0]?.text ?? "";
  const all = dates?.values.map(({ text }) => `${text} ${time}`.trim()) ?? [];
  return [...all, ...(times?.values.slice(1).map(({ text }) => `${dates?.values[0]?.text ?? ""} ${text}`.trim()) ?? [])];
}

const directoryName = /^([A-Za-z]+)=[^,]+,.*=/;
const areDirectoryNames = (texts: readonly string[]): boolean =>
  texts.length > 0 && texts.every((text) => text.split("\n").every((part) => directoryName.test(part.trim())));

/** Of names of a directory (RFC 4514) such as `cn=Iris,ou=Press`, the first part alone. */
export function firstOfDirectoryName(texts: readonly string[]): Pick<FieldSource, "part"> {
  if (!areDirectoryNames(texts)) return {};
  const prefixes = new Set(texts.flatMap((text) => text.split("\n").map((part) => directoryName.exec(part.trim())?.[1] ?? "")));
  const [prefix] = prefixes;
  return prefixes.size === 1 && prefix !== undefined ? { part: { pattern: `${prefix}={part},{*}` } } : {};
}

/** What stands between several values in the cells of a column. */
export function separatorIn(texts: readonly string[]): string | undefined {
  // Names of a directory have commas within them.
  for (const separator of areDirectoryNames(texts) ? ["\n"] : [";", "|", "\n", ","]) {
    const count = texts.filter((text) => text.includes(separator)).length;
    if (count > 0 && texts.every((text) => !text.includes(separator) || text.split(separator).every((part) => part.trim() !== "")))
      return separator === "\n" ? "" : separator;
  }
  return undefined;
}

/** Whether a column holds hours, weekdays, or neither, by its values. */
export const holdsHours = (texts: readonly string[]): boolean =>
  texts.length > 0 &&
  texts.every((text) => isOneOf(allDayWords, text) || isOneOf(neverWords, text) || !("expected" in readHours(text, { backwards: "overnight" })));
export const holdsWeekdays = (texts: readonly string[]): boolean => texts.length > 0 && texts.every((text) => readWeekdays(text, undefined) !== undefined);

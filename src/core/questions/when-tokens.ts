/** A piece of a typed time: a word, a number with what stands to it, or a sign. */
export type Token =
  | { readonly kind: "word"; readonly text: string }
  | { readonly kind: "number"; readonly text: string; readonly value: number }
  /** `22:30`, `22h30`, `10 pm`; minutes of the day, 0..1440. */
  | { readonly kind: "clock"; readonly text: string; readonly minuteOfDay: number }
  /** Three numbers that may be a date: `2026-11-28`, `28.11.2026`, `3/4/2026`. */
  | {
      readonly kind: "numeric-date";
      readonly text: string;
      readonly parts: readonly [number, number, number];
      readonly form: "year-first" | "year-last" | "short-year";
      readonly sign: string;
    }
  /** Two numbers with a dot that may be a date without a year, or a time: `6.12`, `24.12.`. */
  | { readonly kind: "dotted"; readonly text: string; readonly parts: readonly [number, number]; readonly isDate: boolean }
  | { readonly kind: "dash"; readonly text: string }
  | { readonly kind: "comma"; readonly text: string }
  | { readonly kind: "other"; readonly text: string };

const number = (text: string | undefined): number => Number(text ?? "");

interface Rule {
  readonly pattern: RegExp;
  readonly make: (parts: RegExpExecArray) => Token | undefined;
}

function clockToken(text: string, hourText: string | undefined, minuteText: string | undefined, half: string | undefined): Token | undefined {
  const [hour, minute] = [number(hourText), number(minuteText)];
  if (minute > 59) return undefined;
  if (half === undefined) return hour < 24 || (hour === 24 && minute === 0) ? { kind: "clock", text, minuteOfDay: hour * 60 + minute } : undefined;
  if (hour < 1 || hour > 12) return undefined;
  return { kind: "clock", text, minuteOfDay: ((hour % 12) + (half.startsWith("p") ? 12 : 0)) * 60 + minute };
}

/** In order: the longest writings first. All are anchored where the last token ended. */
const rules: readonly Rule[] = [
  {
    pattern: /(\d{4})([-./])(\d{1,2})\2(\d{1,2})(?!\d)/y,
    make: ([text, year, sign = "", month, day]) => ({
      kind: "numeric-date",
      text,
      parts: [number(year), number(month), number(day)],
      form: "year-first",
      sign,
    }),
  },
  {
    pattern: /(\d{1,2})([-./])(\d{1,2})\2(\d{4})(?!\d)/y,
    make: ([text, first, sign = "", second, year]) => ({
      kind: "numeric-date",
      text,
      parts: [number(first), number(second), number(year)],
      form: "year-last",
      sign,
    }),
  },
  {
    pattern: /(\d{1,2})([-./])(\d{1,2})\2(\d{2})(?!\d)/y,
    make: ([text, first, sign = "", second, year]) => ({
      kind: "numeric-date",
      text,
      parts: [number(first), number(second), number(year)],
      form: "short-year",
      sign,
    }),
  },
  { pattern: /(\d{1,2})(?:[:.](\d{2}))?\s*([ap])\.?\s?m\b\.?/y, make: ([text, hour, minute, half]) => clockToken(text, hour, minute, half) },
  { pattern: /(\d{1,2})(?::|h)(\d{2})(?::00)?(?:h|hrs)?(?![\d:])/y, make: ([text, hour, minute]) => clockToken(text, hour, minute, undefined) },
  { pattern: /(\d{1,2})h\b/y, make: ([text, hour]) => clockToken(text, hour, undefined, undefined) },
  {
    pattern: /(\d{1,2})\.(\d{1,2})\.(?!\d)/y,
    make: ([text, first, second]) => ({ kind: "dotted", text, parts: [number(first), number(second)], isDate: true }),
  },
  {
    pattern: /(\d{1,2})\.(\d{2})(?![\d.])/y,
    make: ([text, first, second]) => ({ kind: "dotted", text, parts: [number(first), number(second)], isDate: false }),
  },
  { pattern: /(\d{1,4})(?:st|nd|rd|th)?\b/y, make: ([text, value]) => ({ kind: "number", text, value: number(value) }) },
  { pattern: /[\p{L}\p{M}][\p{L}\p{M}\p{N}'’.]*(?<![.'’])/uy, make: ([text]) => ({ kind: "word", text: text.replace(/’/g, "'") }) },
  { pattern: /[-‐‑‒–—−]/y, make: ([text]) => ({ kind: "dash", text }) },
  { pattern: /,/y, make: ([text]) => ({ kind: "comma", text }) },
  { pattern: /[\d_]+/y, make: ([text]) => ({ kind: "other", text }) },
];

const longestText = 200;

/** The tokens of a typed time, in lower case; undefined for a text that is too long to be one. */
export function tokensOf(typed: string): Token[] | undefined {
  if (typed.length > longestText) return undefined;
  // A "t" between a date and a clock, hyphens in "out-of-hours" and dots behind short forms are spelling.
  const text = typed
    .normalize("NFKC")
    .toLowerCase()
    .replace(/(\d{4}-\d\d-\d\d)t(?=\d)/g, "$1 ")
    .replace(/out[-‐‑]of[-‐‑]hours/g, "out of hours")
    .replace(/(?<=\p{L})\.(?=\s|$)/gu, " ")
    .trim();
  const tokens: Token[] = [];
  for (let at = 0; at < text.length;) {
    if (/\s/.test(text[at] ?? "")) {
      at++;
      continue;
    }
    let token: Token | undefined;
    for (const { pattern, make } of rules) {
      pattern.lastIndex = at;
      const found = pattern.exec(text);
      token = found ? make(found) : undefined;
      if (token) break;
    }
    token ??= { kind: "other", text: String.fromCodePoint(text.codePointAt(at) ?? 0) };
    tokens.push(token);
    at += token.text.length;
  }
  return tokens;
}

const small = [
  "no",
  "one",
  "two",
  "three",
  "four",
  "five",
  "six",
  "seven",
  "eight",
  "nine",
  "ten",
  "eleven",
  "twelve",
  "thirteen",
  "fourteen",
  "fifteen",
  "sixteen",
  "seventeen",
  "eighteen",
  "nineteen",
  "twenty",
];

/** A count as it stands in a sentence: small ones in words. */
export const countWords = (n: number): string => small[n] ?? n.toLocaleString("en-GB");

export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

export const plural = (n: number, one: string, many: string): string => `${countWords(n)} ${n === 1 ? one : many}`;

/** "once", "twice", "three times". */
export const timesWords = (n: number): string => (n === 1 ? "once" : n === 2 ? "twice" : `${countWords(n)} times`);

/** Minutes as hours a week, whole where they are. */
export const hoursWords = (minutes: number): string => {
  const hours = minutes / 60;
  return `${Number.isInteger(hours) ? hours : hours.toFixed(1)} h`;
};

export const shareWords = (part: number, of: number): string => (of === 0 ? "–" : `${Math.round((100 * part) / of)} %`);

/** "a, b and c". */
export function listWords(items: readonly string[]): string {
  if (items.length < 2) return items.join("");
  return `${items.slice(0, -1).join(", ")} and ${items[items.length - 1] ?? ""}`;
}

/** The first few of a list in words, and how many more there are. */
export const someWords = (items: readonly string[], shown: number): string =>
  items.length <= shown + 1 ? listWords(items) : `${items.slice(0, shown).join(", ")} and ${items.length - shown} more`;

/** Those of so many that are named, in words, and how many more there are. */
export const firstOf = (named: readonly string[], count: number): string =>
  count > named.length ? `${named.join(", ")} and ${(count - named.length).toLocaleString("en-GB")} more` : listWords(named);

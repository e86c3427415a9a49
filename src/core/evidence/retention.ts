/** What may be let go after some time, each by itself. */
export const retentionKinds = ["events", "leavers", "values", "snapshots", "rounds"] as const;
export type RetentionKind = (typeof retentionKinds)[number];

/** The shortest time in months: rules look back at so much, and what was signed is asked for at least until the next round. */
export const fewestMonths: Readonly<Record<RetentionKind, number>> = { events: 14, leavers: 1, values: 6, snapshots: 14, rounds: 14 };

/** The longest time that can be set, in months. */
export const mostMonths = 1200;

/** The instant so many months before another, ISO texts of UTC; the last day of a month where it has no such day. */
export function monthsBefore(at: string, months: number): string {
  const then = new Date(at);
  const month = then.getUTCFullYear() * 12 + then.getUTCMonth() - months;
  const day = then.getUTCDate();
  const lastDay = new Date(0);
  lastDay.setUTCFullYear(Math.floor(month / 12), (((month % 12) + 12) % 12) + 1, 0);
  then.setUTCDate(1);
  then.setUTCFullYear(Math.floor(month / 12), ((month % 12) + 12) % 12, Math.min(day, lastDay.getUTCDate()));
  return then.toISOString();
}

/** What the entry says that lets values go, so that the chain itself tells of which entries they are; `digest` gives SHA-256 in hexadecimal. */
export const valuesGoneText = (numbers: readonly number[], digest: (text: string) => string): string =>
  `values of ${numbers.length} ${numbers.length === 1 ? "entry" : "entries"}, SHA-256 of their numbers ${digest([...numbers].sort((a, b) => a - b).join(","))}`;

/** What the entry says that lets a snapshot or a docket go; its hash stays. */
export const droppedText = (what: "snapshot" | "docket", id: number, hash: string | undefined): string => `${what} ${id}, SHA-256 ${hash ?? "none"}`;

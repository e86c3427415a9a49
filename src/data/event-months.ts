import { QueryTypes } from "sequelize";
import type { Sequelize } from "sequelize";
import { firstSecondOfMonth, monthOfSecond } from "@/core/events/use-counts";
import { select } from "./statements";

/** The first month that has a part of its own; earlier events lie together in one. */
const firstMonth = 2024 * 12;

/** Months ahead of the present one that have a part already: nothing is moved when they come. */
const monthsAhead = 14;

const nameOf = (month: number): string => `m${Math.floor(month / 12)}_${String((month % 12) + 1).padStart(2, "0")}`;
const partOf = (month: number): string => `PARTITION ${nameOf(month)} VALUES LESS THAN (${firstSecondOfMonth(month + 1)})`;

const monthsThrough = (from: number, seconds: number): number[] =>
  Array.from({ length: Math.max(0, monthOfSecond(seconds) + monthsAhead - from + 1) }, (_, i) => from + i);

/** How the table of events is divided at a time (seconds): a part a month, with what is earlier and later than these apart. */
export const eventPartitions = (now: number): string =>
  [
    `PARTITION earlier VALUES LESS THAN (${firstSecondOfMonth(firstMonth)})`,
    ...monthsThrough(firstMonth, now).map(partOf),
    "PARTITION later VALUES LESS THAN MAXVALUE",
  ].join(", ");

/** Gives the coming months parts of their own, where they have none yet. Runs as the owner, at every start. */
export async function addEventMonths(owner: Sequelize, now: number): Promise<void> {
  const parts = await select<{ name: string }>(
    owner,
    "SELECT partition_name AS name FROM information_schema.partitions WHERE table_schema = DATABASE() AND table_name = 'events' AND partition_name LIKE 'm%'",
  );
  const known = new Set(parts.map(({ name }) => name));
  if (known.size === 0) return;
  const missing = monthsThrough(firstMonth, now).filter((month) => !known.has(nameOf(month)));
  if (missing.length === 0) return;
  const divided = [...missing.map(partOf), "PARTITION later VALUES LESS THAN MAXVALUE"].join(", ");
  await owner.query(`ALTER TABLE events REORGANIZE PARTITION later INTO (${divided})`, { type: QueryTypes.RAW });
}

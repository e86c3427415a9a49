import type { Decision, Narrowing } from "@/core/certification/decide-line";
import type { LineContent } from "@/core/certification/line-content";
import { groupBy } from "@/core/kernel/compare";
import type { WishState } from "@/core/certification/wish-state";
import { stateOfWish } from "@/core/certification/wish-state";
import type { ClosingCheck, Order } from "../ports/orders";
import type { DocketLine } from "../ports/rounds";
import type { Services } from "../services";

/** How far a wish is, which is a line that is to go, whole or in part. */
export interface WishProgress {
  readonly line: number;
  readonly orders: readonly number[];
  /** When the last of its orders was sent; undefined while one is not. */
  readonly sentAt: string | undefined;
  readonly due: string | undefined;
  /** What the latest register says of it. */
  readonly check: ClosingCheck | undefined;
  readonly state: WishState;
}

/** A wish with whose it is and what it takes. */
export interface Wish extends WishProgress {
  readonly docket: number;
  readonly holderName: string;
  readonly subject: LineContent["subject"];
  readonly decision: Decision | undefined;
  readonly narrowing: Narrowing | undefined;
}

/** How far the wishes are that orders serve, in the order of these. */
export async function wishProgress(services: Services, orders: readonly Order[]): Promise<WishProgress[]> {
  const byLine = groupBy(
    orders.flatMap((order) => order.lines.map((line) => ({ line, order }))),
    ({ line }) => line,
  );
  const latest = new Map((await services.orders.checks([...byLine.keys()])).map((check) => [check.line, check]));
  return [...byLine].map(([line, own]): WishProgress => {
    const sent = own.map(({ order }) => order.sentAt);
    const sentAt = sent.every((at) => at !== undefined) ? sent.reduce((a, b) => (a > b ? a : b), "") : undefined;
    const check = latest.get(line);
    return {
      line,
      orders: own.map(({ order }) => order.id),
      sentAt,
      due: own.flatMap(({ order }) => order.due ?? []).sort()[0],
      check,
      state: stateOfWish({ sentAt, found: check?.found }),
    };
  });
}

/** Wishes with their lines. */
export const wishesOf = (progress: readonly WishProgress[], lines: ReadonlyMap<number, DocketLine>): Wish[] =>
  progress.flatMap((one): Wish[] => {
    const line = lines.get(one.line);
    if (!line) return [];
    const { docket, holderName, decision, narrowing } = line;
    return [{ ...one, docket, holderName, subject: line.line.subject, decision, narrowing }];
  });

/** How many wishes of a round are how far, and for how many days the oldest that is neither done nor told otherwise has been open since it was sent. */
export interface WishCounts {
  readonly of: number;
  readonly by: Readonly<Partial<Record<WishState, number>>>;
  readonly openDays: number | undefined;
}

const isOpen: ReadonlySet<WishState> = new Set<WishState>(["sent", "not-done", "awaited", "record-gone", "asleep"]);
const aDay = 86_400_000;

export function countWishes(wishes: readonly WishProgress[], now: string): WishCounts {
  const by: Partial<Record<WishState, number>> = {};
  let oldest: string | undefined;
  for (const wish of wishes) {
    const { state } = wish;
    by[state] = (by[state] ?? 0) + 1;
    if (isOpen.has(state) && wish.sentAt !== undefined && (oldest === undefined || wish.sentAt < oldest)) oldest = wish.sentAt;
  }
  return { of: wishes.length, by, openDays: oldest === undefined ? undefined : Math.max(0, Math.floor((Date.parse(now) - Date.parse(oldest)) / aDay)) };
}

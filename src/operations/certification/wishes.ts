import type { Decision, Narrowing } from "@/core/certification/decide-line";
import { groupBy } from "@/core/kernel/compare";
import type { WishState } from "@/core/certification/wish-state";
import { stateOfWish } from "@/core/certification/wish-state";
import type { ClosingCheck, Order } from "../ports/orders";
import type { DocketLine } from "../ports/rounds";
import type { Services } from "../services";

/** A line that is to go, whole or in part, with its orders and what the latest register says of it. */
export interface Wish {
  readonly line: number;
  readonly docket: number;
  readonly holderName: string;
  readonly cardholder: string | undefined;
  readonly subject: string;
  readonly decision: Decision | undefined;
  readonly narrowing: Narrowing | undefined;
  readonly orders: readonly number[];
  /** When the last of its orders was sent; undefined while one is not. */
  readonly sentAt: string | undefined;
  readonly due: string | undefined;
  readonly check: ClosingCheck | undefined;
  readonly state: WishState;
}

/** The wishes of a round, in the order of their orders. What was planned anew or taken back counts no more. */
export async function wishesOf(services: Services, orders: readonly Order[]): Promise<Wish[]> {
  const standing = orders.filter(({ cancelledAt }) => cancelledAt === undefined);
  const served = standing.flatMap((order) => order.lines.map((line) => ({ line, order })));
  const byLine = groupBy(served, ({ line }) => line);
  const [lines, checks] = await Promise.all([services.rounds.lines({ ids: [...byLine.keys()] }), services.orders.checks([...byLine.keys()])]);
  const latest = new Map(checks.map((check) => [check.line, check]));
  const lineOf = new Map<number, DocketLine>(lines.map((line) => [line.id, line]));
  return [...byLine].flatMap(([id, own]): Wish[] => {
    const line = lineOf.get(id);
    if (!line) return [];
    const sent = own.map(({ order }) => order.sentAt);
    const sentAt = sent.every((at) => at !== undefined) ? sent.reduce((a, b) => (a > b ? a : b), "") : undefined;
    const check = latest.get(id);
    return [
      {
        line: id,
        docket: line.docket,
        holderName: line.holderName,
        cardholder: line.line.cardholder,
        subject: line.line.subject.name,
        decision: line.decision,
        narrowing: line.narrowing,
        orders: own.map(({ order }) => order.id),
        sentAt,
        due: own.flatMap(({ order }) => order.due ?? []).sort()[0],
        check,
        state: stateOfWish({ sentAt, found: check?.found }),
      },
    ];
  });
}

/** How many wishes of a round are how far, and for how many days the oldest that is neither done nor told otherwise has been open since it was sent. */
export interface WishCounts {
  readonly of: number;
  readonly by: Readonly<Partial<Record<WishState, number>>>;
  readonly openDays: number | undefined;
}

const isOpen: ReadonlySet<WishState> = new Set<WishState>(["sent", "not-done", "awaited", "record-gone", "asleep"]);
const aDay = 86_400_000;

export function countWishes(wishes: readonly Wish[], now: string): WishCounts {
  const by: Partial<Record<WishState, number>> = {};
  let oldest: string | undefined;
  for (const wish of wishes) {
    const { state } = wish;
    by[state] = (by[state] ?? 0) + 1;
    if (isOpen.has(state) && wish.sentAt !== undefined && (oldest === undefined || wish.sentAt < oldest)) oldest = wish.sentAt;
  }
  return { of: wishes.length, by, openDays: oldest === undefined ? undefined : Math.max(0, Math.floor((Date.parse(now) - Date.parse(oldest)) / aDay)) };
}

import type { CheckOutcome } from "@/core/certification/wish-state";
import type { LineContent } from "@/core/certification/line-content";
import type { OrderedChange } from "@/core/certification/withdrawal/described-change";
import type { Account } from "./accounts";
import type { Actor } from "./record";

/** A change that the controlling system has to make, as it comes of a decision. */
export interface NewOrder {
  readonly round: number;
  /** The line that was withdrawn; of several that were planned together, the first. */
  readonly line: number;
  /** All the lines that it serves. */
  readonly lines: readonly number[];
  /** Who has to carry it out; undefined where Nomade itself owns what is to be changed. */
  readonly source: string | undefined;
  readonly described: OrderedChange;
  /** Doors, by id, that the holder loses beside those withdrawn. */
  readonly alsoLost: readonly string[];
  /** Names of what the change speaks of, by kind and id; undefined of orders made before they were kept. */
  readonly names: Readonly<Record<string, string>> | undefined;
  /** Local date by which it is to be done. */
  readonly due: string | undefined;
}

export interface Order extends NewOrder {
  readonly id: number;
  readonly madeAt: string;
  readonly ticket: string | undefined;
  readonly sentAt: string | undefined;
  /** What the source says that it did. */
  readonly answer: { readonly at: string; readonly said: "done" | "refused"; readonly note: string } | undefined;
  /** When it was taken back, since another one stands in its place. */
  readonly cancelledAt: string | undefined;
}

/** An order with whom it is about. */
export interface NamedOrder extends Order {
  readonly holderName: string;
  readonly staffNumber: string;
  readonly subject: LineContent["subject"];
  readonly reason: string;
  /** Who decided it; undefined for the reviewer. */
  readonly decidedBy: string | undefined;
  /** Names of what the change speaks of. */
  readonly names: Readonly<Record<string, string>>;
}

export interface ClosingCheck {
  readonly line: number;
  readonly snapshot: number;
  readonly at: string;
  readonly found: CheckOutcome;
  /** Names of what it speaks of, by kind and id. */
  readonly names: Readonly<Record<string, string>>;
}

export interface OrderStore {
  readonly ofRound: (round: number) => Promise<Order[]>;
  /** Orders that were sent and not taken back, of all rounds. */
  readonly sent: () => Promise<Order[]>;
  /** Puts others in the place of orders of a round that were not sent yet, in one transaction; false, nothing written, if one was sent meanwhile. */
  readonly planAnew: (
    round: number,
    instead: readonly { readonly cancel: readonly number[]; readonly orders: readonly NewOrder[] }[],
    by: Account,
    at: string,
  ) => Promise<boolean>;
  /** Marks orders of a round as sent, or as carried out by Nomade itself; false, nothing written, if one was meanwhile. */
  readonly send: (round: number, ids: readonly number[], by: Account, at: string) => Promise<boolean>;
  /** Writes what a source says of its orders, all of it or nothing. */
  readonly answer: (
    said: {
      readonly answers: readonly { readonly order: number; readonly said: "done" | "refused"; readonly note: string }[];
      readonly tickets: readonly { readonly order: number; readonly ticket: string }[];
    },
    by: Account,
    at: string,
  ) => Promise<void>;
  /** The checks of lines, by all snapshots, the latest last. */
  readonly checks: (lines: readonly number[]) => Promise<ClosingCheck[]>;
  readonly putChecks: (checks: readonly ClosingCheck[], by: Actor) => Promise<void>;
}

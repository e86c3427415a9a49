import type { UseRecord } from "@/core/findings/use";
import type { Report } from "./progress";
import type { Actor } from "./record";

export interface EventRow {
  readonly at: number;
  readonly door: string;
  readonly credential: string;
  readonly result: "granted" | "refused";
  readonly reason: string | undefined;
}

export interface EventStore {
  /** Stores the events of one file in one transaction; `unchanged` where just this file was taken in before. */
  readonly store: (
    file: { readonly name: string; readonly hash: string },
    rows: AsyncIterable<EventRow>,
    who: Actor,
    at: string,
    report: Report,
  ) => Promise<{ readonly outcome: "stored" | "unchanged"; readonly rows: number }>;
  /** Numbers that doors saw and the register does not have, with how often and when last (a minute), those seen most often first. Cost: a walk of the index of events. */
  readonly unknownCredentials: (limit: number) => Promise<{ readonly credential: string; readonly times: number; readonly lastAt: number }[]>;
  /** What the events say, limited to one door or to some credentials where only these are asked for. */
  readonly use: (of: { readonly door?: string; readonly credentials?: readonly string[] }, siteOfDoor: (door: string) => string | undefined) => Promise<UseRecord>;
}

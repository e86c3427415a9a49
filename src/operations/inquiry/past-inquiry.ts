import { instantOf } from "@/core/facility/time-rules";
import type { PastPart } from "@/core/questions/past-parts";
import { mostParts, partsOfTime } from "@/core/questions/past-parts";
import { minuteDown } from "@/core/time/instant";
import type { Account } from "../ports/accounts";
import type { OpenRegister } from "../register/open-register";
import { onHorizon } from "../register/on-register";
import { demand } from "../rights";
import type { Services } from "../services";
import { registerOf } from "./inquiry";
import type { Inquiry, NamedDoor, NamedHolder } from "./inquiry";
import { contextOf, minuteNow } from "./inquiry-context";
import { isAbout, namedDoor, namedHolder } from "./inquiry-names";
import { allOpened } from "./opened-pairs";

/** Of which snapshots an asked time is: of the present one, of others, or of too many. */
export type AskedTimes =
  | { readonly outcome: "present" }
  | { readonly outcome: "past"; readonly parts: readonly PastPart[] }
  | { readonly outcome: "too-many"; readonly count: number };

/**
 * Which snapshots tell of the time that is asked about. A time that is left open, "now", and one from the present snapshot's export on are asked of the
 * present one, and so is whatever somebody asks of a snapshot by its number.
 */
export async function timesOfInquiry(services: Services, account: Account, { compiled, snapshot }: OpenRegister, inquiry: Inquiry): Promise<AskedTimes> {
  demand(account, "ask");
  const { when } = inquiry;
  if (registerOf(inquiry) !== undefined || when.kind === "any" || when.kind === "now") return { outcome: "present" };
  const [from, to] = (await contextOf(services, compiled, inquiry)).bounds;
  if (from >= minuteDown(instantOf(snapshot.asOf))) return { outcome: "present" };
  const inTime = (await services.snapshots.list()).map(({ id, asOf }) => ({ id, asOf: minuteDown(instantOf(asOf)) }));
  const parts = partsOfTime(inTime, from, to);
  if (parts.every((part) => part.snapshot === snapshot.id)) return { outcome: "present" };
  return parts.length > mostParts ? { outcome: "too-many", count: parts.length } : { outcome: "past", parts };
}

/** A holder, or a door, that opened or was opened in some part of a time. */
export interface PastRow {
  readonly subject: NamedHolder | NamedDoor;
  /** How many doors, or how many people: in the part in which it was most. */
  readonly count: number;
  readonly snapshots: readonly number[];
}

export interface PastAnswer {
  readonly by: "people" | "doors";
  /** Whether all of the time is over. */
  readonly isOver: boolean;
  /** Each part of the time, in order, with how many rows it has; undefined where its snapshot does not hold who or where. */
  readonly parts: readonly (PastPart & { readonly total: number | undefined })[];
  /** All that are in any of the parts, by name, and how many there are. */
  readonly rows: readonly PastRow[];
  readonly total: number;
}

const rowsShown = 500;

interface PartRows {
  readonly by: "people" | "doors";
  readonly rows: readonly { readonly key: string; readonly subject: NamedHolder | NamedDoor; readonly count: number }[];
}

/** Who, or what, opens in a part of a time, by the snapshot that tells of it. */
async function rowsOfPart(services: Services, account: Account, { compiled }: OpenRegister, inquiry: Inquiry, part: PastPart): Promise<PartRows | undefined> {
  demand(account, "ask");
  if (!isAbout(compiled, inquiry)) return undefined;
  const { by, pairs } = allOpened(await contextOf(services, compiled, inquiry, [part.from, part.to]));
  return {
    by,
    rows: pairs.map(({ holders, doors }) => {
      if (by === "doors") {
        const door = namedDoor(compiled, doors[0] ?? 0);
        return { key: `door ${door.id}`, subject: door, count: holders.length };
      }
      const holder = namedHolder(compiled, holders[0] ?? 0);
      return { key: `${holder.kind} ${holder.id}`, subject: holder, count: doors.length };
    }),
  };
}

/** Who could open at any minute of a past time: the union over the snapshots that stood in it, each part named; of the rows no more than `limit`. */
export async function answerPast(services: Services, account: Account, inquiry: Inquiry, parts: readonly PastPart[], limit = rowsShown): Promise<PastAnswer> {
  demand(account, "ask");
  const ask = onHorizon(rowsOfPart);
  const found = new Map<string, { subject: PastRow["subject"]; count: number; snapshots: number[] }>();
  const told: { readonly part: PastPart; readonly total: number | undefined }[] = [];
  let by: PastAnswer["by"] = "people";
  for (const part of parts) {
    const answered = await ask(services, account, part.snapshot, inquiry, part);
    told.push({ part, total: answered?.rows.length });
    if (!answered) continue;
    ({ by } = answered);
    for (const { key, subject, count } of answered.rows) {
      const known = found.get(key);
      // The name is that of the last snapshot that has it.
      found.set(key, {
        subject,
        count: Math.max(count, known?.count ?? 0),
        snapshots: [...new Set([...(known?.snapshots ?? []), part.snapshot])],
      });
    }
  }
  const rows = [...found.values()].sort((a, b) => (a.subject.name < b.subject.name ? -1 : a.subject.name > b.subject.name ? 1 : 0));
  const last = parts[parts.length - 1];
  return {
    by,
    isOver: last !== undefined && last.to <= minuteNow(services),
    parts: told.map(({ part, total }) => ({ ...part, total })),
    rows: rows.slice(0, limit),
    total: rows.length,
  };
}

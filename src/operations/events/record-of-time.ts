import { agreementOf } from "@/core/events/agreement";
import type { Agreement } from "@/core/events/agreement";
import { instantOf } from "@/core/facility/time-rules";
import { groupBy } from "@/core/kernel/compare";
import { minuteDown } from "@/core/time/instant";
import type { StoredEvent } from "../ports/events";
import type { SnapshotSummary } from "../ports/snapshots";
import type { Services } from "../services";

/** What the record of its time says of an event. */
export interface HeldEvent {
  readonly agreement: Agreement;
  /** The snapshot that it was held against, and whether that was exported later than the event. */
  readonly snapshot: number;
  readonly isLater: boolean;
}

/** Which snapshot tells of a second: the last that was exported before it, or, of what was before all, the first. */
export function recordOfTime(
  snapshots: readonly Pick<SnapshotSummary, "id" | "asOf">[],
): (second: number) => { readonly id: number; readonly isLater: boolean } | undefined {
  const inTime = snapshots.map(({ id, asOf }) => ({ id, from: minuteDown(instantOf(asOf)) * 60 })).sort((a, b) => a.from - b.from || a.id - b.id);
  return (second) => {
    const at = inTime.findLast(({ from }) => from <= second);
    const [first] = inTime;
    return at ? { id: at.id, isLater: false } : first && { id: first.id, isLater: true };
  };
}

/** Holds events against the record of their time; each register of the past is opened once. */
export async function heldAgainst(services: Services, events: readonly StoredEvent[]): Promise<readonly HeldEvent[]> {
  const snapshotAt = recordOfTime(await services.snapshots.list());
  const held: HeldEvent[] = [];
  const bySnapshot = groupBy(events.keys(), (i) => snapshotAt(events[i]?.second ?? 0)?.id ?? 0);
  for (const [id, indexes] of bySnapshot) {
    const snapshot = await services.snapshots.byId(id);
    const compiled = snapshot && (await services.compiled(snapshot));
    for (const i of indexes) {
      const event = events[i];
      if (!event) continue;
      held[i] = {
        agreement: compiled ? agreementOf(compiled, event) : { agrees: "cannot-tell", why: "unknown-door" },
        snapshot: id,
        isLater: snapshotAt(event.second)?.isLater ?? false,
      };
    }
  }
  return held;
}

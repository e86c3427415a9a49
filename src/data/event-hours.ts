import type { Sequelize } from "sequelize";
import { firstSecondOfMonth } from "@/core/events/use-counts";
import type { EpochMinute } from "@/core/time/instant";
import type { Zone } from "@/core/time/zone";
import type { DoorClocks, EventFilter, EventGroup } from "@/operations/ports/events";
import { conditionsOf } from "./event-rows";
import { select } from "./statements";

/** Events put together, as the driver gives them. */
export interface CountedRow {
  readonly events: number;
  readonly granted_events: number;
  readonly last: number;
}

export const counted = "COUNT(*) AS events, SUM(granted) AS granted_events, MAX(second) AS last";
export const asCounted = ({ events, granted_events: granted, last }: CountedRow): Omit<EventGroup, "key"> => ({
  events: Number(events),
  granted: Number(granted),
  last: Number(last),
});

/** The months in which there is any event, as spans of seconds; months that follow one another are one. A wrong clock may have left centuries between. */
async function spansWithEvents(sequelize: Sequelize): Promise<{ readonly from: number; readonly to: number }[]> {
  const months = (await select<{ month: number }>(sequelize, "SELECT DISTINCT month FROM card_events ORDER BY month")).map(({ month }) => Number(month));
  const spans: { from: number; to: number }[] = [];
  for (const month of months) {
    const [from, to] = [firstSecondOfMonth(month), firstSecondOfMonth(month + 1)];
    const last = spans.at(-1);
    if (last?.to === from) last.to = to;
    else spans.push({ from, to });
  }
  return spans;
}

/** Events by the hour of the day on the clock of each door. Cost: a walk of all that the filter asks for, once for each zone. */
export async function eventsByHour(sequelize: Sequelize, filter: EventFilter, { zones, others }: DoorClocks): Promise<EventGroup[]> {
  const asked = conditionsOf(filter);
  if (!asked) return [];
  const elsewhere = zones.filter(({ zone }) => zone.name !== others.name);
  const apart = elsewhere.flatMap(({ doors }) => doors);
  const clocks: { readonly zone: Zone; readonly where: string; readonly clockDoors: readonly string[] }[] = [
    { zone: others, where: apart.length === 0 ? "" : " AND door NOT IN (:clockDoors)", clockDoors: apart },
    ...elsewhere.filter(({ doors }) => doors.length > 0).map(({ zone, doors }) => ({ zone, where: " AND door IN (:clockDoors)", clockDoors: doors })),
  ];
  const spans = await spansWithEvents(sequelize);
  const groups = new Map<number, EventGroup>();
  for (const { zone, where, clockDoors } of clocks)
    for (const span of spans)
      for (const { from, to, offset } of zone.segments((span.from / 60) as EpochMinute, (span.to / 60) as EpochMinute)) {
        const rows = await select<CountedRow & { readonly hour: number }>(
          sequelize,
          `SELECT FLOOR(MOD(MOD(second + :offset, 86400) + 86400, 86400) / 3600) AS hour, ${counted} FROM events
           WHERE ${asked.where}${where} AND second >= :segmentFrom AND second < :segmentTo GROUP BY hour`,
          { ...asked.values, clockDoors, offset: offset * 60, segmentFrom: from * 60, segmentTo: to * 60 },
        );
        for (const row of rows) {
          const hour = Number(row.hour);
          const [known, more] = [groups.get(hour), asCounted(row)];
          groups.set(hour, {
            key: String(hour),
            events: more.events + (known?.events ?? 0),
            granted: more.granted + (known?.granted ?? 0),
            last: Math.max(more.last, known?.last ?? more.last),
          });
        }
      }
  return [...groups.values()];
}

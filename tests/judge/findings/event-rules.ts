import type { Door } from "@/core/facility/document";
import { formatCivilDay } from "@/core/time/civil-day";
import type { CivilDay } from "@/core/time/civil-day";
import type { FindingsTerms, Event } from "./terms";
import { there, sorted, second } from "./terms";

/** What the events tell, read aloud. */
export const eventRules = (judge: FindingsTerms): Readonly<Record<string, () => void>> => ({
  "opened-against-record": () => judge.againstRecord("opened-against-record", "granted"),
  "refused-against-record": () => judge.againstRecord("refused-against-record", "refused"),
  "tried-again": () => {
    for (const card of judge.cards()) {
      const refused = judge.eventsOf(card.id).filter((e) => e.result === "refused" && e.minute >= judge.ago(judge.p("tried-again", "days", 30)));
      const spans = refused.map((e) => ({
        first: e.second,
        count: refused.filter((o) => e.second <= o.second && o.second <= e.second + judge.p("tried-again", "minutes", 10) * 60).length,
      }));
      const most = Math.max(0, ...spans.map(({ count }) => count));
      if (most >= judge.p("tried-again", "times", 5))
        judge.flag("credential", card.id, ["minutes"], {
          refused: most,
          first: second(Math.min(...spans.filter(({ count }) => count === most).map(({ first }) => first))),
        });
      const weeks: Record<number, Set<number>> = {};
      for (const e of refused) {
        const door = judge.f().doors.find(({ id }) => id === e.door);
        const date = judge.date(door ? judge.zoneOfSite(door.site) : judge.zone(), e.minute);
        const monday = date - ((((date + 3) % 7) + 7) % 7);
        weeks[monday] = (weeks[monday] ?? new Set<number>()).add(date);
      }
      const dates = Math.max(0, ...Object.values(weeks).map(({ size }) => size));
      const first = Object.keys(weeks)
        .map(Number)
        .filter((monday) => weeks[monday]?.size === dates)
        .sort((a, b) => a - b)[0];
      if (refused.length > 0 && dates >= judge.p("tried-again", "dates", 3))
        judge.flag("credential", card.id, ["days"], { dates, week: formatCivilDay(first as CivilDay) });
    }
  },
  "unknown-tried": () => {
    const found: Record<string, Event[]> = {};
    for (const e of judge.events) {
      const door = judge.f().doors.find(({ id }) => id === e.door);
      if (!e.unknown || !door || judge.sens(door) < judge.p("unknown-tried", "sensitivity", 2) || e.minute < judge.ago(judge.p("unknown-tried", "days", 30)))
        continue;
      const key = JSON.stringify([
        door.id,
        ...(there(e.credential) ? ["credential", e.credential] : ["number", there(e.facilityCode) ? e.facilityCode : "", e.number]),
      ]);
      found[key] = [...(found[key] ?? []), e];
    }
    for (const [key, events] of Object.entries(found)) {
      const [door = "", ...distinct] = JSON.parse(key) as string[];
      judge.flag("door", door, distinct, { events: events.length, last: second(Math.max(...events.map((e) => e.second))) });
    }
  },
  "two-places": () => {
    for (const s of judge.holders()) {
      const own = judge.ofHolder(s, judge.p("two-places", "days", 30)).filter(({ e }) => e.result === "granted");
      const found: Record<string, number[]> = {};
      own.forEach((now, i) => {
        const before = own[i - 1];
        if (!before || before.door.site === now.door.site) return;
        const [x, y] = [before.door.site, now.door.site];
        const way = judge.settings.sites?.[x]?.minutesTo?.[y] ?? judge.settings.sites?.[y]?.minutesTo?.[x] ?? judge.p("two-places", "minutes", 30);
        if (now.e.second - before.e.second < way * 60) (found[JSON.stringify(["sites", ...sorted([x, y])])] ??= []).push(now.e.second);
      });
      for (const { id: area } of judge.f().areas) {
        if (!judge.f().doors.some((door) => door.from === area && door.area !== area)) continue;
        const isEntry = (door: Door): boolean => door.area === area && door.from !== area;
        own.forEach((now, i) => {
          if (!isEntry(now.door)) return;
          for (let j = i - 1; j >= 0; j--) {
            const before = own[j];
            if (!before) return;
            if (isEntry(before.door)) {
              if (now.e.second - before.e.second <= judge.p("two-places", "hours", 12) * 3600)
                (found[JSON.stringify(["area", area])] ??= []).push(now.e.second);
              return;
            }
            if (before.door.from === area) return;
          }
        });
      }
      for (const [key, seconds] of Object.entries(found))
        judge.flag(s.kind, s.id, JSON.parse(key) as string[], { times: seconds.length, last: second(seconds.at(-1) ?? 0) });
    }
  },
  "let-in": () => {
    const [days, secondsAfter, minutes] = [judge.p("let-in", "days", 30), judge.p("let-in", "seconds", 60), judge.p("let-in", "minutes", 30)];
    for (const s of judge.holders()) {
      const own = judge.ofHolder(s, days);
      for (const door of judge.f().doors) {
        if (door.area === undefined) continue;
        const area = door.area;
        const hits: { second: number; by: string[] }[] = [];
        for (const r of own) {
          if (r.door.id !== door.id || r.e.result !== "refused") continue;
          const by: string[] = [];
          for (const other of judge.holders()) {
            if (other.kind === s.kind && other.id === s.id) continue;
            for (const g of judge.ofHolder(other, days)) {
              if (g.door.id !== door.id || g.e.result !== "granted" || g.e.second < r.e.second || g.e.second > r.e.second + secondsAfter) continue;
              const follows = own.some(
                (x) =>
                  x !== r &&
                  x.e.second >= g.e.second &&
                  x.e.second <= g.e.second + minutes * 60 &&
                  judge.chain(x.door.from).includes(area) &&
                  !own.some((y) => y !== x && y.e.result === "granted" && judge.isInto(y.door, area) && y.e.second >= r.e.second && y.e.second <= x.e.second),
              );
              if (follows) by.push(other.id);
            }
          }
          if (by.length > 0) hits.push({ second: r.e.second, by });
        }
        if (hits.length > 0)
          judge.flag(s.kind, s.id, [door.id], {
            times: hits.length,
            last: second(Math.max(...hits.map((hit) => hit.second))),
            by: hits.flatMap(({ by }) => by),
          });
      }
    }
  },
});

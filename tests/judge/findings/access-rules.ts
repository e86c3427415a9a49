import type { Credential, Door, Grant } from "@/core/facility/document";
import type { Where } from "@/core/questions/question";
import { sorted, written } from "./terms";
import type { FindingsTerms, Holder } from "./terms";

/** Access, read aloud. */
export const accessRules = (judge: FindingsTerms): Readonly<Record<string, () => void>> => ({
  "standing-override": () => {
    for (const { h, s } of judge.people()) {
      const doors = judge.doorsOf(s).filter(({ site }) => h.override === true || (h.override ?? []).includes(site));
      if (doors.length > 0) judge.flag("cardholder", h.id, [], { sites: doors.map(({ site }) => site), doors: doors.length });
    }
  },
  privilege: () => {
    for (const { h, s } of judge.people())
      for (const name of ["lockdownPass", "pinExempt", "extraTime", "holdOpen", "passbackExempt", "firstIn"] as const)
        if (h[name] && judge.doorsOf(s).length > 0) judge.flag("cardholder", h.id, [name], {});
    for (const level of judge.f().levels) {
      const holders = judge.holders().filter((s) => judge.holdsLevel(s, level.id)).length;
      for (const action of new Set((level.rows ?? []).flatMap(({ actions = [] }) => actions)))
        if (action !== "open" && holders > 0) judge.flag("level", level.id, [action], { holders });
    }
  },
  "around-the-clock": () => {
    for (const s of judge.holders())
      for (const area of judge.f().areas) {
        if ((area.sensitivity ?? 0) < judge.p("around-the-clock", "sensitivity", 2)) continue;
        const doors = judge.doorsOf(s).filter((door) => judge.isInto(door, area.id));
        const all = judge.or(doors.flatMap((door) => s.cards.map((card) => judge.O(card, door))));
        const week = judge.weeks(judge.zoneOfSite(area.site)).find(({ from, to }) => !all.slice(from - judge.A, to - judge.A).includes(0));
        if (doors.length > 0 && week)
          judge.flag(s.kind, s.id, [area.id], { sensitivity: area.sensitivity ?? 0, week: week.name, doors: doors.map(({ id }) => id) });
      }
  },
  "out-of-hours": () => {
    const days = judge.p("out-of-hours", "days", 90);
    for (const s of judge.holders())
      for (const area of judge.f().areas) {
        if ((area.sensitivity ?? 0) < judge.p("out-of-hours", "sensitivity", 2)) continue;
        const outside = (door: Door): Uint8Array =>
          judge.or(s.cards.map((card) => judge.O(card, door))).map((bit, i) => (bit === 1 && judge.businessAhead(door.site)[i] === 0 ? 1 : 0));
        const doors = judge.f().doors.filter((door) => judge.isInto(door, area.id) && judge.opensDoor(s, door) && judge.any(outside(door)));
        if (doors.length === 0) continue;
        const { minutes, week } = judge.fullest(judge.or(doors.map(outside)), judge.zoneOfSite(area.site));
        if (minutes <= judge.p("out-of-hours", "hours", 4) * 60) continue;
        const came = s.cards.some((card) =>
          judge.eventsOf(card.id).some((e) => {
            const door = judge.f().doors.find(({ id }) => id === e.door);
            return e.result === "granted" && e.minute >= judge.ago(days) && door && judge.isInto(door, area.id) && !judge.businessAt(door.site, e.minute);
          }),
        );
        if (!came && judge.tell(s.id, judge.concerned(doors), () => days))
          judge.flag(s.kind, s.id, [area.id], { minutes, week, doors: doors.map(({ id }) => id) });
      }
  },
  "unlike-peers": () => {
    const [least, percent] = [judge.p("unlike-peers", "peers", 5), judge.p("unlike-peers", "percent", 10)];
    for (const { h, s } of judge.people()) {
      const peers = judge
        .people()
        .filter((other) => other.h.id !== h.id && h.department !== undefined && other.h.department === h.department && judge.doorsOf(other.s).length > 0);
      if (h.department === undefined || peers.length < least) continue;
      const reach = (area: string): number => peers.filter((other) => judge.reaches(other.s, area)).length;
      const unlike = (area: string | undefined): boolean => area !== undefined && judge.reaches(s, area) && reach(area) * 100 <= percent * peers.length;
      for (const area of judge.f().areas)
        if (unlike(area.id) && !unlike(area.parent)) judge.flag("cardholder", h.id, [area.id], { peers: peers.length, reach: reach(area.id) });
    }
  },
  "right-unused": () => {
    const [days, percent] = [judge.p("right-unused", "days", 180), judge.p("right-unused", "percent", 50)];
    for (const s of judge.holders()) {
      const rights: Record<string, string[]> = {};
      for (const card of s.cards)
        for (const door of judge.f().doors.filter(({ kind }) => kind !== "floor"))
          for (const { way, grant } of judge.carrying(card, door)) {
            const right = JSON.stringify(way.level === undefined ? ["grant", grant.grant.id] : ["level", judge.f().levels[way.level]?.id]);
            rights[right] = [...(rights[right] ?? []), door.id];
          }
      for (const [right, all] of Object.entries(rights)) {
        const doors = [...new Set(all)];
        const used = doors.filter((door) =>
          s.cards.some((card) => judge.eventsOf(card.id).some((e) => e.door === door && e.result === "granted" && e.minute >= judge.ago(days))),
        );
        if (used.length * 100 >= percent * doors.length) continue;
        const unused = doors.filter((door) => !used.includes(door));
        if (judge.tell(s.id, judge.concerned(judge.f().doors.filter(({ id }) => unused.includes(id))), () => days))
          judge.flag(s.kind, s.id, JSON.parse(right) as string[], { doors: doors.length, used: used.length, unused });
      }
    }
  },
  "by-exception": () => {
    for (const grant of judge.f().grants) {
      const { to, open } = grant;
      if (grant.effect === "block" || to.group !== undefined || open.level !== undefined || open.bundle !== undefined) continue;
      const cards = judge.cards().filter((card) => (to.cardholder === undefined ? card.id === to.credential : card.cardholder === to.cardholder));
      const doors = judge
        .f()
        .doors.filter(
          (door) =>
            judge.sens(door) >= judge.p("by-exception", "sensitivity", 2) &&
            cards.some((card) => judge.carrying(card, door).some((path) => path.grant.grant.id === grant.id)),
        );
      if (doors.length > 0)
        judge.flag(to.cardholder === undefined ? "credential" : "cardholder", to.cardholder ?? to.credential ?? "", [grant.id], {
          doors: doors.map(({ id }) => id),
        });
    }
  },
  "hidden-path": () => {
    for (const s of judge.holders())
      for (const door of judge.doorsOf(s)) {
        const grants = new Set(s.cards.flatMap((card) => judge.carrying(card, door).map(({ grant }) => grant.grant.id)));
        if (judge.sens(door) >= judge.p("hidden-path", "sensitivity", 2) && grants.size > 1) judge.flag(s.kind, s.id, [door.id], { grants: [...grants] });
      }
  },
  "twice-given": () => {
    for (const card of judge.cards()) {
      if (card.cardholder === undefined) continue;
      const doors = judge.f().doors.filter((door) => {
        const receivers = judge.carrying(card, door).map(({ grant }) => grant.grant.to.credential !== undefined);
        return receivers.includes(true) && receivers.includes(false);
      });
      if (doors.length > 0) judge.flag("cardholder", card.cardholder, [card.id], { doors: doors.map(({ id }) => id) });
    }
  },
  "duties-conflict": () => {
    for (const s of judge.holders())
      for (const duty of judge.settings.duties ?? []) {
        const sides = [duty.a, duty.b].map(({ area, level }) => ({
          has: area !== undefined ? judge.reaches(s, area) : judge.holdsLevel(s, level ?? ""),
          doors: judge.doorsOf(s).filter((door) => (area !== undefined ? judge.isInto(door, area) : judge.coveredBy({ level: level ?? "" }).includes(door))),
        }));
        if (sides.every(({ has }) => has))
          judge.flag(s.kind, s.id, [duty.id], { a: sides[0]?.doors.map(({ id }) => id), b: sides[1]?.doors.map(({ id }) => id) });
      }
  },
  "visitor-sensitive": () => {
    const least = judge.p("visitor-sensitive", "sensitivity", 2);
    for (const { h, s } of judge.people()) {
      const doors = judge.doorsOf(s).filter((door) => judge.sens(door) >= least);
      if (h.type === "visitor" && doors.length > 0) judge.flag("cardholder", h.id, [], { areas: judge.sensitiveAreas(doors, least), doors: doors.length });
    }
  },
  "too-many-holders": () => {
    for (const area of judge.f().areas) {
      const holders = judge.holders().filter((s) => judge.reaches(s, area.id)).length;
      if (area.maxHolders !== undefined && holders > area.maxHolders) judge.flag("area", area.id, [], { holders, maxHolders: area.maxHolders });
    }
  },
  "level-limit": () => {
    const look = (kind: "cardholder" | "credential", id: string): void => {
      const own = judge.f().grants.filter((grant) => grant.effect !== "block" && grant.to[kind] === id && !judge.grantOver(grant));
      const count = new Set(own.flatMap(({ open }) => open.level ?? [])).size + new Set(own.flatMap(({ open }) => open.bundle ?? [])).size;
      if (count >= judge.p("level-limit", "levels", 8)) judge.flag(kind, id, [], { count });
    };
    for (const { h } of judge.people()) look("cardholder", h.id);
    for (const card of judge.cards()) look("credential", card.id);
  },
  "level-too-wide": () => {
    for (const level of judge.f().levels) {
      const doors = judge.coveredBy({ level: level.id });
      const [low, high] = [
        doors.filter((door) => judge.sens(door) === 0).length,
        doors.filter((door) => judge.sens(door) >= judge.p("level-too-wide", "sensitivity", 2)).length,
      ];
      if (low > 0 && high > 0) judge.flag("level", level.id, [], { low, high });
    }
  },
  "all-doors": () => {
    const all = judge.f().doors.filter(({ kind }) => kind !== "floor");
    const look = (kind: string, id: string, doors: readonly Door[], holders: number): void => {
      const covered = all.filter((door) => doors.includes(door)).length;
      if (covered * 100 >= judge.p("all-doors", "percent", 90) * all.length && holders > judge.p("all-doors", "holders", 5))
        judge.flag(kind, id, [], { doors: covered, of: all.length, holders });
    };
    for (const { id } of judge.f().levels) look("level", id, judge.coveredBy({ level: id }), judge.holders().filter((s) => judge.holdsLevel(s, id)).length);
    for (const { id } of judge.f().bundles)
      look("bundle", id, judge.coveredBy({ bundle: id }), judge.holders().filter((s) => judge.holdsWhere(s, ({ open }) => open.bundle === id)).length);
    for (const { id } of judge.f().groups) {
      const given = (group: string): Grant[] =>
        judge.f().grants.filter((grant) => grant.effect !== "block" && grant.to.group === group && !judge.grantOver(grant));
      if (given(id).length === 0) continue;
      const doors = judge.groupsAbove(id).flatMap((above) => given(above).flatMap(({ open }) => judge.coveredBy(open)));
      look("group", id, doors, judge.people().filter(({ h, s }) => judge.holdsGroup(h, s, id)).length);
    }
  },
  "house-rule": () => {
    for (const { id, name, demand, asks } of judge.houseRules) {
      const isPlace = (where: Where): boolean => where.kind === "anywhere" || where.kind === "sensitivity" || judge.isThere(where);
      const isKnown = asks && isPlace(asks.where) && (demand.must !== "not-both" || isPlace(demand.other));
      if (!isKnown || (asks.who && asks.who.kind !== "everybody" && asks.who.kind !== "type" && !judge.isThere(asks.who))) {
        judge.untold.push({ id: name, sites: [] });
        continue;
      }
      const doors = judge.doorsAt(asks.where);
      const everybody: Holder[] = judge.holders();
      const named = judge.peopleOf(asks.who);
      const among = demand.must === "only" ? everybody.filter((s) => !named.some(({ kind, id: own }) => kind === s.kind && own === s.id)) : named;
      const openAt = (s: Holder, door: Door, i: number): boolean =>
        judge.isMeant(asks.when, door.site, judge.A + i) && s.cards.some((card) => judge.O(card, door)[i] === 1);
      /** The doors that somebody opens then, the first of them, and when. */
      const opened = (s: Holder, at: readonly Door[]) => {
        const minutes = at.map((door) => judge.O(s.cards[0] as Credential, door).findIndex((_, i) => openAt(s, door, i)));
        const those = at.filter((_, k) => (minutes[k] as number) >= 0);
        const first = Math.min(...minutes.filter((minute) => minute >= 0));
        return those.length === 0
          ? undefined
          : {
              doors: those.map((door) => door.id),
              door: (at[minutes.indexOf(first)] as Door).id,
              at: written(judge.A + first),
              there: judge.there((at[minutes.indexOf(first)] as Door).site, judge.A + first),
            };
      };
      const told = { name, must: demand.must };
      if (demand.must === "at-least" || demand.must === "at-most") {
        const { where } = asks;
        const site = doors[0]?.site ?? judge.f().sites[0]?.id ?? "";
        const [kind, subject] =
          where.kind === "door" || where.kind === "area" || where.kind === "level" || where.kind === "site" ? [where.kind, where.id] : ["site", site];
        const withCards = among.filter(({ cards }) => cards.length > 0);
        if (demand.must === "at-most") {
          const opening = withCards.filter((s) => opened(s, doors));
          if (opening.length > demand.count)
            judge.flag(kind, subject, [id], { ...told, count: demand.count, found: opening.length, among: sorted(opening.map((s) => s.id)).slice(0, 10) });
          continue;
        }
        const counts = Array.from({ length: judge.E - judge.A }, (_, i) => {
          if (!doors.some((door) => judge.isMeant(asks.when, door.site, judge.A + i))) return Infinity;
          return withCards.filter((s) => doors.some((door) => openAt(s, door, i))).length;
        });
        const fewest = Math.min(...counts);
        if (fewest < demand.count)
          judge.flag(kind, subject, [id], {
            ...told,
            count: demand.count,
            found: fewest,
            at: written(judge.A + counts.indexOf(fewest)),
            there: judge.there(doors[0]?.site ?? "", judge.A + counts.indexOf(fewest)),
          });
        continue;
      }
      for (const s of among.filter(({ cards }) => cards.length > 0)) {
        const one = opened(s, doors);
        const other = demand.must === "not-both" ? opened(s, judge.doorsAt(demand.other)) : undefined;
        if (!one || (demand.must === "not-both" && !other)) continue;
        judge.flag(s.kind, s.id, [id], { ...told, ...one, ...(other && { otherDoor: other.door, otherAt: other.at, otherThere: other.there }) });
      }
    }
  },
  "stranded-right": () => {
    const walk = (canTake: (door: Door) => boolean): Set<string | undefined> => {
      const places = new Set<string | undefined>([undefined]);
      for (let before = -1; before !== places.size;) {
        before = places.size;
        for (const door of judge.f().doors) if (places.has(door.from) && canTake(door)) places.add(door.area);
      }
      return places;
    };
    const ever = walk(() => true);
    for (const s of judge.holders()) {
      const inside = judge.doorsOf(s).filter(({ from }) => from !== undefined);
      if (inside.some(({ from }) => !ever.has(from))) judge.untold.push({ id: s.id, sites: [] });
      const times = new Map(judge.f().doors.map((door) => [door.id, judge.or([judge.free(door), ...s.cards.map((card) => judge.O(card, door))])]));
      const reached = new Set<string | undefined>();
      let last = "";
      for (let i = 0; i < judge.E - judge.A; i++) {
        const now = judge
          .f()
          .doors.map(({ id }) => times.get(id)?.[i])
          .join("");
        if (now === last) continue;
        last = now;
        for (const place of walk((door) => times.get(door.id)?.[i] === 1)) reached.add(place);
      }
      for (const door of inside) if (ever.has(door.from) && !reached.has(door.from)) judge.flag(s.kind, s.id, [door.id], { from: door.from });
    }
  },
});

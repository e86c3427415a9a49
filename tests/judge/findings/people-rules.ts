import type { CompiledFacility } from "@/core/compile/compiled-facility";
import type { Cardholder, Credential, Door } from "@/core/facility/document";
import { instantOf } from "@/core/facility/time-rules";
import { exactTimeframe } from "@/core/paths/timeframe";
import { openIn } from "@/core/paths/timetable";
import { yearMonthDay } from "@/core/time/civil-day";
import { minuteDown, minuteUp } from "@/core/time/instant";
import type { EpochMinute } from "@/core/time/instant";
import { localTime } from "@/core/time/zone";
import { FindingsTerms, there, ascii, sorted, written, second, minuteOf } from "./terms";

/** People and cards, read aloud. */
export const peopleRules = (judge: FindingsTerms): Readonly<Record<string, () => void>> => ({
  "leaver-live": () => {
    for (const { h, s } of judge.people()) {
      const active = s.cards.filter((card) => judge.marked(card));
      const left = judge.left(h) ? judge.leftMinute(h) : undefined;
      if (judge.left(h) && active.length > 0)
        judge.flag("cardholder", h.id, [], {
          status: h.status,
          left: left === undefined ? undefined : written(left),
          credentials: active.map(({ id }) => id),
        });
    }
  },
  "removed-late": () => {
    const hours = judge.p("removed-late", "hours", 24);
    const asOf = (document: CompiledFacility): number => minuteDown(instantOf(document.facility.asOf));
    for (const { h } of judge.people()) {
      const left = judge.left(h) ? judge.leftMinute(h) : undefined;
      if (left === undefined || left < judge.ago(judge.p("removed-late", "lookBackDays", 90))) continue;
      const late = judge.earlier.filter((d) => asOf(d) > left + hours * 60 && FindingsTerms.liveThen(d, h.id).length > 0).at(-1);
      if (late)
        judge.flag("cardholder", h.id, [], {
          left: written(left),
          lastLive: written(asOf(late)),
          hours: Math.floor((asOf(late) - left) / 60),
          credentials: FindingsTerms.liveThen(late, h.id),
        });
      else {
        const within = [...judge.earlier, judge.compiled].filter((d) => left <= asOf(d) && asOf(d) <= left + hours * 60);
        if (!within.some((d) => FindingsTerms.liveThen(d, h.id).length === 0)) judge.untold.push({ id: h.id, sites: [] });
      }
    }
  },
  "mover-kept": () => {
    for (const { h, s } of judge.people()) {
      let k = -1;
      judge.earlier.forEach((document, i) => {
        const then = document.facility.cardholders.find(({ id }) => id === h.id)?.department;
        if (then !== undefined && then !== h.department) k = i;
      });
      const before = judge.earlier[k];
      if (!before) continue;
      const moved = minuteDown(instantOf((judge.earlier[k + 1] ?? judge.compiled).facility.asOf));
      if (judge.A < moved + judge.p("mover-kept", "days", 30) * 1440) continue;
      const [then, now] = [judge.departmentDoors(before, h.id), judge.departmentDoors(judge.compiled, h.id)];
      const doors = judge.doorsOf(s).filter(({ id }) => then.includes(id) && !now.includes(id));
      const former = before.facility.cardholders.find(({ id }) => id === h.id)?.department ?? "";
      if (doors.length > 0) judge.flag("cardholder", h.id, [former], { moved: written(moved), doors: doors.map(({ id }) => id) });
    }
  },
  "not-certified": () => {
    const zone = judge.zone();
    const { date, minuteOfDay } = localTime(zone, judge.A as EpochMinute);
    const { year, month, day } = yearMonthDay(date);
    const back = year * 12 + month - 1 - judge.p("not-certified", "months", 6);
    const [y, m] = [Math.floor(back / 12), (back % 12) + 1];
    const wall = Date.UTC(y, m - 1, Math.min(day, new Date(Date.UTC(y, m, 0)).getUTCDate())) / 60_000 + minuteOfDay;
    let limit = wall - 2 * 1440;
    for (;;) {
      const local = localTime(zone, limit as EpochMinute);
      if (local.date * 1440 + local.minuteOfDay >= wall) break;
      limit++;
    }
    for (const s of judge.holders())
      for (const area of judge.f().areas) {
        if ((area.sensitivity ?? 0) < judge.p("not-certified", "sensitivity", 0)) continue;
        if (!judge.doorsOf(s).some((door) => door.area === area.id)) continue;
        const minutes = (judge.decisions ?? [])
          .filter((d) => ["keep", "narrow"].includes(d.decision) && (s.kind === "cardholder" ? d.cardholder : d.credential) === s.id)
          .filter((d) => judge.chain(area.id).includes(d.area))
          .map(({ at }) => minuteDown(instantOf(at)) as number)
          .filter((minute) => minute <= judge.A);
        if (minutes.some((minute) => minute > limit)) continue;
        judge.flag(s.kind, s.id, [area.id], { last: minutes.length === 0 ? undefined : written(Math.max(...minutes)) });
      }
  },
  "not-authorised": () => {
    const isIt = ({ authorised: a }: { readonly authorised?: { by?: string; at?: string; reference?: string } }): boolean =>
      there(a?.by) || there(a?.at) || there(a?.reference);
    const { grants, memberships } = judge.f();
    if (grants.some(isIt))
      for (const grant of grants) if (grant.effect !== "block" && !judge.grantOver(grant) && !isIt(grant)) judge.flag("grant", grant.id, [], {});
    if (judge.cards().some(isIt))
      for (const card of judge.cards()) if (judge.marked(card) && judge.endOf(card) > judge.A && !isIt(card)) judge.flag("credential", card.id, [], {});
    if (memberships.some(isIt))
      for (const { h } of judge.people())
        for (const group of judge.f().groups) {
          const own = judge.membershipsOf(h.id).filter((m) => m.group === group.id && judge.window(m).until > judge.A && !isIt(m));
          if (own.length > 0) judge.flag("cardholder", h.id, ["membership", group.id], { memberships: own.length });
        }
  },
  "requirement-over": () => {
    for (const { h, s } of judge.people())
      for (const name of new Set((h.requirements ?? []).map((one) => one.name))) {
        const ends = (h.requirements ?? [])
          .filter((one) => one.name === name)
          .map(({ until }) => (until === undefined ? Infinity : judge.window({ until }).until));
        if (judge.doorsOf(s).length > 0 && Math.max(...ends) <= judge.A) judge.flag("cardholder", h.id, [name], { ended: written(Math.max(...ends)) });
      }
  },
  "unknown-to-source": () => {
    for (const { h, s } of judge.people()) {
      const sources = judge.peopleSources.filter(({ people }) => !people.includes(h.id)).map(({ source }) => source);
      if (judge.doorsOf(s).length > 0 && sources.length > 0) judge.flag("cardholder", h.id, [], { sources });
    }
  },
  "no-sponsor": () => {
    for (const { h, s } of judge.people()) {
      if ((h.type !== "contractor" && h.type !== "visitor") || judge.doorsOf(s).length === 0) continue;
      const sponsor = judge.person(h.sponsor);
      const missing = [];
      if (!sponsor) missing.push("sponsor");
      else if (judge.left(sponsor)) missing.push("sponsor-left");
      if (h.type === "contractor" && !there(h.company)) missing.push("company");
      if (missing.length > 0) judge.flag("cardholder", h.id, [], { missing });
    }
  },
  "expired-active": () => {
    for (const card of judge.cards()) {
      const end = judge.endOf(card);
      if (judge.marked(card) && end <= judge.A)
        judge.flag("credential", card.id, [], { end: written(end), by: judge.window(card).until === end ? "until" : "expiry" });
    }
  },
  "ends-soon": () => {
    const [days, usedDays] = [judge.p("ends-soon", "days", 14), judge.p("ends-soon", "usedDays", 30)];
    const soon = (end: number): boolean => judge.A < end && end <= judge.A + days * 1440;
    const look = (kind: string, id: string, end: number, cards: readonly Credential[], doors: Door[]): void => {
      const uses = cards.flatMap((card) => judge.lastUse(card) ?? []);
      const last = Math.max(-Infinity, ...uses);
      if (last >= judge.ago(usedDays)) judge.flag(kind, id, [], { end: written(end), lastUse: written(last) });
      else if (!cards.every(({ lastUse }) => lastUse !== undefined)) judge.tell(id, judge.concerned(doors), () => usedDays);
    };
    for (const card of judge.cards())
      if (judge.live(card, judge.A) && soon(judge.endOf(card)))
        look(
          "credential",
          card.id,
          judge.endOf(card),
          [card],
          judge.f().doors.filter((door) => judge.any(judge.O(card, door))),
        );
    for (const { h, s } of judge.people())
      if (h.type === "contractor" && judge.marked(h) && judge.startOf(h) <= judge.A && soon(judge.holderEnd(h)))
        look("cardholder", h.id, judge.holderEnd(h), s.cards, judge.doorsOf(s));
  },
  "no-end-date": () => {
    const far = judge.A + judge.p("no-end-date", "farDays", 3653) * 1440;
    const look = (kind: string, id: string, end: number): void => {
      if (end >= far) judge.flag(kind, id, [], { end: end === Infinity ? undefined : written(end) });
    };
    for (const { h, s } of judge.people())
      if ((h.type === "contractor" || h.type === "visitor") && !judge.left(h) && s.cards.some((card) => judge.marked(card)))
        look("cardholder", h.id, judge.holderEnd(h));
    for (const card of judge.cards()) if (card.temporary && judge.marked(card) && judge.endOf(card) > judge.A) look("credential", card.id, judge.endOf(card));
  },
  "outlives-holder": () => {
    for (const card of judge.cards()) {
      const h = judge.person(card.cardholder);
      if (!h || !judge.marked(card) || judge.endOf(card) <= judge.A || judge.endOf(card) === Infinity) continue;
      if (judge.A < judge.holderEnd(h) && judge.holderEnd(h) < judge.endOf(card))
        judge.flag("credential", card.id, [], { end: written(judge.endOf(card)), holderEnd: written(judge.holderEnd(h)) });
    }
  },
  "spare-outstanding": () => {
    for (const card of judge.cards()) {
      if (!card.temporary || card.cardholder === undefined || !judge.marked(card)) continue;
      const since = minuteOf(card.issuedAt) ?? (card.from === undefined ? minuteOf(card.firstUse) : judge.startOf(card));
      if (since === undefined) judge.untold.push({ id: card.id, sites: [] });
      else if (judge.A - since > judge.p("spare-outstanding", "days", 1) * 1440) judge.flag("credential", card.id, [], { since: written(since) });
    }
  },
  unused: () => {
    const days = judge.p("unused", "days", 90);
    for (const card of judge.cards()) {
      const last = judge.lastUse(card);
      const given = minuteOf(card.issuedAt) ?? judge.startOf(card);
      if (!judge.live(card, judge.A) || (last !== undefined && last >= judge.ago(days)) || given > judge.ago(days)) continue;
      const other = new FindingsTerms(judge.compiled, judge.settings, judge.events, judge.earlier, judge.decisions);
      peopleRules(other)["never-used"]?.();
      if (other.lines.some((line) => line.subject.id === card.id)) continue;
      const doors = judge.f().doors.filter((door) => judge.any(judge.O(card, door)));
      if (card.lastUse === undefined && !judge.tell(card.id, judge.concerned(doors), () => days)) continue;
      judge.flag("credential", card.id, [], { days, lastUse: last === undefined ? undefined : written(last) });
    }
  },
  "never-used": () => {
    for (const card of judge.cards()) {
      if (!judge.live(card, judge.A) || card.firstUse !== undefined || card.lastUse !== undefined) continue;
      if (judge.eventsOf(card.id).some(({ result }) => result === "granted")) continue;
      if (card.issuedAt === undefined && card.from === undefined) continue;
      const given = minuteOf(card.issuedAt) ?? judge.startOf(card);
      if (given > judge.ago(judge.p("never-used", "days", 30))) continue;
      const doors = judge.f().doors.filter((door) => judge.any(judge.O(card, door)));
      const dates = (site: string): number =>
        given < judge.ago(3653) ? 3653 : Math.min(3653, judge.date(judge.zoneOfSite(site), judge.A) - judge.date(judge.zoneOfSite(site), given));
      if (judge.tell(card.id, judge.concerned(doors), dates)) judge.flag("credential", card.id, [], { given: written(given) });
    }
  },
  "stock-active": () => {
    for (const card of judge.cards())
      if (card.cardholder === undefined && judge.marked(card) && judge.endOf(card) > judge.A)
        judge.flag("credential", card.id, [], { doors: judge.f().doors.filter((door) => judge.any(judge.O(card, door))).length });
  },
  "lost-in-use": () => {
    for (const card of judge.cards()) {
      const byStatus = card.status !== "active" && card.statusSince !== undefined ? minuteUp(instantOf(card.statusSince)) : Infinity;
      const since = Math.min(byStatus, judge.endOf(card));
      const within = judge.eventsOf(card.id).filter(({ minute }) => minute >= judge.ago(judge.p("lost-in-use", "days", 90)));
      const found = within.filter(({ minute }) => minute >= since);
      if (found.length > 0)
        judge.flag("credential", card.id, [], {
          since: written(since),
          events: found.length,
          granted: found.filter(({ result }) => result === "granted").length,
          last: second(Math.max(...found.map((e) => e.second))),
        });
      else if (!judge.marked(card) && card.statusSince === undefined && within.length > 0) judge.untold.push({ id: card.id, sites: [] });
    }
  },
  "dead-card-tried": () => {
    for (const card of judge.cards()) {
      const tried = judge
        .eventsOf(card.id)
        .filter(({ result, minute }) => result === "refused" && minute >= judge.ago(judge.p("dead-card-tried", "days", 30)) && !judge.live(card, minute));
      if (tried.length >= judge.p("dead-card-tried", "times", 3))
        judge.flag("credential", card.id, [], { refused: tried.length, last: second(Math.max(...tried.map((e) => e.second))) });
    }
  },
  "sleeping-access": () => {
    const least = judge.p("sleeping-access", "sensitivity", 2);
    const frame = exactTimeframe(judge.compiled, judge.A as EpochMinute, judge.E as EpochMinute, { lockdown: false, asIfLive: true });
    for (const card of judge.cards()) {
      const h = judge.person(card.cardholder);
      const start = Math.max(judge.startOf(card), h ? judge.startOf(h) : -Infinity);
      if (judge.marked(card) && judge.A + judge.p("sleeping-access", "days", 30) * 1440 >= start) continue;
      if (h && judge.left(h)) continue;
      const doors = judge
        .f()
        .doors.filter(
          (door) =>
            judge.sens(door) >= least && openIn(judge.compiled, frame, judge.compiledCard(card.id), judge.compiled.doorById.get(door.id) ?? -1).length > 0,
        );
      if (doors.length > 0) judge.flag("credential", card.id, [], { status: card.status, areas: judge.sensitiveAreas(doors, least), doors: doors.length });
    }
  },
  waking: () => {
    const least = judge.p("waking", "sensitivity", 2);
    for (const card of judge.cards()) {
      const h = judge.person(card.cardholder);
      if (!judge.marked(card) || judge.A >= Math.max(judge.startOf(card), h ? judge.startOf(h) : -Infinity)) continue;
      let first: number | undefined;
      for (let t = judge.A + 1; t <= judge.A + judge.p("waking", "days", 30) * 1440 && t < judge.E && first === undefined; t++)
        if (judge.liveAhead(card)[t - judge.A] === 1) first = t;
      const doors = judge.f().doors.filter((door) => judge.sens(door) >= least && judge.any(judge.O(card, door)));
      if (first !== undefined && doors.length > 0)
        judge.flag("credential", card.id, [], { from: written(first), areas: judge.sensitiveAreas(doors, least), doors: doors.length });
    }
  },
  "holder-of-nothing": () => {
    for (const card of judge.cards()) {
      if (!judge.live(card, judge.A) || judge.f().doors.some((door) => judge.any(judge.O(card, door)))) continue;
      const h = judge.person(card.cardholder);
      const groups = h
        ? [...judge.groupsAbove(h.department), ...judge.membershipsOf(h.id).flatMap((m) => (judge.window(m).until > judge.A ? judge.groupsAbove(m.group) : []))]
        : [];
      const grants = judge
        .f()
        .grants.filter(
          (grant) =>
            grant.effect !== "block" &&
            !judge.grantOver(grant) &&
            (grant.to.credential === card.id || (h !== undefined && grant.to.cardholder === h.id) || groups.includes(grant.to.group ?? "")),
        );
      if (grants.length > 0) judge.flag("credential", card.id, [], { grants: grants.map(({ id }) => id) });
    }
  },
  "same-number": () => {
    const key = (card: Credential): string => JSON.stringify([card.number, there(card.facilityCode) && card.facilityCode, there(card.issue) && card.issue]);
    const numbered = judge.cards().filter(({ number }) => there(number));
    for (const card of numbered) {
      const same = numbered.filter((other) => key(other) === key(card));
      const ids = sorted(same.map(({ id }) => id));
      if (same.length > 1 && ids[0] === card.id && same.some((other) => judge.marked(other))) judge.flag("credential", card.id, [], { credentials: ids });
    }
  },
  "number-out-of-format": () => {
    const formats: Record<string, { facilityCode: number; number: number }> = { "26": { facilityCode: 255, number: 65_535 }, ...judge.settings.formats };
    for (const card of judge.cards()) {
      const format = formats[card.bitFormat ?? ""];
      if (!format || !judge.marked(card)) continue;
      const fields = (["facilityCode", "number"] as const).filter((field) => {
        const text = card[field];
        return there(text) && (![...text].every((c) => c >= "0" && c <= "9") || Number(text) > format[field]);
      });
      if (fields.length > 0) judge.flag("credential", card.id, [], { fields: [...fields] });
    }
  },
  "printed-differs": () => {
    for (const card of judge.cards()) {
      if (!judge.marked(card) || !there(card.printedNumber) || card.printedNumber === card.number) continue;
      const others = judge
        .cards()
        .filter(
          (other) =>
            other.id !== card.id &&
            judge.marked(other) &&
            other.number === card.printedNumber &&
            (there(other.facilityCode) ? other.facilityCode : "") === (there(card.facilityCode) ? card.facilityCode : ""),
        );
      if (others.length > 0) judge.flag("credential", card.id, [], { credentials: others.map(({ id }) => id) });
    }
  },
  "same-pin": () => {
    for (const tag of new Set(judge.cards().map(({ pinTag }) => pinTag))) {
      if (!there(tag)) continue;
      const those = judge.cards().filter((card) => card.pinTag === tag && judge.marked(card));
      if (new Set(those.map((card) => card.cardholder ?? `of nobody ${card.id}`)).size < 2) continue;
      const doors = judge
        .f()
        .doors.filter((door) =>
          those.some((card) => judge.O(card, door).some((bit, i) => bit === 1 && ["pin", "card-or-pin"].includes(judge.entryAhead(door)[i] ?? ""))),
        );
      const ids = sorted(those.map(({ id }) => id));
      if (doors.length > 0) judge.flag("credential", ids[0] ?? "", [], { credentials: ids, doors: doors.map(({ id }) => id) });
    }
  },
  "pin-missing": () => {
    for (const card of judge.cards()) {
      if (judge.compiledCard(card.id).hasPin) continue;
      const doors = judge.f().doors.filter((door) => {
        if (judge.opensDoor(judge.holderOf(card.id), door)) return false;
        const minutes = [...judge.oneToThree(card, door)];
        return minutes.length > 0 && !minutes.some((t) => judge.entryMet(card, door)[t - judge.A] === 1);
      });
      if (doors.length > 0) judge.flag("credential", card.id, [], { doors: doors.map(({ id }) => id) });
    }
  },
  "via-missing": () => {
    for (const card of judge.cards()) {
      const doors = judge
        .f()
        .doors.filter(
          (door) =>
            door.via !== undefined &&
            !judge.opensDoor(judge.holderOf(card.id), door) &&
            [...judge.oneToThree(card, door)].some((t) => judge.entryMet(card, door)[t - judge.A] === 1),
        );
      if (doors.length > 0) judge.flag("credential", card.id, [], { doors: doors.map(({ id }) => id) });
    }
  },
  "many-credentials": () => {
    for (const { h, s } of judge.people()) {
      const live = s.cards.filter((card) => judge.live(card, judge.A));
      if (live.length > judge.p("many-credentials", "most", 2)) judge.flag("cardholder", h.id, [], { credentials: live.map(({ id }) => id) });
    }
  },
  "same-person": () => {
    const blanks = (text: string | undefined): string =>
      ascii(text ?? "")
        .split(" ")
        .filter(Boolean)
        .join(" ");
    const present = judge.f().cardholders.filter((h) => !judge.left(h));
    const look = (by: string, keyOf: (h: Cardholder) => string): void => {
      for (const h of present) {
        if (keyOf(h) === "") continue;
        const same = sorted(present.filter((other) => keyOf(other) === keyOf(h)).map(({ id }) => id));
        if (same.length > 1 && same[0] === h.id) judge.flag("cardholder", h.id, [by], { cardholders: same });
      }
    };
    look("staffNumber", ({ staffNumber = "" }) => staffNumber);
    look("email", ({ email }) => blanks(email));
    look("name", ({ name, department }) => (blanks(name) === "" || department === undefined ? "" : JSON.stringify([blanks(name), department])));
  },
  "no-department": () => {
    for (const { h, s } of judge.people())
      if (judge.doorsOf(s).length > 0 && !judge.certified(h)) judge.flag("cardholder", h.id, [], { department: h.department });
  },
  "no-certifier": () => {
    for (const area of judge.f().areas) {
      const holders = judge.holders().filter((s) => judge.reaches(s, area.id)).length;
      const owners = judge.chain(area.id).map((id) => judge.person(judge.areaOf(id)?.owner));
      if (holders > 0 && !owners.some((owner) => owner && !judge.left(owner))) judge.flag("area", area.id, [], { holders });
    }
  },
});

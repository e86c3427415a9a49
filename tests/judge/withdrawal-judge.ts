import { compileFacility } from "@/core/compile/compile-facility";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import { aheadOf } from "@/core/facility/ahead";
import { canonicalJson } from "@/core/facility/canonical-json";
import type { FacilityDocument, Grant, GrantTarget, Membership } from "@/core/facility/document";
import { withAllLists } from "@/core/facility/facility";
import type { FacilityChange } from "@/core/facility/facility-change";
import type { HolderId } from "@/core/facility/holder-id";
import { normalFacility, normalObject } from "@/core/facility/normal-form";
import { objectWindow } from "@/core/facility/time-rules";
import { compareCodePoints } from "@/core/kernel/compare";
import { exactTimeframe } from "@/core/paths/timeframe";
import { openIn } from "@/core/paths/timetable";
import { parseCivilDay } from "@/core/time/civil-day";
import { formatInstant } from "@/core/time/instant";
import type { EpochMinute } from "@/core/time/instant";
import { clip, intersect, subtract, totalMinutes, union } from "@/core/time/intervals";
import type { IntervalSet } from "@/core/time/intervals";
import { endOfMinutesThrough, zoneOf } from "@/core/time/zone";

/**
 * "Withdrawal, exactly" read aloud, for small documents: every plan is written into a document of its own, every beginning of it too, and
 * each is resolved anew. It judges the planner, shares none of its parts, and is as slow as it looks.
 */
export interface JudgedWish {
  readonly holder: HolderId;
  readonly doors: readonly string[];
  readonly schedule?: string;
  readonly until?: string;
  readonly withBlocks: boolean;
  readonly horizonDays: number;
}

type Loose = Record<string, unknown>;
interface Step {
  /** Where the change stands among the others. */
  readonly order: readonly string[];
  readonly list: "schedules" | "grants" | "memberships" | "cardholders";
  readonly do: "add" | "alter" | "remove";
  readonly key: string;
  readonly object?: Loose;
  readonly usesX?: boolean;
}
type Option = readonly Step[];
interface PlanThing {
  readonly options: readonly Option[];
  readonly isDoor: boolean;
}

const modes = [
  { lockdown: false, asIfLive: false },
  { lockdown: true, asIfLive: false },
  { lockdown: false, asIfLive: true },
];

const clock = (minute: number): string => `${String(Math.floor(minute / 60)).padStart(2, "0")}:${String(minute % 60).padStart(2, "0")}`;
const minuteOf = (text: string): number => Number(text.slice(0, 2)) * 60 + Number(text.slice(3));
const membershipKey = ({ group, cardholder, from = "", until = "" }: Pick<Membership, "group" | "cardholder" | "from" | "until">): string =>
  JSON.stringify([group, cardholder, from, until]);
const defined = (object: Loose): Loose => Object.fromEntries(Object.entries(object).filter(([, value]) => value !== undefined));

/** What a row leaves of the day, minute by minute; undefined where a night runs into the next day. */
function opposite(row: readonly (readonly [string, string])[]): [string, string][] | undefined {
  const open = new Set<number>();
  for (const [start, end] of row) {
    if (minuteOf(start) > minuteOf(end) && end !== "00:00") return undefined;
    for (let m = minuteOf(start); m < (minuteOf(start) > minuteOf(end) ? 1440 : minuteOf(end)); m++) open.add(m);
  }
  const left: [string, string][] = [];
  for (let m = 0; m < 1440; m++) {
    if (open.has(m)) continue;
    const last = left[left.length - 1];
    if (last && minuteOf(last[1]) === m) last[1] = clock(m + 1);
    else left.push([clock(m), clock(m + 1)]);
  }
  return left;
}

function outsideX(d: FacilityDocument, id: string): Loose | undefined {
  const k = (d.schedules ?? []).find((one) => one.id === id);
  if (!k || k.from !== undefined || k.until !== undefined) return undefined;
  const week: Loose = {};
  const holidays = new Map<string, unknown>();
  for (const day of ["mon", "tue", "wed", "thu", "fri", "sat", "sun"] as const) {
    const left = opposite(k.week?.[day] ?? []);
    if (!left) return undefined;
    week[day] = left;
  }
  if ((k.onHoliday ?? "closed") === "closed")
    for (const c of d.calendars ?? []) for (const { dayType } of c.days ?? []) holidays.set(dayType, [["00:00", "24:00"]]);
  for (const [type, row] of Object.entries(k.holidays ?? {})) {
    const left = opposite(row);
    if (!left) return undefined;
    holidays.set(type, left);
  }
  return normalObject({ name: `outside ${k.name}`, week, holidays: Object.fromEntries(holidays), onHoliday: "weekday" }, "schedules");
}

function carry(d: FacilityDocument, steps: readonly Step[]): FacilityDocument {
  const next = structuredClone(d) as unknown as Record<string, Loose[]>;
  for (const step of steps) {
    const keyOf = (o: Loose): string => (step.list === "memberships" ? membershipKey(o as unknown as Membership) : String(o.id));
    const list = next[step.list] ?? [];
    if (step.do === "add") next[step.list] = [...list, ...(step.object ? [step.object] : [])];
    else {
      let done = false;
      next[step.list] = list.flatMap((o) => {
        if (keyOf(o) !== step.key) return [o];
        const stands = step.do === "alter" && !done;
        done = true;
        return stands && step.object ? [step.object] : [];
      });
    }
  }
  return next as unknown as FacilityDocument;
}

class WithdrawalJudge {
  readonly d: FacilityDocument;
  private readonly compiled: CompiledFacility;
  private readonly from: EpochMinute;
  private readonly to: EpochMinute;
  private readonly credentials: readonly string[];
  private readonly end: number | undefined;
  private readonly something: boolean;
  private readonly D: ReadonlySet<string>;
  private readonly N: ReadonlySet<string>;

  constructor(
    draft: FacilityDocument,
    private readonly wish: JudgedWish,
  ) {
    this.d = normalFacility(withAllLists(draft));
    this.compiled = compileFacility(withAllLists(this.d));
    ({ from: this.from, to: this.to } = aheadOf(this.d, wish.horizonDays));
    this.credentials = (this.d.credentials ?? [])
      .filter((c) => (wish.holder.kind === "cardholder" ? c.cardholder === wish.holder.id : c.id === wish.holder.id))
      .map(({ id }) => id);
    const day = wish.until === undefined ? undefined : parseCivilDay(wish.until);
    const end = day === undefined ? undefined : endOfMinutesThrough(zoneOf(this.d.timeZone), day);
    this.something = (wish.schedule !== undefined || end !== undefined) && !(end !== undefined && end <= this.from);
    this.end = end !== undefined && this.something && end < this.to ? end : undefined;
    const before = this.openings(this.d);
    this.D = new Set(
      wish.doors.filter((door) => this.credentials.some((c) => modes.some((_, m) => subtract(before(m, c, door), this.mayStay(door)).length > 0))),
    );
    const near = new Set<string>();
    for (const door of this.D) for (let at: string | undefined = door; at !== undefined; at = this.doorNamed(at).via) near.add(at);
    this.N = near;
  }

  private doorNamed(id: string) {
    const door = (this.d.doors ?? []).find((one) => one.id === id);
    if (!door) throw new Error(id);
    return door;
  }

  private openings(d: FacilityDocument): (mode: number, credential: string, door: string) => IntervalSet {
    const compiled = compileFacility(withAllLists(d));
    const readings = modes.map((mode) => exactTimeframe(compiled, this.from, this.to, mode));
    return (mode, credential, door) => {
      const [c, at, timeframe] = [compiled.credentials.at(compiled.credentialById.get(credential) ?? -1), compiled.doorById.get(door), readings[mode]];
      if (!c || at === undefined || !timeframe) throw new Error(`${credential} ${door}`);
      return openIn(compiled, timeframe, c, at);
    };
  }

  private mayStay(door: string): IntervalSet {
    if (!this.something) return [];
    const { compiled, wish } = this;
    const at = compiled.doors[compiled.doorById.get(door) ?? -1];
    const own = wish.holder.kind === "cardholder" ? (this.d.cardholders ?? []).find(({ id }) => id === wish.holder.id)?.calendar : undefined;
    const calendar = own === undefined ? at?.calendar : (this.d.calendars ?? []).findIndex(({ id }) => id === own);
    const timeframe = exactTimeframe(compiled, this.from, this.to, { lockdown: false, asIfLive: false });
    const open =
      wish.schedule === undefined || !at
        ? timeframe.span
        : timeframe.schedule(
            (this.d.schedules ?? []).findIndex(({ id }) => id === wish.schedule),
            calendar,
            at.zone,
          );
    return this.end === undefined ? open : clip(open, -Infinity, this.end);
  }

  private covers(target: GrantTarget): string[] {
    return [...this.compiled.cover(target).keys()].map((position) => this.compiled.doors[position]?.door.id ?? "");
  }

  private endOf(o: { readonly from?: string; readonly until?: string }): number {
    return objectWindow(o, zoneOf(this.d.timeZone), "outward").until;
  }

  private parts(grant: Grant): { outside: Loose[]; asked: Loose[] } | undefined {
    const [outside, asked]: [Loose[], Loose[]] = [[], []];
    let impossible = false;
    const fall = (open: GrantTarget, schedule: string | undefined): void => {
      const doors = this.covers(open);
      if (doors.length === 0) return;
      if (!doors.some((door) => this.D.has(door))) return void outside.push(defined({ open, schedule }));
      if (open.door !== undefined) return void asked.push(defined({ open, schedule }));
      if (open.bundle !== undefined) for (const level of this.d.bundles?.find(({ id }) => id === open.bundle)?.levels ?? []) fall({ level }, schedule);
      if (open.level !== undefined)
        for (const row of this.d.levels?.find(({ id }) => id === open.level)?.rows ?? []) {
          const target = defined({ door: row.door, doorGroup: row.doorGroup, area: row.area }) as GrantTarget;
          if (this.covers(target).length === 0) continue;
          if ((row.actions ?? []).length > 0 || (schedule !== undefined && schedule !== row.schedule)) impossible = true;
          fall(target, row.schedule);
        }
      if (open.doorGroup !== undefined) {
        const group = this.d.doorGroups?.find(({ id }) => id === open.doorGroup);
        for (const door of group?.doors ?? []) fall({ door }, schedule);
        for (const doorGroup of group?.groups ?? []) fall({ doorGroup }, schedule);
      }
      if (open.area !== undefined) {
        for (const door of this.d.doors ?? []) if (door.area === open.area) fall({ door: door.id }, schedule);
        for (const area of this.d.areas ?? []) if (area.parent === open.area) fall({ area: area.id }, schedule);
      }
    };
    fall(grant.open, grant.schedule);
    return impossible || outside.length === 0 ? undefined : { outside, asked };
  }

  things(): PlanThing[] {
    const { wish, d } = this;
    const things: PlanThing[] = [];
    const add = (options: readonly Option[], isDoor = false): void => void things.push({ options, isDoor });
    const less = (end: number): Loose => defined({ schedule: wish.schedule, until: this.end !== undefined && end > this.end ? wish.until : undefined });
    for (const grant of d.grants ?? []) {
      const isHis = wish.holder.kind === "cardholder" && grant.to.cardholder === wish.holder.id;
      if (!(isHis || this.credentials.includes(grant.to.credential ?? "")) || grant.effect === "block" || this.endOf(grant) <= this.from) continue;
      const doors = this.covers(grant.open);
      if (!doors.some((door) => this.N.has(door))) continue;
      const remove: Step = { order: ["3", "grants", grant.id], list: "grants", do: "remove", key: grant.id };
      const options: Option[] = [[remove]];
      const narrower = less(this.endOf(grant));
      const object = (changes: Loose): Loose => normalObject({ ...(grant as unknown as Loose), ...changes }, "grants");
      if (this.something && (narrower.until !== undefined || (narrower.schedule !== undefined && narrower.schedule !== grant.schedule)))
        options.push([{ ...remove, do: "alter", object: object(narrower) }]);
      const parts = doors.some((door) => this.D.has(door)) && grant.open.door === undefined ? this.parts(grant) : undefined;
      if (parts) {
        const adding = (part: Loose): Step => {
          const { schedule: _, ...bare } = grant as unknown as Loose;
          return {
            order: ["2", grant.id, canonicalJson(part.open), typeof part.schedule === "string" ? part.schedule : ""],
            list: "grants",
            do: "add",
            key: "",
            object: normalObject({ ...bare, ...part }, "grants"),
          };
        };
        const once = (steps: Step[]): Step[] => [...new Map(steps.map((step) => [JSON.stringify(step), step])).values()];
        const outside = parts.outside.map(adding);
        options.push([...once(outside), remove]);
        if (this.something) options.push([...once([...outside, ...parts.asked.map((part) => adding({ ...part, ...narrower }))]), remove]);
      }
      add(options);
    }
    const seen = new Set<string>();
    for (const m of wish.holder.kind === "cardholder" ? (d.memberships ?? []) : []) {
      const key = membershipKey(m);
      if (m.cardholder !== wish.holder.id || seen.has(key) || this.endOf(m) <= this.from) continue;
      const above: string[] = [];
      for (let g: string | undefined = m.group; g !== undefined; g = d.groups?.find(({ id }) => id === g)?.parent) above.push(g);
      const carries = (d.grants ?? []).some(
        (g) => g.effect !== "block" && above.includes(g.to.group ?? "") && this.endOf(g) > this.from && this.covers(g.open).some((door) => this.N.has(door)),
      );
      if (!carries) continue;
      seen.add(key);
      const remove: Step = { order: ["3", "memberships", m.group, m.cardholder, m.from ?? "", m.until ?? ""], list: "memberships", do: "remove", key };
      const options: Option[] = [[remove]];
      if (this.something && this.end !== undefined && this.endOf(m) > this.end)
        options.push([{ ...remove, do: "alter", object: { ...(m as unknown as Loose), until: wish.until } }]);
      add(options);
    }
    const person = wish.holder.kind === "cardholder" ? d.cardholders?.find(({ id }) => id === wish.holder.id) : undefined;
    const siteOf = (door: string): string => this.doorNamed(door).site;
    const sites = person?.override === true ? (d.sites ?? []).map(({ id }) => id) : (person?.override ?? []);
    if (person && [...this.N].some((door) => sites.includes(siteOf(door)))) {
      const alter = (override: readonly string[] | undefined): Step => ({
        order: ["3", "cardholders", person.id],
        list: "cardholders",
        do: "alter",
        key: person.id,
        object: normalObject(defined({ ...person, override }), "cardholders"),
      });
      const left = sites.filter((site) => ![...this.D].map(siteOf).includes(site));
      add([[alter(undefined)], ...(left.length > 0 && left.length < sites.length ? [[alter(left)]] : [])]);
    }
    for (const door of wish.withBlocks ? this.D : []) {
      const to = { [wish.holder.kind]: wish.holder.id };
      const block = (more: Loose, isX: boolean): Step => ({
        order: ["1", door, isX ? "0" : "1"],
        list: "grants",
        do: "add",
        key: "",
        object: { to, open: { door }, effect: "block", ...more },
        ...(isX && { usesX: true }),
      });
      const options: Option[] = [[block({}, false)]];
      if (this.something) {
        const k = d.schedules?.find(({ id }) => id === wish.schedule);
        const x = k && !k.always ? outsideX(d, k.id) : undefined;
        const until = this.end === undefined ? [] : [block({ from: formatInstant({ seconds: this.end * 60, fraction: "" }) }, false)];
        if (x) options.push([{ order: ["0"], list: "schedules", do: "add", key: "", object: x }, block({}, true), ...until]);
        else if ((!k || k.always) && until.length > 0) options.push(until);
      }
      add(options, true);
    }
    return things;
  }

  /** All changes of a plan, in order, with ids. */
  private numbered(plan: readonly (Option | undefined)[]): Step[] {
    const all = plan.flatMap((option) => option ?? []);
    const xs = all.filter(({ list }) => list === "schedules").slice(0, 1);
    const steps = [...xs, ...all.filter(({ list }) => list !== "schedules")].sort((a, b) => {
      for (let i = 0; i < Math.min(a.order.length, b.order.length); i++) {
        const order = compareCodePoints(a.order[i] ?? "", b.order[i] ?? "");
        if (order !== 0) return order;
      }
      return a.order.length - b.order.length;
    });
    const ids = new Set(Object.values(this.d).flatMap((list) => (Array.isArray(list) ? (list as Loose[]).map(({ id }) => id) : [])));
    let [next, x] = [0, ""];
    return steps.map((step) => {
      if (step.do !== "add") return step;
      do next++;
      while (ids.has(`withdrawal-${next}`));
      const id = `withdrawal-${next}`;
      if (step.list === "schedules") x = id;
      return { ...step, key: id, object: { ...step.object, id, ...(step.usesX && { schedule: x }) } };
    });
  }

  private written(steps: readonly Step[]): FacilityChange[] {
    return steps.map((step) => {
      const [group, cardholder, from, until] = step.list === "memberships" ? (JSON.parse(step.key) as string[]) : [];
      const about =
        step.list === "memberships" ? { membership: { group, cardholder, ...(from !== "" && { from }), ...(until !== "" && { until }) } } : { id: step.key };
      return { do: step.do, list: step.list, ...about, ...(step.object && { object: step.object }) } as FacilityChange;
    });
  }

  /** How many plans there are. */
  get plans(): number {
    return this.D.size === 0 ? 1 : this.things().reduce((product, { options }) => product * (options.length + 1), 1);
  }

  /** The cost of a plan; undefined where it is not right. */
  private cost(steps: readonly Step[], blocked: number): number[] | undefined {
    const was = this.openings(this.d);
    const [credentials, doors] = [(this.d.credentials ?? []).map(({ id }) => id), (this.d.doors ?? []).map(({ id }) => id)];
    let is = was;
    for (let count = 1; count <= steps.length; count++) {
      is = this.openings(carry(this.d, steps.slice(0, count)));
      for (const c of credentials)
        for (const door of doors) for (const m of modes.keys()) if (subtract(is(m, c, door), was(m, c, door)).length > 0) return undefined;
    }
    for (const c of this.credentials)
      for (const door of this.D) for (const m of modes.keys()) if (subtract(is(m, c, door), this.mayStay(door)).length > 0) return undefined;
    const together = (open: typeof was, of: readonly string[], door: string): IntervalSet =>
      of.reduce<IntervalSet>((set, c) => union(set, open(0, c, door)), []);
    let [others, taken] = [0, 0];
    const holders = new Map<string, string[]>();
    for (const c of this.d.credentials ?? [])
      if (!this.credentials.includes(c.id)) holders.set(c.cardholder ?? `- ${c.id}`, [...(holders.get(c.cardholder ?? `- ${c.id}`) ?? []), c.id]);
    for (const door of doors) {
      for (const of of holders.values()) others += totalMinutes(subtract(together(was, of, door), together(is, of, door)));
      const lost = subtract(together(was, this.credentials, door), together(is, this.credentials, door));
      taken += totalMinutes(this.wish.doors.includes(door) ? intersect(lost, this.mayStay(door)) : lost);
    }
    return [others, taken, blocked, steps.length];
  }

  /** The changes of the best of all plans; undefined where none is right. */
  best(): FacilityChange[] | undefined {
    if (this.D.size === 0) return [];
    const things = this.things();
    let best: { readonly cost: readonly number[]; readonly text: string; readonly changes: FacilityChange[] } | undefined;
    for (let number = 0; number < this.plans; number++) {
      let rest = number;
      const chosen = things.map(({ options, isDoor }) => {
        const choice = rest % (options.length + 1);
        rest = Math.floor(rest / (options.length + 1));
        return { option: choice === 0 ? undefined : options[choice - 1], blocks: choice > 0 && isDoor };
      });
      const steps = this.numbered(chosen.map(({ option }) => option));
      const cost = this.cost(steps, chosen.filter(({ blocks }) => blocks).length);
      if (!cost) continue;
      const changes = this.written(steps);
      const text = canonicalJson(changes);
      const order = best
        ? (cost.map((part, i) => part - (best?.cost[i] ?? 0)).find((difference) => difference !== 0) ?? compareCodePoints(text, best.text))
        : -1;
      if (order < 0) best = { cost, text, changes };
    }
    return best?.changes;
  }
}

export const judgeWithdrawal = (draft: FacilityDocument, wish: JudgedWish): WithdrawalJudge => new WithdrawalJudge(draft, wish);

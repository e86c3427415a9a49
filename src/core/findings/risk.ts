import type { Position } from "../compile/position-index";
import { greatest } from "../kernel/compare";
import { required } from "../kernel/invariant";
import { minutesAWeek } from "../paths/timeframe";
import { minutesADay } from "../time/civil-day";
import { subtract, totalMinutes } from "../time/intervals";
import { BusinessWeeks } from "./business-hours";
import { doorsOfGroups } from "./covered-doors";
import { remembered } from "../kernel/remembered";
import type { Judged } from "./judged";
import type { Flag, Subject } from "./flag";
import { own, usualWeights } from "./settings";

/** The sum that a risk is, at most 100, and its terms. Source: `findings.md`, 6. */
export interface Risk {
  readonly sum: number;
  readonly base: number;
  readonly sensitivity: number;
  readonly outOfHours: number;
  readonly weeklyHours: number;
  readonly standing: number;
}

/** A risk, and what its terms are for: sensitivity 0 to 3, minutes of the ordinary week, those out of hours, and minutes that it has stood. */
export interface Weighed {
  readonly risk: Risk;
  readonly of: { readonly sensitivity: number; readonly minutes: number; readonly outOfHours: number; readonly standing: number };
}

interface WeeklyReach {
  readonly sensitivity: number;
  readonly minutes: number;
  readonly outOfHours: number;
}

const longStanding = 365 * minutesADay;

/** To the nearest whole number, half upwards; of whole numbers, so that nothing is lost. */
const rounded = (a: number, b: number): number => (b === 0 ? 0 : Math.floor((2 * a + b) / (2 * b)));

/** Weighs what rules flag. Cost: the doors of each combination of rows once. */
export class RiskScale {
  private readonly weights: typeof usualWeights;
  private readonly sites: readonly string[];
  /** Index d: the place of the site of door d among the sites, and its sensitivity. */
  private readonly siteOfDoor: Int32Array;
  private readonly sensitivityOfDoor: Uint8Array;
  private readonly businessWeeks: BusinessWeeks;

  constructor(private readonly judged: Judged) {
    const { sensitivity, outOfHours, weeklyHours, standing } = { ...usualWeights, ...judged.settings.weights };
    this.weights = { sensitivity, outOfHours, weeklyHours, standing };
    this.businessWeeks = new BusinessWeeks(judged.compiled, judged.businessOf, judged.asOf);
    this.sites = judged.facility.sites.map(({ id }) => id);
    const places = new Map(this.sites.map((site, i) => [site, i]));
    this.siteOfDoor = Int32Array.from(judged.compiled.doors, ({ door }) => places.get(door.site) ?? 0);
    this.sensitivityOfDoor = Uint8Array.from(judged.compiled.doors, ({ position }) => judged.sensitivityOf(position));
  }

  private last: { readonly key: string; readonly flag: Pick<Flag, "subject" | "since">; readonly weighed: Weighed } | undefined;

  /** The risk of a flag. What one rule flags of one subject, told by one object, weighs the same. */
  weigh(rule: { readonly key: string; readonly base: number }, flag: Flag): Weighed {
    const { last } = this;
    if (last?.key === rule.key && last.flag.subject === flag.subject && last.flag.since === flag.since) return last.weighed;
    const weighed = this.weighAnew(rule, flag);
    this.last = { key: rule.key, flag, weighed };
    return weighed;
  }

  private weighAnew(rule: { readonly key: string; readonly base: number }, { subject, since }: Flag): Weighed {
    const { judged, weights } = this;
    const week = this.reachOfSubject(subject);
    const sensitivity = this.sensitivityOf(subject, week);
    const standing = since === undefined ? 0 : Math.min(Math.max(0, judged.asOf - since), longStanding);
    const terms = {
      base: own(judged.settings.weights?.base, rule.key) ?? rule.base,
      sensitivity: rounded(weights.sensitivity * sensitivity, 3),
      outOfHours: rounded(weights.outOfHours * week.outOfHours, week.minutes),
      weeklyHours: rounded(weights.weeklyHours * week.minutes, minutesAWeek),
      standing: rounded(weights.standing * standing, longStanding),
    };
    const sum = Math.min(
      100,
      Object.values(terms).reduce((total, points) => total + points, 0),
    );
    return { risk: { sum, ...terms }, of: { sensitivity, minutes: week.minutes, outOfHours: week.outOfHours, standing } };
  }

  private credentialsConcerned({ kind, id }: Subject): readonly Position[] {
    const { compiled, lives } = this.judged;
    if (kind === "credential") return [required(compiled.credentialById.get(id), "subjects are in the register")];
    if (kind !== "cardholder") return [];
    const all = lives.credentialsOf(required(compiled.cardholderById.get(id), "subjects are in the register"));
    const active = all.filter((credential) => lives.isMarkedActive(credential));
    return active.length > 0 ? active : all;
  }

  private sensitivityOf({ kind, id }: Subject, week: WeeklyReach): number {
    const { judged } = this;
    const { compiled } = judged;
    const mostSensitive = (doors: Iterable<Position>): number =>
      greatest(
        Array.from(doors, (door) => judged.sensitivityOf(door)),
        0,
      );
    switch (kind) {
      case "cardholder":
      case "credential":
        return week.sensitivity;
      case "door":
        return mostSensitive([compiled.doorById.get(id) ?? -1]);
      case "area":
        return Math.max(0, ...judged.chainOfArea(compiled.indexes.of("areas").get(id) ?? -1).map((area) => judged.area(area).sensitivity ?? 0));
      case "level":
        return mostSensitive(compiled.cover({ level: id }).keys());
      case "bundle":
        return mostSensitive(compiled.cover({ bundle: id }).keys());
      case "group":
        return mostSensitive(this.doorsOfGroups("all")(compiled.groupById.get(id) ?? -1).doors);
      default:
        return 0;
    }
  }

  private readonly doorsOfGroups = remembered((_: "all") => doorsOfGroups(this.judged));

  private readonly reaches = remembered((key: string): WeeklyReach => {
    const { rows, timelines } = this.judged.week;
    const bySite = new Int32Array(this.sites.length);
    let sensitivity = 0;
    for (const row of key === "" ? [] : key.split(" ").map(Number))
      for (let i = rows.start(row), end = rows.end(row); i < end; i++) {
        const door = rows.doors[i] as Position;
        sensitivity = Math.max(sensitivity, this.sensitivityOfDoor[door] as number);
        const site = this.siteOfDoor[door] as number;
        bySite[site] = timelines.union(bySite[site] as number, rows.times[i] as number);
      }
    let [all, unusual] = [0, 0];
    bySite.forEach((timeline, site) => {
      if (timeline === 0) return;
      all = timelines.union(all, timeline);
      unusual = timelines.union(unusual, this.outsideBusiness(site, timeline));
    });
    return { sensitivity, minutes: totalMinutes(timelines.set(all)), outOfHours: totalMinutes(timelines.set(unusual)) };
  });

  private readonly unusual = new Map<number, Map<number, number>>();

  /** What of a timeline of an ordinary week lies outside the business hours of a site. */
  private outsideBusiness(site: number, timeline: number): number {
    const { timelines } = this.judged.week;
    const ofSite = this.unusual.get(site) ?? new Map<number, number>();
    this.unusual.set(site, ofSite);
    let outside = ofSite.get(timeline);
    if (outside === undefined)
      ofSite.set(timeline, (outside = timelines.number(subtract(timelines.set(timeline), this.businessWeeks.ofSite(this.sites[site] ?? "")))));
    return outside;
  }

  private readonly reachBySubject = new Map<string, WeeklyReach>();

  private reachOfSubject(subject: Subject): WeeklyReach {
    const key = `${subject.kind} ${subject.id}`;
    let reach = this.reachBySubject.get(key);
    if (!reach) this.reachBySubject.set(key, (reach = this.reachOf(this.credentialsConcerned(subject))));
    return reach;
  }

  private reachOf(credentials: readonly Position[]): WeeklyReach {
    const { rowOfCredential } = this.judged.week;
    const rows = [...new Set(credentials.map((credential) => rowOfCredential[credential] as number))].filter((row) => row !== 0).sort((a, b) => a - b);
    return this.reaches(rows.join(" "));
  }
}

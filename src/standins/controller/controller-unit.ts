import { createHash, randomUUID } from "node:crypto";
import { closeSync, existsSync, fsyncSync, mkdirSync, openSync, readFileSync, renameSync, truncateSync, writeFileSync } from "node:fs";
import path from "node:path";
import { decideAtUnit, ReadyMemory } from "@/core/units/decide-at-unit";
import type { Presented } from "@/core/units/decide-at-unit";
import { ChangingMemory, memoryText } from "@/core/units/memory-changes";
import type { UnitChange } from "@/core/units/memory-changes";
import { emptyMemory } from "@/core/units/unit-memory";
import type { UnitLimits, UnitMemory } from "@/core/units/unit-memory";
import { unitFormat } from "@/core/units/unit-protocol";
import type { MemoryPage, MemoryPart, UnitChanges, UnitEvent, UnitEvents, UnitStatus, UnitUpdate } from "@/core/units/unit-protocol";
import type { EpochMinute } from "@/core/time/instant";
import { localDateText, zoneOf } from "@/core/time/zone";
import type { Treatment } from "./unit-requests";

/** A request that a unit cannot do, with the status of HTTP that says so. */
export class UnitRefusal extends Error {
  constructor(
    readonly status: 400 | 404 | 409,
    message: string,
    readonly done?: number,
  ) {
    super(message);
  }
}

/** What a unit keeps besides its memory and its events. */
interface State {
  readonly run: string;
  limits: UnitLimits;
  update: UnitUpdate | undefined;
  lockdown: boolean;
  acknowledged: number;
  isOffline: boolean;
  format: string;
  /** The clock shows `shown` at `since`, both milliseconds since 1970, and goes wrong by `drift` seconds a day from there. */
  clock: { readonly shown: number; readonly since: number; readonly drift: number };
  pace: number;
  passback: boolean;
  /** In which area each card was last, and on which date each door was set free by the first to come in. */
  inside: Record<string, string>;
  firstInOn: Record<string, string>;
}

const dayMs = 86_400_000;
const usualPace = 200;
/** Steps of an update since the memory was written whole. */
const journal = "steps.jsonl";
const sumOf = (memory: UnitMemory): string => createHash("sha256").update(memoryText(memory)).digest("hex");

/** Writes a file so that after a fall it is the old one or the new one, and on the disk. */
function writeWhole(file: string, text: string): void {
  const part = `${file}.part`;
  const open = openSync(part, "w", 0o600);
  writeFileSync(open, text);
  fsyncSync(open);
  closeSync(open);
  renameSync(part, file);
}

/** Adds lines of JSON to a file; they are on the disk when it comes back. */
function appendLines(file: string, lines: readonly object[]): void {
  const open = openSync(file, "a", 0o600);
  writeFileSync(open, lines.map((line) => `${JSON.stringify(line)}\n`).join(""));
  fsyncSync(open);
  closeSync(open);
}

/** Reads lines of JSON; a last line that was cut off is taken off the file. */
function readLines<Line>(file: string): Line[] {
  if (!existsSync(file)) return [];
  const text = readFileSync(file, "utf8");
  const whole = text.slice(0, text.lastIndexOf("\n") + 1);
  if (whole.length < text.length) truncateSync(file, Buffer.byteLength(whole));
  return whole
    .split("\n")
    .filter((line) => line !== "")
    .map((line) => JSON.parse(line) as Line);
}

/**
 * One stand-in controller: it keeps what it was sent in a folder of its own, decides by that and its own clock alone, and keeps every event until somebody
 * acknowledges it. Whatever it has answered survives its being killed.
 */
export class ControllerUnit {
  private memory: ChangingMemory;
  /** What follows from the memory, until it changes. */
  private known: { readonly memory: UnitMemory; readonly ready: ReadyMemory; readonly sum: string } | undefined;
  private state: State;
  private events: UnitEvent[];
  private last: number;

  constructor(
    readonly id: string,
    private readonly folder: string,
    first: { readonly limits: UnitLimits; readonly memory?: UnitMemory; readonly isOffline?: boolean; readonly clockOff?: number; readonly drift?: number },
    private readonly now: () => number = Date.now,
  ) {
    mkdirSync(folder, { recursive: true, mode: 0o700 });
    this.memory = new ChangingMemory(this.kept("memory.json", first.memory ?? emptyMemory));
    for (const change of readLines<UnitChange>(this.file(journal))) this.memory.do(change);
    this.state = this.kept<State>("state.json", {
      run: randomUUID(),
      limits: first.limits,
      update: undefined,
      lockdown: false,
      acknowledged: 0,
      isOffline: first.isOffline ?? false,
      format: unitFormat,
      clock: { shown: now() + (first.clockOff ?? 0) * 1000, since: now(), drift: first.drift ?? 0 },
      pace: usualPace,
      passback: false,
      inside: {},
      firstInOn: {},
    });
    if (!existsSync(this.file("memory.json"))) writeWhole(this.file("memory.json"), JSON.stringify(this.memory.memory()));
    this.keepState();
    const events = readLines<UnitEvent>(this.file("events.jsonl"));
    this.last = Math.max(this.state.acknowledged, events[events.length - 1]?.number ?? 0);
    this.events = events.filter(({ number }) => number > this.state.acknowledged);
  }

  private file(name: string): string {
    return path.join(this.folder, name);
  }

  private kept<T>(name: string, otherwise: T): T {
    return existsSync(this.file(name)) ? (JSON.parse(readFileSync(this.file(name), "utf8")) as T) : otherwise;
  }

  private get held(): { readonly memory: UnitMemory; readonly ready: ReadyMemory; readonly sum: string } {
    if (!this.known) {
      const memory = this.memory.memory();
      this.known = { memory, ready: new ReadyMemory(memory), sum: sumOf(memory) };
    }
    return this.known;
  }

  private keepState(): void {
    writeWhole(this.file("state.json"), JSON.stringify(this.state));
  }

  get isOffline(): boolean {
    return this.state.isOffline;
  }

  /** What its clock shows, in milliseconds since 1970. */
  clock(): number {
    const { shown, since, drift } = this.state.clock;
    const gone = this.now() - since;
    return Math.round(shown + gone + (gone / dayMs) * drift * 1000);
  }

  status(): UnitStatus {
    const { format, limits, update, lockdown, run, acknowledged } = this.state;
    const clock = `${new Date(this.clock()).toISOString().slice(0, 19)}Z`;
    return { format, id: this.id, clock, limits, sum: this.held.sum, ...(update && { update }), lockdown, run, last: this.last, acknowledged };
  }

  setClock(at: string): void {
    this.state.clock = { shown: Date.parse(at), since: this.now(), drift: this.state.clock.drift };
    this.keepState();
  }

  setLockdown(raised: boolean): void {
    this.state.lockdown = raised;
    this.keepState();
  }

  treat({ isOffline, format, clockOff, drift, pace, limits, passback }: Treatment): void {
    const { state } = this;
    if (clockOff !== undefined || drift !== undefined)
      state.clock = { shown: this.clock() + (clockOff ?? 0) * 1000, since: this.now(), drift: drift ?? state.clock.drift };
    if (isOffline !== undefined) state.isOffline = isOffline;
    if (format !== undefined) state.format = format;
    if (pace !== undefined) state.pace = pace;
    if (limits !== undefined) state.limits = limits;
    if (passback !== undefined) state.passback = passback;
    this.keepState();
  }

  /** Does the next steps of an update, as many as it does at once; says how many are done. What does not fit is refused, and what was done before it stays. */
  change({ update, from, changes }: UnitChanges): { readonly done: number } {
    const { state } = this;
    const done = state.update?.sum === update.sum && state.update.of === update.of ? state.update.done : 0;
    if (from > done) throw new UnitRefusal(409, `Step ${from} came before step ${done}.`, done);
    const next = changes.slice(0, state.pace);
    const now = this.memory.copy();
    for (const change of next) now.do(change);
    const room = now.roomTaken();
    for (const [limit, taken] of Object.entries(room)) {
      const most = state.limits[limit as keyof typeof room];
      if (most !== undefined && taken > most) throw new UnitRefusal(409, `There is room for ${most} (${limit}), and this would take ${taken}.`, done);
    }
    this.memory = now;
    this.known = undefined;
    // Steps may be done twice: it is what they do that has to be on the disk first.
    appendLines(this.file(journal), next);
    state.update = { ...update, done: Math.max(done, from + next.length) };
    if (state.update.done >= update.of) {
      writeWhole(this.file("memory.json"), JSON.stringify(this.held.memory));
      writeWhole(this.file(journal), "");
    }
    this.keepState();
    return { done: state.update.done };
  }

  /** A page of one part of what it holds, behind an id or a date. */
  page(part: MemoryPart, after: string | undefined, limit: number): MemoryPage {
    const keyOf = (item: (typeof items)[number]): string => String("date" in item ? item.date : item.id);
    const items: readonly UnitMemory[MemoryPart][number][] = this.held.memory[part];
    const start = after === undefined ? 0 : items.findIndex((item) => keyOf(item) === after) + 1;
    if (after !== undefined && start === 0) throw new UnitRefusal(404, `“${after}” is not among the ${part} any more.`);
    return { sum: this.held.sum, items: items.slice(start, start + limit), more: items.length > start + limit };
  }

  eventsAfter(number: number, limit: number): UnitEvents {
    const those = this.events.filter((event) => event.number > number);
    return { run: this.state.run, events: those.slice(0, limit), more: those.length > limit };
  }

  /** Lets go of events that somebody has kept. */
  acknowledge(run: string, through: number): void {
    if (run !== this.state.run) throw new UnitRefusal(409, "These events are of another run.");
    if (through > this.last) throw new UnitRefusal(409, `Event ${through} has not happened; the last is ${this.last}.`);
    if (through <= this.state.acknowledged) return;
    this.state.acknowledged = through;
    this.keepState();
    this.events = this.events.filter((event) => event.number > through);
    writeWhole(this.file("events.jsonl"), this.events.map((event) => `${JSON.stringify(event)}\n`).join(""));
  }

  /** Decides on what is presented at one of its doors; the event is on the disk before the door opens. */
  present(presented: Presented): UnitEvent {
    const minute = Math.floor(this.clock() / 60_000) as EpochMinute;
    const decision = decideAtUnit(this.held.ready, presented, minute, this.state.lockdown);
    const door = this.held.ready.doors.get(presented.door);
    const { card } = decision;
    let { granted, reason }: { granted: boolean; reason: string } = decision;
    if (granted && card && door) {
      if (this.state.passback && !card.passbackExempt && door.area !== undefined && door.area !== door.from) {
        if (this.state.inside[card.id] === door.area) [granted, reason] = [false, "passback"];
      }
      if (granted) {
        if (door.area !== undefined) this.state.inside[card.id] = door.area;
        else delete this.state.inside[card.id];
        if (card.firstIn && door.needsFirstIn) this.state.firstInOn[door.id] = localDateText(zoneOf(door.timeZone), minute);
        this.keepState();
      }
    }
    if (granted && decision.isDuress) reason = "duress";
    return this.told({
      door: presented.door,
      ...((card?.id ?? presented.card) !== undefined && { card: card?.id ?? presented.card }),
      ...(presented.number !== undefined && { cardNumber: presented.number }),
      ...(presented.facilityCode !== undefined && { facilityCode: presented.facilityCode }),
      granted,
      reason,
    });
  }

  /** Whether a door stands open to anybody now; one that waits for the first to come in does so only after that. */
  standsFree(id: string): boolean {
    const door = this.held.ready.doors.get(id);
    if (!door) return false;
    const zone = zoneOf(door.timeZone);
    const minute = Math.floor(this.clock() / 60_000) as EpochMinute;
    return this.held.ready.isFree(door, zone, minute, this.state.lockdown) && (!door.needsFirstIn || this.state.firstInOn[id] === localDateText(zone, minute));
  }

  /** A door was forced, or held open for too long. */
  happened(door: string, what: "forced" | "held"): UnitEvent {
    if (!this.held.ready.doors.has(door)) throw new UnitRefusal(404, `There is no door “${door}” at this unit.`);
    return this.told({ door, granted: false, reason: what });
  }

  private told(event: Omit<UnitEvent, "number" | "at">): UnitEvent {
    const numbered = { number: this.last + 1, at: `${new Date(this.clock()).toISOString().slice(0, 19)}Z`, ...event };
    appendLines(this.file("events.jsonl"), [numbered]);
    this.last = numbered.number;
    this.events.push(numbered);
    return numbered;
  }
}

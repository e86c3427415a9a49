import type { CompiledFacility } from "../compile/compiled-facility";
import type { Ahead } from "../facility/ahead";
import { aheadOf } from "../facility/ahead";
import { ordinary } from "../paths/paths";
import type { AskingMode } from "../paths/paths";
import { exactTimeframe, ordinaryWeekTimeframe } from "../paths/timeframe";
import type { Timeframe } from "../paths/timeframe";
import type { EpochMinute } from "../time/instant";
import { accessTable } from "./access-table";
import type { AccessTable } from "./access-table";
import { AccessWorld } from "./access-world";
import type { FrozenRows } from "./internal/row-builder";
import type { FrozenTimelines } from "./timelines";

/** Worlds that several registers are laid out in side by side, by the minutes and the mode that they speak of. */
class SharedWorlds {
  private readonly worlds = new Map<string, AccessWorld>();

  of(minutes: string, lockdown: boolean): AccessWorld {
    const key = `${minutes} ${lockdown}`;
    let world = this.worlds.get(key);
    if (!world) this.worlds.set(key, (world = new AccessWorld()));
    return world;
  }
}

/** After so many changed registers beside it the worlds of a register are begun anew: they hold on to the rows and timelines of all of them. */
const besideAWorld = 500;
/** So many spans beyond the horizon, and weeks at other minutes than that of the export, are remembered. */
const spansRemembered = 4;

/**
 * A register and what is asked of it again and again: the minutes from its export on, and who opens what in them, exactly and in an ordinary week, in every
 * way of asking. Each table is laid out when it is first asked for; what they have in common is worked out once, as what is asked as if live has
 * with what is asked as it is.
 */
export class Horizon {
  private worlds = new SharedWorlds();
  private tables = new Map<string, AccessTable>();
  private readonly spans = new Map<string, AccessTable>();
  private laidBeside = 0;

  constructor(
    readonly compiled: CompiledFacility,
    readonly ahead: Ahead = aheadOf(compiled.facility),
  ) {}

  get asOf(): EpochMinute {
    return this.ahead.from;
  }

  /** The minutes ahead, exactly as they will be. */
  timeframe(mode: AskingMode): Timeframe {
    return exactTimeframe(this.compiled, this.ahead.from, this.ahead.to, mode);
  }

  /** Who opens what in the minutes ahead. */
  table(mode: AskingMode): AccessTable {
    return this.known("ahead", mode, () => this.timeframe(mode));
  }

  /** Who opens what in an ordinary week as things stand at the export, or at another minute; of others the last few are remembered. */
  week(mode: AskingMode, at: EpochMinute = this.asOf): AccessTable {
    const timeframe = (): Timeframe => ordinaryWeekTimeframe(this.compiled, at, mode);
    return at === this.asOf ? this.known("week", mode, timeframe) : this.oneOfFew(`week ${at}`, mode, timeframe);
  }

  /** Who opens what from one minute to another beyond those ahead; the last few are remembered. */
  span(from: EpochMinute, to: EpochMinute, mode: AskingMode): AccessTable {
    return this.oneOfFew(`${from} ${to}`, mode, () => exactTimeframe(this.compiled, from, to, mode));
  }

  private oneOfFew(minutes: string, mode: AskingMode, timeframe: () => Timeframe): AccessTable {
    const { spans } = this;
    const key = `${minutes} ${mode.lockdown} ${mode.asIfLive}`;
    const table = spans.get(key) ?? accessTable(this.compiled, timeframe());
    spans.delete(key);
    spans.set(key, table);
    for (const oldest of spans.keys()) {
      if (spans.size <= spansRemembered) break;
      spans.delete(oldest);
    }
    return table;
  }

  /** Another register over the same minutes, laid out beside this one: rows and timelines that are equal have one number. */
  beside(other: CompiledFacility): Horizon {
    if (++this.laidBeside > besideAWorld) {
      this.worlds = new SharedWorlds();
      this.tables = new Map<string, AccessTable>();
      this.laidBeside = 1;
    }
    const horizon = new Horizon(other, this.ahead);
    horizon.worlds = this.worlds;
    return horizon;
  }

  private known(minutes: "ahead" | "week", mode: AskingMode, timeframe: () => Timeframe): AccessTable {
    const key = `${minutes} ${mode.lockdown} ${mode.asIfLive}`;
    let table = this.tables.get(key);
    if (!table) {
      // The rows of credentials are the same whether they are read as they are or as if live.
      const other = this.tables.get(`${minutes} ${mode.lockdown} ${!mode.asIfLive}`);
      table = accessTable(this.compiled, timeframe(), this.worlds.of(minutes, mode.lockdown), other?.rowOfCredential);
      this.tables.set(key, table);
    }
    return table;
  }

  /** Who opens what in the minutes ahead, to be kept outside; undefined where these are too many for the numbers that it is kept in. */
  freeze(): FrozenHorizon | undefined {
    const { from, to } = this.ahead;
    if (to - from > 0x7fffffff) return undefined;
    const { rowOfCredential } = this.table(ordinary);
    const world = this.worlds.of("ahead", false);
    return { timelines: world.timelines.freeze(from), rows: world.layoutOf(this.compiled.facility).rows.freeze(), rowOfCredential };
  }

  /** The horizon of a register with what was kept outside of it: it is not worked out again. Promises that it was kept of this register, by this program. */
  static thaw(compiled: CompiledFacility, { timelines, rows, rowOfCredential }: FrozenHorizon): Horizon {
    const horizon = new Horizon(compiled);
    const world = horizon.worlds.of("ahead", false);
    world.timelines.thaw(timelines);
    world.layoutOf(compiled.facility).rows.thaw(rows);
    horizon.tables.set("ahead false false", accessTable(compiled, horizon.timeframe(ordinary), world, rowOfCredential));
    return horizon;
  }
}

/** Who opens what in the minutes ahead of a register, as it is kept outside. */
export interface FrozenHorizon {
  readonly timelines: FrozenTimelines;
  readonly rows: FrozenRows;
  /** Index i: the row of credential i. */
  readonly rowOfCredential: Int32Array;
}

const horizons = new WeakMap<CompiledFacility, Horizon>();

/** Takes it that this is the horizon of its register from now on. */
export function keepHorizon(horizon: Horizon): void {
  horizons.set(horizon.compiled, horizon);
}

/** The one horizon of a register, 13 months from its export on; it lives as long as the register does. */
export function horizonOf(compiled: CompiledFacility): Horizon {
  let horizon = horizons.get(compiled);
  if (!horizon) horizons.set(compiled, (horizon = new Horizon(compiled)));
  return horizon;
}

import { groupBy } from "@/core/kernel/compare";
import { required } from "@/core/kernel/invariant";
import type { Position } from "@/core/compile/position-index";
import type { HolderNumber } from "@/core/questions/asked-people";
import { askedPeople } from "@/core/questions/asked-people";
import { formOf } from "@/core/questions/answer-form";
import type { Openings } from "@/core/questions/openings";
import type { RowNumber } from "@/core/table/access-rows";
import type { InquiryContext } from "./inquiry-context";

/** What a row of an answer stands for: a holder and the doors that they open, or a door and those who open it. */
export interface OpenedPair {
  readonly holders: readonly HolderNumber[];
  readonly doors: readonly Position[];
}

export interface OpenedPairs {
  readonly by: "people" | "doors";
  /** Who was asked about. */
  readonly holders: readonly HolderNumber[];
  readonly askedDoors: number;
  /** What opens at the asked time. */
  readonly awake: readonly OpenedPair[];
  /**
   * What opens then only if cards were made active that are not: holders, or doors, of which nothing opens otherwise; where it is asked as if live, all of
   * what does not open otherwise.
   */
  readonly asleep: readonly OpenedPair[];
}

/** Who opens, each with the doors. */
function byPeople(context: InquiryContext, holders: readonly HolderNumber[]): Pick<OpenedPairs, "awake" | "asleep"> {
  const [live, woken] = [context.openings(false), context.openings(true)];
  const awake: OpenedPair[] = [];
  const asleep: OpenedPair[] = [];
  for (const holder of holders) {
    const doors = live.doorsOf(live.rowOf(holder));
    if (doors.length > 0) awake.push({ holders: [holder], doors });
    if (doors.length > 0 && !context.inquiry.asIfLive) continue;
    const all = woken.doorsOf(woken.rowOf(holder));
    const others = doors.length === 0 ? all : all.filter((door) => !live.opensAt(live.rowOf(holder), door));
    if (others.length > 0) asleep.push({ holders: [holder], doors: others });
  }
  return { awake, asleep };
}

/** A door and those who open it, looked for when somebody asks for them: thousands may, at thousands of doors. */
class OpenedDoor implements OpenedPair {
  readonly doors: readonly Position[];
  private found: readonly HolderNumber[] | undefined;

  constructor(
    private readonly openings: Openings,
    private readonly byRow: ReadonlyMap<RowNumber, readonly HolderNumber[]>,
    private readonly door: Position,
  ) {
    this.doors = [door];
  }

  get holders(): readonly HolderNumber[] {
    return (this.found ??= [...this.byRow].flatMap(([row, holders]) => (this.openings.opensAt(row, this.door) ? holders : [])));
  }
}

/** The doors that open for somebody as if every card were live who does not open them otherwise, each with these. */
function onlyAsIfLive(context: InquiryContext, holders: readonly HolderNumber[]): OpenedPair[] {
  const [live, woken] = [context.openings(false), context.openings(true)];
  const byRows = groupBy(holders, (holder) => `${live.rowOf(holder)} ${woken.rowOf(holder)}`);
  const byDoor = new Map<Position, HolderNumber[]>();
  for (const alike of byRows.values()) {
    const first = required(alike[0], "groups are not empty");
    for (const door of woken.doorsOf(woken.rowOf(first))) {
      if (live.opensAt(live.rowOf(first), door)) continue;
      const known = byDoor.get(door);
      if (known) for (const holder of alike) known.push(holder);
      else byDoor.set(door, [...alike]);
    }
  }
  return [...byDoor].sort(([a], [b]) => a - b).map(([door, own]) => ({ holders: own, doors: [door] }));
}

/** All that a question asks for: what opens, and where it is asked as if live what then would, holders and doors that are among both once. */
export function allOpened(context: InquiryContext): Pick<OpenedPairs, "by"> & { readonly pairs: readonly OpenedPair[] } {
  const { by, awake, asleep } = openedPairs(context);
  if (!context.inquiry.asIfLive) return { by, pairs: awake };
  const merged = groupBy([...awake, ...asleep], ({ holders, doors }) => (by === "doors" ? doors[0] : holders[0]));
  return {
    by,
    pairs: [...merged.values()].map((parts) => ({
      holders: by === "doors" ? parts.flatMap(({ holders }) => holders) : (parts[0]?.holders ?? []),
      doors: by === "doors" ? (parts[0]?.doors ?? []) : parts.flatMap(({ doors }) => doors),
    })),
  };
}

/** What opens, each door with those who open it. Cost: the entries of the distinct rows, and the answer. */
function byDoors(context: InquiryContext, holders: readonly HolderNumber[]): Pick<OpenedPairs, "awake" | "asleep"> {
  const opened = (asIfLive: boolean, but?: Uint8Array) => {
    const openings = context.openings(asIfLive);
    const byRow = groupBy(holders, (holder) => openings.rowOf(holder));
    // Index d: 1 where somebody opens door d.
    const isOpened = new Uint8Array(context.compiled.doors.length);
    for (const row of byRow.keys()) for (const door of openings.doorsOf(row)) isOpened[door] = 1;
    const pairs: OpenedPair[] = [];
    for (let door = 0; door < isOpened.length; door++) if (isOpened[door] === 1 && but?.[door] !== 1) pairs.push(new OpenedDoor(openings, byRow, door));
    return { isOpened, pairs };
  };
  const { isOpened, pairs } = opened(false);
  return { awake: pairs, asleep: context.inquiry.asIfLive ? onlyAsIfLive(context, holders) : opened(true, isOpened).pairs };
}

/** What opens of all that a question is about, at the asked time. */
export function openedPairs(context: InquiryContext): OpenedPairs {
  const { compiled, inquiry, doors } = context;
  const holders = askedPeople(compiled, inquiry.who, context.since);
  const form = formOf(inquiry);
  const by = form === "verdict" || form === "doors" ? "doors" : "people";
  return {
    by,
    holders,
    askedDoors: (doors ?? compiled.doors).length,
    ...(by === "doors" ? byDoors(context, holders) : byPeople(context, holders)),
  };
}

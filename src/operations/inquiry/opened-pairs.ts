import type { Position } from "@/core/compile/position-index";
import type { HolderNumber } from "@/core/questions/asked-people";
import { askedPeople } from "@/core/questions/asked-people";
import { formOf } from "@/core/questions/answer-form";
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
  /** What opens then only if cards were made active that are not: holders, or doors, of which nothing opens otherwise. */
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
    else {
      const others = woken.doorsOf(woken.rowOf(holder));
      if (others.length > 0) asleep.push({ holders: [holder], doors: others });
    }
  }
  return { awake, asleep };
}

/** What opens, each door with those who open it. Cost: the entries of the distinct rows, and the answer. */
function byDoors(context: InquiryContext, holders: readonly HolderNumber[]): Pick<OpenedPairs, "awake" | "asleep"> {
  const openers = (asIfLive: boolean): Map<Position, HolderNumber[][]> => {
    const openings = context.openings(asIfLive);
    const holdersOfRow = new Map<RowNumber, HolderNumber[]>();
    for (const holder of holders) {
      const row = openings.rowOf(holder);
      const same = holdersOfRow.get(row);
      if (same) same.push(holder);
      else holdersOfRow.set(row, [holder]);
    }
    const found = new Map<Position, HolderNumber[][]>();
    for (const [row, own] of holdersOfRow)
      for (const door of openings.doorsOf(row)) {
        const lists = found.get(door);
        if (lists) lists.push(own);
        else found.set(door, [own]);
      }
    return found;
  };
  const live = openers(false);
  const pairs = (found: ReadonlyMap<Position, HolderNumber[][]>): OpenedPair[] => [...found].map(([door, lists]) => new OpenedDoor(lists, door));
  return { awake: pairs(live), asleep: pairs(openers(true)).filter(({ doors }) => !live.has(doors[0] as Position)) };
}

/** A door and those who open it, listed when somebody asks for them: thousands may, at thousands of doors. */
class OpenedDoor implements OpenedPair {
  readonly doors: readonly Position[];
  private listed: readonly HolderNumber[] | undefined;

  constructor(
    private readonly lists: readonly (readonly HolderNumber[])[],
    door: Position,
  ) {
    this.doors = [door];
  }

  get holders(): readonly HolderNumber[] {
    return (this.listed ??= this.lists.flat());
  }
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

import { compareCodePoints } from "../../kernel/compare";

/** Which option is chosen for each object, in order: 0 leaves it as it is. */
export type Choice = Uint8Array;

/** What a right plan costs, in the order in which it counts: the least is the best. */
export interface PlanCost {
  /** Minutes taken from others. */
  readonly others: number;
  /** Minutes taken from the holder that nobody wanted to take. */
  readonly taken: number;
  readonly blockedDoors: number;
  readonly changes: number;
}

export interface PlanSpace {
  /** How many options each object has, beside being left as it is. */
  readonly options: readonly number[];
  /** For objects of which options may open something elsewhere; the others are safe to take away. */
  readonly mayOpen: readonly boolean[];
  /** Objects of which an option is a door's block. */
  readonly isBlock: readonly boolean[];
  /** The cost of a plan; undefined where it is not right. */
  readonly costOf: (choice: Choice) => PlanCost | undefined;
  /** Tells plans of the same cost apart: the first by code points is the better. */
  readonly textOf: (choice: Choice) => string;
}

export interface FoundPlan {
  readonly choice: Choice;
  readonly cost: PlanCost;
}

export interface PlanSearch {
  readonly searched: "all" | "greedily" | "none";
  readonly best: FoundPlan | undefined;
  /** The best plan if fewer blocked doors mattered more than what the holder loses, where that is another one. */
  readonly alternative: FoundPlan | undefined;
}

/** Up to so many plans, all are tried. */
const allPlans = 4096;

type Order = (cost: PlanCost) => readonly number[];
const usual: Order = ({ others, taken, blockedDoors, changes }) => [others, taken, blockedDoors, changes];
const fewerBlocks: Order = ({ others, taken, blockedDoors, changes }) => [others, blockedDoors, taken, changes];

function compareCosts(a: PlanCost, b: PlanCost, order: Order): number {
  const [x, y] = [order(a), order(b)];
  for (let i = 0; i < x.length; i++) if (x[i] !== y[i]) return (x[i] as number) - (y[i] as number);
  return 0;
}

/** The best of the plans that are offered, in an order of costs. */
class Best {
  found: FoundPlan | undefined;
  private text: string | undefined;

  constructor(
    private readonly space: PlanSpace,
    private readonly order: Order,
  ) {}

  offer(choice: Choice, cost: PlanCost): void {
    const { found, space } = this;
    const compared = found ? compareCosts(cost, found.cost, this.order) : -1;
    if (compared > 0) return;
    let text: string | undefined;
    if (compared === 0 && found) {
      this.text ??= space.textOf(found.choice);
      text = space.textOf(choice);
      if (compareCodePoints(text, this.text) >= 0) return;
    }
    this.found = { choice: choice.slice(), cost };
    this.text = text;
  }
}

/** Every plan of some objects, the others as in `choice`, which is changed in place. */
function* plansOf(options: readonly number[], objects: readonly number[], choice: Choice): Generator<Choice> {
  for (;;) {
    yield choice;
    let i = 0;
    for (; i < objects.length; i++) {
      const object = objects[i] as number;
      const next = (choice[object] as number) + 1;
      choice[object] = next > (options[object] as number) ? 0 : next;
      if (choice[object] !== 0) break;
    }
    if (i === objects.length) return;
  }
}

const productOf = (numbers: readonly number[]): number => numbers.reduce((product, options) => Math.min(product * (options + 1), Number.MAX_SAFE_INTEGER), 1);

function searchAll(space: PlanSpace): PlanSearch {
  const [best, second] = [new Best(space, usual), new Best(space, fewerBlocks)];
  const objects = space.options.map((_, i) => i);
  for (const choice of plansOf(space.options, objects, new Uint8Array(objects.length))) {
    const cost = space.costOf(choice);
    if (!cost) continue;
    best.offer(choice, cost);
    second.offer(choice, cost);
  }
  if (!best.found) return { searched: "none", best: undefined, alternative: undefined };
  const isOther = second.found !== undefined && compareCosts(second.found.cost, best.found.cost, usual) !== 0;
  return { searched: "all", best: best.found, alternative: isOther ? second.found : undefined };
}

/** Plans to begin with: everything taken away, all doors blocked, both. Without a block, also the ways of keeping what would open something elsewhere. */
function* beginnings(space: PlanSpace): Generator<Choice> {
  const { options, isBlock, mayOpen } = space;
  const of = (choose: (object: number) => number): Choice => Uint8Array.from(options, (_, i) => ((options[i] as number) === 0 ? 0 : choose(i)));
  const removal = of((i) => (isBlock[i] ? 0 : 1));
  yield removal;
  if (isBlock.some(Boolean)) {
    yield of((i) => (isBlock[i] ? (options[i] as number) : 0));
    yield of((i) => (isBlock[i] ? 1 : 0));
    yield of((i) => (isBlock[i] ? (options[i] as number) : 1));
    yield of(() => 1);
    return;
  }
  // What cannot open anything is safe to take away, and leaves least open: whether there is a right plan hangs on the others alone.
  const open = options.flatMap((_, i) => (mayOpen[i] ? [i] : []));
  let tried = 0;
  for (const choice of plansOf(options, open, removal.map((option, i) => (mayOpen[i] ? 0 : option)))) {
    if (++tried > allPlans) return;
    yield choice.slice();
  }
}

/** A plan with another option for one object, and its cost; undefined where that is not right. */
function changedAt(space: PlanSpace, { choice }: FoundPlan, object: number, option: number): FoundPlan | undefined {
  const changed = choice.slice();
  changed[object] = option;
  const cost = space.costOf(changed);
  return cost && { choice: changed, cost };
}

/** More passes over all objects than this hardly ever make a plan cheaper. */
const improvingPasses = 20;

/** Makes a right plan cheaper, object by object, as long as that helps; in the end none of its choices can be left out. */
function improved(space: PlanSpace, from: FoundPlan): FoundPlan {
  let best = from;
  for (let pass = 0, isBetter = true; isBetter && pass < improvingPasses; pass++) {
    isBetter = false;
    for (let object = 0; object < space.options.length; object++)
      for (let option = 0; option <= (space.options[object] as number); option++) {
        const other = best.choice[object] === option ? undefined : changedAt(space, best, object, option);
        if (!other || compareCosts(other.cost, best.cost, usual) >= 0) continue;
        best = other;
        isBetter = true;
      }
  }
  // Each turn leaves one choice out, so that there are at most as many turns as choices.
  for (let isShorter = true; isShorter; ) {
    isShorter = false;
    for (let object = 0; object < space.options.length; object++) {
      const shorter = best.choice[object] === 0 ? undefined : changedAt(space, best, object, 0);
      if (!shorter) continue;
      best = shorter;
      isShorter = true;
    }
  }
  return best;
}

/** How many right plans are made cheaper. */
const improvedPlans = 5;

function searchGreedily(space: PlanSpace): PlanSearch {
  const best = new Best(space, usual);
  let right = 0;
  for (const choice of beginnings(space)) {
    const cost = space.costOf(choice);
    if (!cost) continue;
    const found = improved(space, { choice, cost });
    best.offer(found.choice, found.cost);
    if (++right === improvedPlans) break;
  }
  return { searched: best.found ? "greedily" : "none", best: best.found, alternative: undefined };
}

/** The best right plan: of all of them where these are few, else one of which no choice can be left out. */
export const searchPlans = (space: PlanSpace): PlanSearch => (productOf(space.options) <= allPlans ? searchAll(space) : searchGreedily(space));

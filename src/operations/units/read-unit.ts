import { emptyMemory } from "@/core/units/unit-memory";
import type { UnitMemory } from "@/core/units/unit-memory";
import type { MemoryPage, MemoryPages, MemoryPart } from "@/core/units/unit-protocol";
import type { UnitAccess } from "../ports/units";
import type { Services } from "../services";

/** A memory that changes while it is read is read anew, so often. */
const mostReadings = 3;
/** Far more than any small unit holds: who answers on and on is not read on and on. */
const mostItems = 2_000_000;

const keyOf = (item: MemoryPages[MemoryPart]): string => String("date" in item ? item.date : item.id);

async function readPart<Part extends MemoryPart>(
  { unitDriver }: Services,
  unit: UnitAccess,
  part: Part,
  sum: string,
): Promise<readonly MemoryPages[Part][] | undefined> {
  const items: MemoryPages[Part][] = [];
  for (let after: string | undefined; ;) {
    const page: MemoryPage<Part> = await unitDriver.memory(unit, part, after);
    if (page.sum !== sum) return undefined;
    items.push(...page.items);
    const last = page.items[page.items.length - 1];
    if (!page.more || last === undefined) return items;
    if (items.length > mostItems) throw new Error(`It holds more than ${mostItems.toLocaleString("en-GB")} ${part}.`);
    after = keyOf(last);
  }
}

/** What a unit holds now, as it tells it piece by piece; all of it is of one moment. */
export async function readUnit(services: Services, unit: UnitAccess): Promise<{ readonly memory: UnitMemory; readonly sum: string }> {
  for (let reading = 0; reading < mostReadings; reading++) {
    const { sum } = await services.unitDriver.status(unit);
    const read = async <Part extends MemoryPart>(part: Part) => readPart(services, unit, part, sum);
    const doors = await read("doors");
    const dates = doors && (await read("dates"));
    const sets = dates && (await read("sets"));
    const lists = sets && (await read("lists"));
    const cards = lists && (await read("cards"));
    if (cards) return { memory: { ...emptyMemory, doors, dates, sets, lists, cards }, sum };
  }
  throw new Error("What it holds changed again and again while it was read.");
}

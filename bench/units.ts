import { createHash } from "node:crypto";
import type { FacilityDocument } from "@/core/facility/document";
import { compileFacility } from "@/core/compile/compile-facility";
import { Horizon } from "@/core/table/horizon";
import { compareUnit } from "@/core/units/compare-unit";
import { layOutUnit } from "@/core/units/lay-out-unit";
import { changesBetween, ChangingMemory, memoryText } from "@/core/units/memory-changes";
import type { UnitMemory } from "@/core/units/unit-memory";
import { UnitSources } from "@/core/units/unit-sources";
import { readFacility } from "@/intake/formats/facility/read-facility";
import { denseFacility } from "./dense";
import { later } from "./institute";
import { now, timed } from "./measuring";

/**
 * What units at the doors cost: everything laid out for all of them, an intake that changes a hundredth brought to them, and what all of them hold held against
 * the register. Ten doors hang on each unit. Prints a row a line; `PEOPLE DOORS` as arguments, 100,000 and 5,000 without.
 */
const [people = 100_000, doorCount = 5000] = process.argv.slice(2).map(Number);
const doorsAUnit = 10;
const units = Math.ceil(doorCount / doorsAUnit);

const onUnits = (document: FacilityDocument): FacilityDocument => ({
  ...document,
  doors: (document.doors ?? []).map((door, i) => ({ ...door, controller: `unit ${Math.floor(i / doorsAUnit)}` })),
});
const compiledOf = (document: FacilityDocument) => {
  const read = readFacility(JSON.stringify(document));
  if (!read.ok) throw new Error(JSON.stringify(read.error.slice(0, 3)));
  return compileFacility(read.value.facility);
};
const tell = (what: string, ms: number, more = ""): void => console.log(`${what}: ${(ms / 1000).toFixed(2)} s${more === "" ? "" : `; ${more}`}`);

const document = onUnits(denseFacility({ cardholders: people, doors: doorCount, seed: 1 }));
const first = new Horizon(compiledOf(document));
const sources = timed(() => new UnitSources(first));
tell("both tables, and which rows open doors of which unit", sources.ms);

const memories = new Map<string, UnitMemory>();
let cards = 0;
let slowest = 0;
const began = now();
for (const unit of sources.value.doorsOf.keys()) {
  const { ms, value } = timed(() => layOutUnit(sources.value, unit));
  slowest = Math.max(slowest, ms);
  cards += value.cards.length;
  memories.set(unit, value);
}
tell(`laying ${units} units out`, now() - began, `${cards.toLocaleString("en-GB")} cards in all; the slowest ${(slowest / 1000).toFixed(2)} s`);

const compared = timed(() => [...memories].reduce((count, [unit, memory]) => count + compareUnit(sources.value, unit, memory).length, 0));
tell("holding all units against the register they were sent", compared.ms, `${compared.value} differences`);

const changed = onUnits(later(document));
const second = new UnitSources(new Horizon(compiledOf(changed)));
const against = timed(() => [...memories].reduce((count, [unit, memory]) => count + compareUnit(second, unit, memory).length, 0));
tell("holding all units against a register changed since", against.ms, `${against.value.toLocaleString("en-GB")} differences`);

let steps = 0;
const planned = timed(() => {
  for (const [unit, memory] of memories) {
    const wanted = layOutUnit(second, unit, memory);
    const changes = changesBetween(memory, wanted);
    steps += changes.length;
    const changing = new ChangingMemory(memory);
    for (const change of changes) changing.do(change);
    const sums = [changing.memory(), wanted].map((one) => createHash("sha256").update(memoryText(one)).digest("hex"));
    if (sums[0] !== sums[1]) throw new Error(`${unit} would not hold what it should.`);
  }
});
tell("laying them out anew, with the steps that bring each up to date", planned.ms, `${steps.toLocaleString("en-GB")} steps`);

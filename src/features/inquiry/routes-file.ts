import type { RoutesAnswer, RoutesOfOne, RoutesOfSeveral } from "@/operations/inquiry/routes-answer";
import { holderCells, holderColumns, hours } from "./answer-table";
import type { AnswerTable } from "./answer-table";

function ofOne({ holder, end, places }: RoutesOfOne): AnswerTable {
  if (!end)
    return {
      columns: [{ title: "who", width: 30 }, { title: "gets to", width: 30 }, { title: "area id" }, { title: "fewest doors" }, { title: "when", width: 60 }],
      rows: places.map(({ area, name, steps, words }) => [holder.name, name, area, steps, words]),
    };
  const columns = [
    { title: "who", width: 30 },
    { title: "way" },
    { title: "step" },
    { title: "door", width: 30 },
    { title: "door id" },
    { title: "opens" },
    { title: "when all doors of the way can be taken", width: 60 },
  ];
  if (end.shutWay)
    return { columns, rows: end.shutWay.map(({ door, isShut }, i) => [holder.name, 1, i + 1, door.name, door.id, isShut ? "stays shut" : "opens", undefined]) };
  const rows: AnswerTable["rows"] = end.ways.flatMap(({ doors, words }, way) =>
    doors.map((door, i) => [holder.name, way + 1, i + 1, door.name, door.id, "opens", words]),
  );
  // What is not all must not be taken for all.
  return { columns, rows: end.areAll ? rows : [...rows, [holder.name, "more ways than these", undefined, undefined, undefined, undefined, undefined]] };
}

function ofSeveral({ end, places }: RoutesOfSeveral): AnswerTable {
  if (!end)
    return {
      columns: [{ title: "place", width: 30 }, { title: "area id" }, { title: "people and cards" }, { title: "fewest doors" }],
      rows: places.map(({ area, name, holders, steps }) => [name, area, holders, steps]),
    };
  return {
    columns: [...holderColumns, { title: "fewest doors" }, { title: "last door", width: 30 }, { title: "last door id" }, { title: "hours in all" }],
    rows: end.rows.map(({ holder, steps, last, minutes }) => [
      ...holderCells(holder),
      steps,
      last.map(({ name }) => name).join("; "),
      last.map(({ id }) => id).join("; "),
      hours(minutes),
    ]),
  };
}

/** Routes on foot as a table: the ways of one person door by door, who gets there, or the places that are got to. */
export const routesTable = ({ of }: RoutesAnswer): AnswerTable => (of.kind === "one" ? ofOne(of) : ofSeveral(of));

/** How many rows of people or places there are beyond those that are told. */
export const untoldRows = ({ of }: RoutesAnswer): number => (of.kind === "several" && of.end ? of.end.arriving - of.end.rows.length : of.morePlaces);

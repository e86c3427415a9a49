import type { CompiledFacility } from "@/core/compile/compiled-facility";
import type { Position } from "@/core/compile/position-index";
import { required } from "@/core/kernel/invariant";
import { remembered } from "@/core/kernel/remembered";
import { AccessSheet } from "@/core/questions/access-sheet";
import type { SheetAxes, SheetColumn, SheetRow } from "@/core/questions/access-sheet";
import type { HolderNumber } from "@/core/questions/asked-people";
import { askedPeople, bearerOf } from "@/core/questions/asked-people";
import { writeQuestion } from "@/core/questions/question-address";
import type { OpenRegister } from "../register/open-register";
import type { Account } from "../ports/accounts";
import { demand } from "../rights";
import type { Services } from "../services";
import type { Inquiry, RestsOnUses } from "./inquiry";
import { compareNames } from "./compare-names";
import type { InquiryContext } from "./inquiry-context";
import { contextOf, restsOnUses } from "./inquiry-context";
import { namedDoor, namedHolder } from "./inquiry-names";

/** Which part of a sheet is asked for. */
export interface SheetPart {
  readonly row: number;
  readonly column: number;
}

/** What a part of a sheet holds at most, unless something else is asked for. */
const partSize = { rows: 60, columns: 40 };

/** The head of a row or a column: what it is called, what kind of thing it is, and what the question of it asks. */
export interface SheetHead {
  readonly name: string;
  readonly detail: string;
  readonly kind: "cardholder" | "credential" | "group" | "door" | "area" | "none";
  readonly id: string;
  /** How many it stands for. */
  readonly count: number;
}

/** Minutes a week, of these out of hours, how many people, and how many of them only as if live; null where nothing opens. */
export type WrittenCell = readonly [weekMinutes: number, outOfHoursMinutes: number, people: number, asleep: number] | null;

/** A part of a sheet of people by doors, with the sizes of the whole. */
export interface SheetOfPart {
  readonly rowCount: number;
  readonly columnCount: number;
  /** People and cards that were asked about; those of them that open nothing have no row. */
  readonly askedHolders: number;
  readonly uses: RestsOnUses;
  readonly part: SheetPart;
  readonly rows: readonly SheetHead[];
  readonly columns: readonly SheetHead[];
  readonly cells: readonly (readonly WrittenCell[])[];
}

interface LaidOut {
  readonly sheet: AccessSheet;
  readonly askedHolders: number;
  readonly uses: RestsOnUses;
}

const laidOut = new WeakMap<CompiledFacility, Map<string, LaidOut>>();
/** So many sheets of a register are remembered: one is looked at part by part. */
const sheetsRemembered = 4;

function layOut(register: OpenRegister, context: InquiryContext): LaidOut {
  const { compiled, inquiry } = context;
  const { fold } = inquiry;
  const known = laidOut.get(compiled) ?? new Map<string, LaidOut>();
  laidOut.set(compiled, known);
  // "Now" moves on by the minute; everything else is in the address.
  const key = JSON.stringify([writeQuestion(inquiry), inquiry.when.kind === "now" ? context.now : 0, register.snapshot.id]);
  const before = known.get(key);
  if (before) return before;
  const holders = askedPeople(compiled, inquiry.who, context.since);
  const { facility, groupById, indexes } = compiled;
  const areas = indexes.of("areas");
  const departmentOf = (holder: HolderNumber): Position => {
    const bearer = bearerOf(holder);
    return "card" in bearer ? -1 : (groupById.get(facility.cardholders[bearer.cardholder]?.department ?? "") ?? -1);
  };
  // One list for all people of a department.
  const nameOf = remembered((department: Position) => [facility.groups[department]?.name]);
  const areaOf = (door: Position): Position => areas.get(facility.doors[door]?.area ?? "") ?? -1;
  const asIfLive = inquiry.asIfLive === true;
  const axes: SheetAxes = {
    departmentOf: fold === "people" || fold === "both" ? departmentOf : undefined,
    areaOf: fold === "doors" || fold === "both" ? areaOf : undefined,
    rowNames: (holder) => nameOf(departmentOf(holder)),
    columnNames: (door) => [facility.doors[door]?.site, facility.areas[areaOf(door)]?.name, facility.doors[door]?.name],
    compareNames,
    outside: (door, week) => context.businessWeeks.outsideAt(door, week),
  };
  const live = asIfLive ? context.openings(false) : undefined;
  const sheet = new AccessSheet(context.openings(asIfLive), context.weekReading(asIfLive), holders, axes, live);
  const made = { sheet, askedHolders: holders.length, uses: restsOnUses(register, holders) };
  known.set(key, made);
  for (const oldest of known.keys()) {
    if (known.size <= sheetsRemembered) break;
    known.delete(oldest);
  }
  return made;
}

function rowHead(compiled: CompiledFacility, { group, holders }: SheetRow): SheetHead {
  const count = holders.length;
  if (group === undefined) {
    const { name, detail, kind, id } = namedHolder(compiled, required(holders[0], "a row has a holder"));
    return { name, detail, kind, id, count };
  }
  const department = compiled.facility.groups[group];
  return department
    ? { name: department.name, detail: `${count.toLocaleString("en-GB")} open something`, kind: "group", id: department.id, count }
    : { name: "No department", detail: `${count.toLocaleString("en-GB")} open something`, kind: "none", id: "", count };
}

function columnHead(compiled: CompiledFacility, { group, doors }: SheetColumn): SheetHead {
  const count = doors.length;
  const door = namedDoor(compiled, required(doors[0], "a column has a door"));
  if (group === undefined) return { name: door.name, detail: [door.area, door.site].filter(Boolean).join(", "), kind: "door", id: door.id, count };
  const area = compiled.facility.areas[group];
  return area
    ? { name: area.name, detail: `${count} ${count === 1 ? "door" : "doors"}, ${door.site}`, kind: "area", id: area.id, count }
    : { name: "No area", detail: `${count} ${count === 1 ? "door" : "doors"}`, kind: "none", id: "", count };
}

/** A part of the sheet that answers a question about several people and several doors. */
export async function layOutSheet(
  services: Services,
  account: Account,
  register: OpenRegister,
  inquiry: Inquiry,
  part: SheetPart,
  size = partSize,
): Promise<SheetOfPart> {
  demand(account, "ask");
  const { compiled } = register;
  const context = await contextOf(services, compiled, inquiry);
  const { sheet, askedHolders, uses } = layOut(register, context);
  const rows = sheet.rows.slice(part.row, part.row + size.rows);
  const columns = sheet.columns.slice(part.column, part.column + size.columns);
  return {
    rowCount: sheet.rows.length,
    columnCount: sheet.columns.length,
    askedHolders,
    uses,
    part,
    rows: rows.map((row) => rowHead(compiled, row)),
    columns: columns.map((column) => columnHead(compiled, column)),
    cells: rows.map((_row, i) =>
      columns.map((_column, j): WrittenCell => {
        const cell = sheet.cell(part.row + i, part.column + j);
        return cell ? [cell.weekMinutes, cell.outOfHoursMinutes, cell.people, cell.asleep] : null;
      }),
    ),
  };
}

import Link from "next/link";
import type { UnitLine } from "@/operations/units/show-units";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { nothingAsked, QuestionLine } from "../../inquiry/question-line";
import { capital, someWords } from "../../words/numbers";
import { clockText } from "../../words/times";
import { detailOf, standingWords, unitHref, unitsResult } from "./unit-words";
import classes from "./units.module.css";

const doorsShown = 3;

function UnitRow({ unit }: { readonly unit: UnitLine }) {
  const { id, doors, standing, answeredAt, isSentFromHere } = unit;
  return (
    <tr>
      <td className={classes.tight}>
        <Link href={unitHref(id)}>{id}</Link>
      </td>
      <td>
        {doors.length === 0
          ? "no door names it"
          : someWords(
              doors.map(({ name }) => name),
              doorsShown,
            )}
      </td>
      <td data-well={standing === "in-step" || undefined} className={classes.standing}>
        {standingWords(standing)}
        <div className={sheet.sub}>{detailOf(unit)}</div>
      </td>
      <td>{answeredAt === undefined ? "never" : clockText(answeredAt)}</td>
      <td>{standing === "not-known" ? "" : isSentFromHere ? "from here" : "by another system"}</td>
    </tr>
  );
}

/** The units at the doors, what is wrong first. */
export function UnitsView({ units, snapshot }: { readonly units: readonly UnitLine[]; readonly snapshot: number }) {
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />}>
      <Heading
        result={capital(unitsResult(units))}
        reference={`Units at the doors, against snapshot ${snapshot}`}
        lead="What a unit holds decides who comes in, whatever the register says. Each is asked every few seconds how it is and what it holds; that is held against the register by access, door by door and card by card."
      />
      {units.length === 0 ? (
        <p className={sheet.sub}>Doors name their unit in the field “Controller”. None of this register does.</p>
      ) : (
        <table className={sheet.table}>
          <thead>
            <tr>
              <th scope="col">Unit</th>
              <th scope="col">doors</th>
              <th scope="col">how it stands</th>
              <th scope="col">last heard</th>
              <th scope="col">sent</th>
            </tr>
          </thead>
          <tbody>
            {units.map((unit) => (
              <UnitRow key={unit.id} unit={unit} />
            ))}
          </tbody>
        </table>
      )}
    </Sheet>
  );
}

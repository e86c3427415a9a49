import Link from "next/link";
import type { DepartmentProgress, LineFilter } from "@/operations/ports/rounds";
import { Chart } from "@/ui/chart";
import sheet from "@/ui/sheet.module.css";
import classes from "./certification.module.css";
import { linesHref } from "./lines-address";

const nameOf = ({ name, isDefinitions }: DepartmentProgress): string => (isDefinitions ? "definitions" : (name ?? "no department"));

const filterOf = ({ name, isDefinitions }: DepartmentProgress): LineFilter => (isDefinitions ? { definitions: true } : { department: name ?? null });

const counted = ({ lines, decided, withdrawn, narrowed, keptFlagged }: DepartmentProgress): readonly (readonly [number, LineFilter])[] => [
  [lines, {}],
  [decided, { decision: "decided" }],
  [withdrawn, { decision: "withdraw" }],
  [narrowed, { decision: "narrow" }],
  [keptFlagged, { decision: "keep", flagged: true }],
];

/** How far each department is: decided, and of this withdrawn, with the table behind it. */
export function DepartmentsProgress({ round, departments }: { readonly round: number; readonly departments: readonly DepartmentProgress[] }) {
  const shown = [...departments].reverse();
  const bar = (name: string, of: (department: DepartmentProgress) => number) => ({
    type: "bar",
    orientation: "h",
    name,
    y: shown.map(nameOf),
    x: shown.map(of),
    hovertemplate: `%{x} ${name}<extra>%{y}</extra>`,
  });
  const changed = ({ withdrawn, narrowed }: DepartmentProgress): number => withdrawn + narrowed;
  return (
    <Chart
      title="Lines by department"
      data={[bar("kept", (one) => one.decided - changed(one)), bar("withdrawn or narrowed", changed), bar("undecided", (one) => one.lines - one.decided)]}
      layout={{ barmode: "stack", showlegend: true, legend: { orientation: "h", y: 1, yanchor: "bottom" }, yaxis: { automargin: true } }}
      height={90 + 24 * shown.length}
    >
      <table className={sheet.table}>
        <thead>
          <tr>
            <th scope="col">Department</th>
            <th scope="col" className={sheet.number}>
              lines
            </th>
            <th scope="col" className={sheet.number}>
              decided
            </th>
            <th scope="col" className={sheet.number}>
              withdrawn
            </th>
            <th scope="col" className={sheet.number}>
              narrowed
            </th>
            <th scope="col" className={sheet.number}>
              kept although flagged
            </th>
          </tr>
        </thead>
        <tbody>
          {departments.map((one) => (
            <tr key={nameOf(one)}>
              <td>{nameOf(one)}</td>
              {counted(one).map(([count, filter]) => (
                <td key={JSON.stringify(filter)} className={sheet.number}>
                  <Link className={classes.count} href={linesHref(round, { ...filterOf(one), ...filter })}>
                    {count}
                  </Link>
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </Chart>
  );
}

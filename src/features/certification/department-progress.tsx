import type { DepartmentProgress } from "@/operations/ports/rounds";
import { Chart } from "@/ui/chart";
import sheet from "@/ui/sheet.module.css";

const nameOf = ({ name }: DepartmentProgress): string => name ?? "no department";

/** How far each department is: decided, and of this withdrawn, with the table behind it. */
export function DepartmentsProgress({ departments }: { readonly departments: readonly DepartmentProgress[] }) {
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
      layout={{ barmode: "stack", showlegend: true, legend: { orientation: "h" }, yaxis: { automargin: true } }}
      height={Math.max(160, 60 + 24 * shown.length)}
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
              <td className={sheet.number}>{one.lines}</td>
              <td className={sheet.number}>{one.decided}</td>
              <td className={sheet.number}>{one.withdrawn}</td>
              <td className={sheet.number}>{one.narrowed}</td>
              <td className={sheet.number}>{one.keptFlagged}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Chart>
  );
}

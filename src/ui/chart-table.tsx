import type { ReactNode } from "react";
import sheet from "./sheet.module.css";

/** The table behind a chart: the first column says of what, the others are figures. */
export function ChartTable({ head, rows }: { readonly head: readonly string[]; readonly rows: readonly (readonly ReactNode[])[] }) {
  return (
    <table className={sheet.table}>
      <thead>
        <tr>
          {head.map((title, i) => (
            <th key={title} scope="col" className={i > 0 ? sheet.number : undefined}>
              {title}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row, i) => (
          <tr key={i}>
            {row.map((cell, at) => (
              <td key={at} className={at > 0 ? sheet.number : undefined}>
                {cell}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

import type { TriedTable } from "@/operations/intake/try-profile";
import sheet from "@/ui/sheet.module.css";
import { fieldName, madeWords } from "../../words/profile-fields";
import classes from "../intake.module.css";

const madeShown = 6;

/** The first rows of a table as they came, and what each of them makes. */
export function FirstRows({ tried }: { readonly tried: TriedTable }) {
  if (tried.first.length === 0) return <p className={sheet.sub}>There is no row below the header.</p>;
  return (
    <div className={classes.firstRows} role="region" aria-label={`First rows of ${tried.name}`} tabIndex={0}>
      <table className={sheet.table}>
        <thead>
          <tr>
            <th scope="col" className={sheet.number}>
              {tried.isSheet ? "Row" : "Line"}
            </th>
            <th scope="col">as it came</th>
            <th scope="col">what it makes</th>
          </tr>
        </thead>
        <tbody>
          {tried.first.map(({ line, cells, made, refused, isAside }) => (
            <tr key={line}>
              <td className={sheet.number}>{line}</td>
              <td className={classes.cells}>
                {cells.map((cell, at) => (
                  <code key={at}>{cell === "" ? " " : cell}</code>
                ))}
              </td>
              <td>
                {refused.map(({ column, reason }) => (
                  <div key={`${column} ${reason}`} className={sheet.grave}>
                    {column === "" ? "" : `${column}: `}
                    {reason}
                  </div>
                ))}
                {isAside && <span className={sheet.sub}>not read, as the profile says</span>}
                {made.slice(0, madeShown).map(({ table, values }, at) => (
                  <div key={at} className={classes.made}>
                    <b>{madeWords[table] ?? table}</b>{" "}
                    {values.map(({ field, text }, place) => (
                      <span key={field}>
                        {place > 0 && ", "}
                        <span className={sheet.sub}>{fieldName(table, field)}</span> {text}
                      </span>
                    ))}
                  </div>
                ))}
                {made.length > madeShown && <div className={sheet.sub}>and {made.length - madeShown} more</div>}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

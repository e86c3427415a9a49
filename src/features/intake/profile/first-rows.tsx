import type { TriedTable } from "@/operations/intake/try-profile";
import sheet from "@/ui/sheet.module.css";
import { plural } from "../../words/numbers";
import { fieldName, madeWords } from "../../words/profile-fields";
import classes from "../intake.module.css";

const madeShown = 7;

/** The first rows of a table as they came, and what each of them makes; above, what became of all of them. */
export function FirstRows({ tried: { name, isSheet, first, outcome } }: { readonly tried: TriedTable }) {
  const made = Object.values(outcome?.made ?? {}).reduce((sum, count) => sum + count, 0);
  return (
    <section className={classes.firstRows} aria-label={`First rows of ${name}`}>
      <h3 className={classes.section}>What its rows make</h3>
      {outcome && (
        <p className={sheet.sub}>
          {plural(outcome.rows, "row", "rows")}, {made.toLocaleString("en-GB")} made
          {outcome.refused > 0 && `, ${outcome.refused.toLocaleString("en-GB")} refused`}
          {outcome.aside > 0 && `, ${outcome.aside.toLocaleString("en-GB")} not read`}
        </p>
      )}
      {first.length === 0 && <p className={sheet.sub}>There is no row below the header.</p>}
      {first.map(({ line, cells, made: objects, refused, isAside }) => (
        <div key={line} className={classes.firstRow}>
          <div className={classes.cells}>
            <span className={sheet.sub}>
              {isSheet ? "row" : "line"} {line}
            </span>{" "}
            {cells.map((cell, at) => (
              <code key={at}>{cell === "" ? "\u00a0" : cell}</code>
            ))}
          </div>
          {refused.slice(0, 3).map(({ column, reason }) => (
            <div key={`${column} ${reason}`} className={classes.refusedHere}>
              {column === "" ? "" : `${column}: `}
              {reason}
            </div>
          ))}
          {isAside && <span className={sheet.sub}>not read, as the profile says</span>}
          {objects.slice(0, madeShown).map(({ table, values }, at) => (
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
          {objects.length > madeShown && <div className={sheet.sub}>and {objects.length - madeShown} more</div>}
        </div>
      ))}
    </section>
  );
}

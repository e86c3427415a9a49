import Link from "next/link";
import type { AccessEffect } from "@/operations/register/effect-on-access";
import sheet from "@/ui/sheet.module.css";
import { plural, capital } from "../words/numbers";
import { amountWords, causeWords, doorChangeWords } from "../words/access-changes";
import { objectHref } from "../register/list-address";
import classes from "./intake.module.css";

/** What an intake does to access, the weightiest first, with what brings it about. */
export function EffectTable({ effect }: { readonly effect: AccessEffect }) {
  const { gained, lost, hours, people, changes } = effect;
  const total = gained + lost + hours;
  if (total === 0)
    return (
      <>
        <h2 className={classes.section}>Nobody gains or loses anything by it</h2>
        <p className={sheet.sub}>In the 13 months from its export everybody opens the same doors at the same times as now.</p>
      </>
    );
  return (
    <>
      <h2 className={classes.section}>What it does to access: {plural(people, "person is", "people are")} concerned</h2>
      <p className={sheet.sub}>
        {capital(plural(gained, "door is gained", "doors are gained"))}, {lost === 0 ? "none is lost" : plural(lost, "is lost", "are lost")},{" "}
        {hours === 0 ? "none has" : plural(hours, "has", "have")} other hours, each counted for each person, in the 13 months from the export. Those into the
        most sensitive areas come first.
      </p>
      <div className={classes.errors} role="region" aria-label="Effect on access" tabIndex={0}>
        <table className={sheet.table}>
          <thead>
            <tr>
              <th scope="col">Who</th>
              <th scope="col">Door</th>
              <th scope="col" className={sheet.number}>
                Sensitivity
              </th>
              <th scope="col">What changes</th>
              <th scope="col">Because of</th>
            </tr>
          </thead>
          <tbody>
            {changes.map((change) => (
              <tr key={`${change.holder.kind} ${change.holder.id} ${change.door}`}>
                <td>
                  <Link href={objectHref(change.holder.kind, change.holder.id)}>{change.name}</Link>
                </td>
                <td>{change.doorName}</td>
                <td className={sheet.number}>{change.sensitivity}</td>
                <td>
                  <b>{doorChangeWords[change.change]}</b> <span className={sheet.sub}>{amountWords(change)}</span>
                </td>
                <td className={sheet.sub}>{causeWords(change.causes)}</td>
              </tr>
            ))}
          </tbody>
        </table>
        {total > changes.length && <p className={sheet.sub}>and {(total - changes.length).toLocaleString("en-GB")} more of less weight</p>}
      </div>
    </>
  );
}

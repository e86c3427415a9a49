import type { ListKey } from "@/core/facility/document";
import classes from "./drafts.module.css";
import { fieldLabel } from "./field-names";

const shown = 6;

const some = (parts: readonly string[]): string =>
  parts.length > shown ? `${parts.slice(0, shown).join("; ")} and ${parts.length - shown} more` : parts.join("; ");

/** The parts of values that go and those that come, a line for each field. */
export function FieldDifference({
  list,
  fields,
}: {
  readonly list: ListKey;
  readonly fields: readonly { readonly field: string; readonly gone: readonly string[]; readonly come: readonly string[] }[];
}) {
  return (
    <ul className={classes.fields}>
      {fields.map(({ field, gone, come }) => (
        <li key={field}>
          <span>{fieldLabel(list, field)}</span>
          <span>
            {gone.length > 0 && <del className={classes.gone}>{some(gone)}</del>}
            {gone.length > 0 && come.length > 0 && " "}
            {come.length > 0 ? (
              <ins className={classes.come} style={{ textDecoration: "none" }}>
                {some(come)}
              </ins>
            ) : (
              <span> nothing any more</span>
            )}
          </span>
        </li>
      ))}
    </ul>
  );
}

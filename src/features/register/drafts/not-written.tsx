import { Button } from "@mantine/core";
import type { ListKey } from "@/core/facility/draft";
import type { ChangeOutcome } from "@/operations/change-draft";
import sheet from "@/ui/sheet.module.css";
import { clockText } from "../../words/times";
import classes from "./drafts.module.css";
import { FieldDifference } from "./field-difference";
import { fieldLabel } from "./field-names";

interface NotWrittenProps {
  readonly outcome: ChangeOutcome | undefined;
  readonly list: ListKey;
  readonly busy: boolean;
  /** Writes over what somebody else wrote meanwhile. */
  readonly onMine: (outcome: ChangeOutcome & { readonly outcome: "changed-meanwhile" }) => void;
  readonly onTheirs: () => void;
}

/** Why nothing was written, where it was not. */
export function NotWritten({ outcome, list, busy, onMine, onTheirs }: NotWrittenProps) {
  return (
    <>
      {outcome?.outcome === "faulty" && (
        <div className={classes.faults} role="alert">
          <strong>Nothing was written yet.</strong>
          <ul>
            {outcome.faults.map(({ path, message }) => (
              <li key={`${path} ${message}`}>
                {path === "" ? "" : `${fieldLabel(list, path.split(/[.[]/)[0] ?? "")}${/[.[]/.test(path) ? ` (${path})` : ""}: `}
                {message}
              </li>
            ))}
          </ul>
        </div>
      )}
      {outcome?.outcome === "ended" && (
        <p role="alert" className={sheet.grave}>
          This draft is open no more; nothing was written. What you typed is still here.
        </p>
      )}
      {outcome?.outcome === "changed-meanwhile" && (
        <div role="alert" className={sheet.grave}>
          <strong>{outcome.differences[0]?.changedBy} changed this meanwhile</strong>
          {outcome.differences[0]?.changedAt && `, ${clockText(outcome.differences[0].changedAt)}`}. Nothing was written. Struck through: theirs; behind it: yours.
          {outcome.differences.map((difference) => (
            <FieldDifference key={difference.key} list={difference.list} fields={difference.fields.map(({ field, theirs, yours }) => ({ field, gone: theirs, come: yours }))} />
          ))}
          <div className={classes.add} style={{ margin: "8px 0 0" }}>
            <Button size="xs" loading={busy} onClick={() => onMine(outcome)}>
              Use mine
            </Button>
            <Button size="xs" variant="default" onClick={onTheirs}>
              Use theirs
            </Button>
          </div>
        </div>
      )}
    </>
  );
}

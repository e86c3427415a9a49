import { Button } from "@mantine/core";
import type { ListKey } from "@/core/facility/document";
import type { ChangeOutcome } from "@/operations/register/drafts/change-draft";
import sheet from "@/ui/sheet.module.css";
import { clockText } from "../../words/times";
import classes from "./drafts.module.css";
import { FieldDifference } from "./field-difference";
import { capital, plural } from "../../words/numbers";
import { fieldLabel, listNames } from "./field-names";

interface NotWrittenProps {
  readonly outcome: ChangeOutcome | undefined;
  readonly list: ListKey;
  readonly busy: boolean;
  /** Writes over what somebody else wrote meanwhile. */
  readonly onMine: (outcome: ChangeOutcome & { readonly outcome: "changed-meanwhile" }) => void;
  readonly onTheirs: () => void;
  /** Writes it although it is doubtful. */
  readonly onDespite: () => void;
  /** Takes out what goes along as well. */
  readonly onAlong: (outcome: ChangeOutcome & { readonly outcome: "takes-along" }) => void;
}

const alongNamed = 12;

/** What is wrong with fields, or doubtful about them, a line each. */
function AboutFields({ list, about }: { readonly list: ListKey; readonly about: readonly { readonly path: string; readonly message: string }[] }) {
  return (
    <ul>
      {about.map(({ path, message }) => (
        <li key={`${path} ${message}`}>
          {path === "" ? "" : `${fieldLabel(list, path.split(/[.[]/)[0] ?? "")}${/[.[]/.test(path) ? ` (${path})` : ""}: `}
          {message}
        </li>
      ))}
    </ul>
  );
}

/** Why nothing was written, where it was not. */
export function NotWritten({ outcome, list, busy, onMine, onTheirs, onDespite, onAlong }: NotWrittenProps) {
  return (
    <>
      {outcome?.outcome === "faulty" && (
        <div className={classes.faults} role="alert">
          <strong>Nothing was written yet.</strong>
          <AboutFields list={list} about={outcome.faults} />
        </div>
      )}
      {outcome?.outcome === "doubtful" && (
        <div className={classes.faults} role="alert">
          <strong>Is it meant so?</strong> Nothing was written yet.
          <AboutFields list={list} about={outcome.doubts} />
          <Button size="xs" loading={busy} onClick={onDespite}>
            Put it in all the same
          </Button>
        </div>
      )}
      {outcome?.outcome === "takes-along" && (
        <div className={classes.faults} role="alert">
          <strong>{capital(plural(outcome.along.length, "other object goes", "other objects go"))} with it.</strong> Nothing was written yet.
          <ul>
            {outcome.along.slice(0, alongNamed).map(({ list: of, key, label }) => (
              <li key={`${of} ${key}`}>
                {capital(listNames[of][0])}: {label}
              </li>
            ))}
            {outcome.along.length > alongNamed && <li>and {outcome.along.length - alongNamed} more</li>}
          </ul>
          <Button size="xs" color="madder" variant="outline" loading={busy} onClick={() => onAlong(outcome)}>
            Take all of it out
          </Button>
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
          {outcome.differences[0]?.changedAt && `, ${clockText(outcome.differences[0].changedAt)}`}. Nothing was written. Struck through: theirs; behind it:
          yours.
          {outcome.differences.map((difference) => (
            <FieldDifference
              key={difference.key}
              list={difference.list}
              fields={difference.fields.map(({ field, theirs, yours }) => ({ field, gone: theirs, come: yours }))}
            />
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

import { Select } from "@mantine/core";
import type { EditedObject, UnknownNumber } from "@/operations/register/drafts/edit-object";
import sheet from "@/ui/sheet.module.css";
import { listWords } from "../../words/numbers";
import { FieldDifference } from "./field-difference";

interface EditorMarginProps {
  readonly object: EditedObject;
  readonly differing: Parameters<typeof FieldDifference>[0]["fields"];
  /** The number that doors saw which was taken, if one was. */
  readonly taken: string | undefined;
  readonly onTake: (number: UnknownNumber | undefined) => void;
}

/** Beside the fields of an object: what differs from the register, who else changes it, and numbers to take. */
export function EditorMargin({ object: { list, key, also, unknownNumbers }, differing, taken, onTake }: EditorMarginProps) {
  // What is begun and still empty, such as whom a new grant is given to, is no difference yet.
  const shown = differing.filter(({ field, gone, come }) => field !== "id" && gone.length + come.length > 0);
  return (
    <>
      <h2>{key === undefined ? "What comes into the register" : "What would differ from the register"}</h2>
      {shown.length === 0 ? <p className={sheet.sub}>Nothing yet.</p> : <FieldDifference list={list} fields={shown} />}
      {also.length > 0 && (
        <div className={sheet.grave}>
          <strong>Others change this, too:</strong> {listWords(also.map(({ owner, draft: other }) => `${owner} in draft ${other}`))}.
        </div>
      )}
      {unknownNumbers.length > 0 && (
        <div className={sheet.notes}>
          <h2>Numbers that doors saw</h2>
          <p style={{ paddingLeft: 0 }}>Nobody in the register has them. Taking one fills in the number.</p>
          <Select
            searchable
            clearable
            aria-label="Take a number that doors saw"
            placeholder="part of a number …"
            value={unknownNumbers.some(({ credential }) => credential === taken) ? (taken ?? null) : null}
            data={unknownNumbers.map(({ credential, facilityCode, times, lastAt }) => ({
              value: credential,
              label: `${facilityCode === undefined ? "" : `${facilityCode}-`}${credential}, ${times} × until ${new Date(lastAt * 60_000).toISOString().slice(0, 10)}`,
            }))}
            onChange={(credential) => onTake(unknownNumbers.find((one) => one.credential === credential))}
          />
        </div>
      )}
    </>
  );
}

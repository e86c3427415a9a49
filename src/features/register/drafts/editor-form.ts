import type { ListKey } from "@/core/facility/document";
import type { RegisterKind } from "@/core/register/kinds";
import type { EditedObject } from "@/operations/register/drafts/edit-object";

export type Value = Readonly<Record<string, unknown>>;

/** What the fields of an object have in common: the object as it stands in the form, and how to change it. */
export interface EditorForm {
  readonly draft: number;
  readonly list: ListKey;
  readonly value: Value;
  /** The zone on whose clock moments are shown and typed. */
  readonly timeZone: string;
  /** Puts changes into the object; what is undefined is taken out of it. */
  readonly set: (changes: Value) => void;
  /** What is wrong with a field, or with something in it; undefined where nothing was found. */
  readonly faultOf: (field: string) => string | undefined;
  readonly nameOf: (kind: RegisterKind, id: string) => string;
  /** Told what an object is called that was chosen just now. */
  readonly onNamed: (kind: RegisterKind, id: string, name: string) => void;
  readonly schedules: EditedObject["schedules"];
  readonly dayTypes: EditedObject["dayTypes"];
}

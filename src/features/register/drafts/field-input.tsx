import { NumberInput, Select, TextInput } from "@mantine/core";
import { MomentInput } from "./moment-input";
import type { EditorForm } from "./editor-form";
import type { Field } from "./field-names";
import { ReferenceField, ReferencesField } from "./reference-field";
import { SpecialField } from "./special-fields";

const momentHint = "31 Dec 2026, or with a time";
const instantHint = "31 Dec 2026, 18:00";

/** The input of a field, by what it holds; flags are shown together, elsewhere. */
export function FieldInput({ form, field }: { readonly form: EditorForm; readonly field: Field }) {
  const { draft, value, set, faultOf, nameOf, onNamed } = form;
  const common = { label: field.label, description: field.hint, error: faultOf(field.key), required: field.required ?? false };
  const textOf = (value[field.key] as string | undefined) ?? "";
  switch (field.as) {
    case "own":
      return <SpecialField form={form} field={field} />;
    case "flag":
      return null;
    case "reference":
      return (
        <ReferenceField
          draft={draft}
          kinds={[field.kind]}
          label={field.label}
          hint={field.hint}
          required={field.required}
          error={faultOf(field.key)}
          nameOf={nameOf}
          onNamed={onNamed}
          value={textOf === "" ? undefined : { kind: field.kind, id: textOf }}
          onChange={(chosen) => set({ [field.key]: chosen?.id })}
        />
      );
    case "references":
      return (
        <ReferencesField
          draft={draft}
          kinds={[field.kind]}
          label={field.label}
          hint={field.hint}
          error={faultOf(field.key)}
          nameOf={nameOf}
          onNamed={onNamed}
          value={(value[field.key] ?? []) as string[]}
          onChange={(ids) => set({ [field.key]: ids.length > 0 ? ids : undefined })}
        />
      );
    case "choice": {
      const isNumber = typeof value[field.key] === "number" || field.key === "sensitivity";
      return (
        <Select
          {...common}
          allowDeselect={!field.required}
          clearable={!field.required}
          value={value[field.key] === undefined ? null : String(value[field.key])}
          placeholder={field.choices[0]?.[1] ?? ""}
          data={field.choices.map(([choice, words]) => ({ value: choice, label: words }))}
          onChange={(choice) => set({ [field.key]: choice === null ? undefined : isNumber ? Number(choice) : choice })}
        />
      );
    }
    case "number":
      return (
        <NumberInput
          {...common}
          min={0}
          allowDecimal={false}
          value={(value[field.key] as number | undefined) ?? ""}
          onChange={(next) => set({ [field.key]: next === "" ? undefined : Number(next) })}
        />
      );
    case "moment":
    case "instant":
      return (
        <MomentInput
          {...common}
          placeholder={field.as === "moment" ? momentHint : instantHint}
          timeZone={form.timeZone}
          value={textOf}
          onText={(text) => set({ [field.key]: text === "" && !field.required ? undefined : text })}
        />
      );
    default:
      return (
        <TextInput
          {...common}
          placeholder={field.as === "zone" ? "Europe/Paris" : ""}
          value={textOf}
          onChange={(event) => set({ [field.key]: event.currentTarget.value === "" && !field.required ? undefined : event.currentTarget.value })}
        />
      );
  }
}

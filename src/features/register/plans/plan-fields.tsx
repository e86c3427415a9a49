import { NumberInput, Select, TextInput } from "@mantine/core";
import type { UseFormReturnType } from "@mantine/form";
import type { PlanHead } from "@/core/plans/plan";
import type { ListedPlans } from "@/operations/register/plans/show-plans";
import { storeyWords } from "./plan-words";

/** What a plan is of, as it is typed. */
export interface TypedHead {
  readonly name: string;
  readonly site: string;
  /** Empty for no one area. */
  readonly area: string;
  readonly storey: number | string;
}

export const asHead = ({ name, site, area, storey }: TypedHead): PlanHead => ({
  name: name.trim(),
  site,
  storey: Number(storey),
  ...(area !== "" && { area }),
});

export const headRules = {
  name: (value: string) => (value.trim() === "" ? "Give it a name." : null),
  storey: (value: number | string) => (typeof value === "number" && Number.isInteger(value) ? null : "A whole number, 0 for the ground floor."),
};

/** The fields that say what a plan is of. */
export function PlanFields({ form, of }: { readonly form: UseFormReturnType<TypedHead>; readonly of: Pick<ListedPlans, "sites" | "areas"> }) {
  const { site, storey } = form.values;
  return (
    <>
      <TextInput label="Name" placeholder="such as: Laboratories, ground floor" maxLength={200} {...form.getInputProps("name")} />
      <Select
        label="Site"
        searchable
        allowDeselect={false}
        data={of.sites.map(({ id, name }) => ({ value: id, label: name }))}
        {...form.getInputProps("site")}
        onChange={(value: string | null) => value !== null && form.setValues({ site: value, area: "" })}
      />
      <NumberInput
        label="Floor"
        description={typeof storey === "number" && Number.isInteger(storey) ? storeyWords(storey) : "0 is the ground floor"}
        min={-200}
        max={200}
        allowDecimal={false}
        {...form.getInputProps("storey")}
      />
      <Select
        label="Area"
        description="where it is of one: its doors are offered first"
        placeholder="of no one area"
        searchable
        clearable
        limit={100}
        data={of.areas.filter((area) => area.site === site).map(({ id, name }) => ({ value: id, label: name }))}
        {...form.getInputProps("area")}
        value={form.values.area === "" ? null : form.values.area}
        onChange={(value: string | null) => form.setFieldValue("area", value ?? "")}
      />
    </>
  );
}

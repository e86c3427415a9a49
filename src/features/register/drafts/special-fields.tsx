import { NumberInput, Select, TextInput, UnstyledButton } from "@mantine/core";
import type { DocumentDay, LevelRow } from "@/core/facility/document";
import type { RegisterKind } from "@/core/register/kinds";
import sheet from "@/ui/sheet.module.css";
import { CalendarEditor } from "./calendar-editor";
import classes from "./drafts.module.css";
import { MomentInput } from "./moment-input";
import type { EditorForm } from "./editor-form";
import type { Field } from "./field-names";
import { HoursEditor } from "./hours-editor";
import { LevelSheet } from "./level-sheet";
import { ReferenceField, ReferencesField } from "./reference-field";

const receivers = ["cardholder", "group", "credential"] as const satisfies readonly RegisterKind[];
const targets = ["level", "bundle", "door", "doorGroup", "area"] as const satisfies readonly RegisterKind[];

/** Fields that take the whole width of the form. */
export const wideFields: readonly string[] = ["rows", "week", "days", "requirements"];

interface FieldProps {
  readonly form: EditorForm;
  readonly label: string;
}

/** One of several kinds of objects: whom a grant is given to, or what it opens. */
function SideField({
  form: { draft, value, set, faultOf, nameOf, onNamed },
  label,
  side,
  kinds,
}: FieldProps & { readonly side: "to" | "open"; readonly kinds: readonly RegisterKind[] }) {
  const [kind, id] = Object.entries((value[side] ?? {}) as Record<string, string>)[0] ?? [];
  return (
    <ReferenceField
      draft={draft}
      kinds={kinds}
      label={label}
      required
      error={faultOf(side)}
      nameOf={nameOf}
      onNamed={onNamed}
      value={kind !== undefined && id !== undefined ? { kind: kind as RegisterKind, id } : undefined}
      onChange={(chosen) => set({ [side]: chosen ? { [chosen.kind]: chosen.id } : {} })}
    />
  );
}

function OverrideField({ form: { draft, value, set, nameOf, onNamed }, label }: FieldProps) {
  const override = value.override as true | readonly string[] | undefined;
  return (
    <div>
      <Select
        label={label}
        allowDeselect={false}
        value={override === undefined ? "no" : override === true ? "everywhere" : "sites"}
        data={[
          { value: "no", label: "no" },
          { value: "everywhere", label: "everywhere, without a grant" },
          { value: "sites", label: "at some sites, without a grant" },
        ]}
        onChange={(choice) => set({ override: choice === "everywhere" ? true : choice === "sites" ? [] : undefined })}
      />
      {Array.isArray(override) && (
        <ReferencesField
          draft={draft}
          kinds={["site"]}
          label="At which sites"
          nameOf={nameOf}
          onNamed={onNamed}
          value={override as string[]}
          onChange={(sites) => set({ override: sites })}
        />
      )}
    </div>
  );
}

function ExpiryField({ form: { value, set, faultOf }, label }: FieldProps) {
  const expiry = value.expiry as { after: string; days: number } | undefined;
  return (
    <div style={{ display: "flex", gap: 8 }}>
      <Select
        label={label}
        style={{ flex: 1 }}
        allowDeselect={false}
        value={expiry?.after ?? "no"}
        data={[
          { value: "no", label: "no" },
          { value: "first-use", label: "after its first use" },
          { value: "last-use", label: "after its last use" },
        ]}
        onChange={(after) => set({ expiry: after === "no" ? undefined : { after, days: expiry?.days ?? 90 } })}
      />
      {expiry && (
        <NumberInput
          label="Days"
          w={80}
          min={1}
          allowDecimal={false}
          error={faultOf("expiry")}
          value={expiry.days}
          onChange={(days) => set({ expiry: { ...expiry, days: Number(days) } })}
        />
      )}
    </div>
  );
}

function RequirementsField({ form: { value, set, timeZone }, label }: FieldProps) {
  const requirements = (value.requirements ?? []) as readonly { name: string; until?: string }[];
  const put = (next: readonly { name: string; until?: string }[]): void => set({ requirements: next.length > 0 ? next : undefined });
  return (
    <div className={classes.wideField}>
      <span style={{ fontSize: 13.5, fontWeight: 500 }}>{label}</span>
      {requirements.map((one, at) => (
        <div key={at} className={classes.member} style={{ gridTemplateColumns: "220px 220px auto" }}>
          <TextInput
            size="xs"
            aria-label={`Requirement ${at + 1}`}
            placeholder="induction"
            value={one.name}
            onChange={(event) => put(requirements.with(at, { ...one, name: event.currentTarget.value }))}
          />
          <MomentInput
            timeZone={timeZone}
            size="xs"
            aria-label={`Requirement ${at + 1} until`}
            placeholder="for good"
            value={one.until ?? ""}
            onText={(until) => put(requirements.with(at, { name: one.name, ...(until !== "" && { until }) }))}
          />
          <UnstyledButton
            className={sheet.plain}
            onClick={() => put(requirements.filter((_, other) => other !== at))}
            aria-label={`Remove requirement ${at + 1}`}
          >
            Remove
          </UnstyledButton>
        </div>
      ))}
      <div>
        <UnstyledButton className={sheet.plain} onClick={() => put([...requirements, { name: "" }])}>
          Add a requirement
        </UnstyledButton>
      </div>
    </div>
  );
}

/** A field that has an editor of its own, by its key. */
export function SpecialField({ form, field }: { readonly form: EditorForm; readonly field: Field }) {
  const { draft, value, set, faultOf, nameOf, onNamed, schedules, dayTypes } = form;
  switch (field.key) {
    case "rows":
      return (
        <LevelSheet
          draft={draft}
          rows={(value.rows ?? []) as readonly LevelRow[]}
          schedules={schedules}
          nameOf={(kind, of) => (kind === "schedule" ? (schedules.find((one) => one.id === of)?.name ?? of) : nameOf(kind, of))}
          onNamed={onNamed}
          onChange={(rows) => set({ rows: rows.length > 0 ? rows : undefined })}
        />
      );
    case "week":
      return <HoursEditor value={value} dayTypes={dayTypes} onChange={set} />;
    case "days":
      return (
        <CalendarEditor
          days={(value.days ?? []) as readonly DocumentDay[]}
          dayTypes={dayTypes}
          faultAt={(at) => faultOf(`days[${at}]`)}
          onChange={(days) => set({ days: days.length > 0 ? days : undefined })}
        />
      );
    case "to":
      return <SideField form={form} label={field.label} side="to" kinds={receivers} />;
    case "open":
      return <SideField form={form} label={field.label} side="open" kinds={targets} />;
    case "override":
      return <OverrideField form={form} label={field.label} />;
    case "expiry":
      return <ExpiryField form={form} label={field.label} />;
    case "requirements":
      return <RequirementsField form={form} label={field.label} />;
    default:
      return null;
  }
}

"use client";

import { MultiSelect, Select } from "@mantine/core";
import { useDebouncedValue } from "@mantine/hooks";
import { useState } from "react";
import type { RegisterKind } from "@/core/register/kinds";
import type { Suggestion } from "@/operations/register/list-register";
import { kindWords } from "../../words/register-words";
import { useFetched } from "@/ui/fetched";
import { draftHref } from "./addresses";

interface Option {
  readonly value: string;
  readonly label: string;
}

interface Common {
  readonly draft: number;
  readonly kinds: readonly RegisterKind[];
  readonly label: string;
  readonly hint?: string | undefined;
  readonly required?: boolean | undefined;
  readonly error?: string | undefined;
  /** What chosen objects are called, by kind and id joined with a space. */
  readonly nameOf: (kind: RegisterKind, id: string) => string;
  /** Told the name of everything that was chosen, so that it can be shown again. */
  readonly onNamed?: (kind: RegisterKind, id: string, name: string) => void;
}

/** An object is told by kind and id: several kinds can be offered at once. */
const written = (kind: RegisterKind, id: string): string => `${kind} ${id}`;
const read = (value: string): { kind: RegisterKind; id: string } => ({
  kind: value.slice(0, value.indexOf(" ")) as RegisterKind,
  id: value.slice(value.indexOf(" ") + 1),
});

/** What the register and the draft offer for a typed text. */
function useOffered(draft: number, kinds: readonly RegisterKind[], text: string): readonly Option[] {
  const [wanted] = useDebouncedValue(text, 150);
  const asked = kinds.map((kind) => `kind=${kind}`).join("&");
  const found = useFetched<{ readonly items: readonly Suggestion[] }>(`${draftHref(draft)}/suggest?${asked}&text=${encodeURIComponent(wanted)}`);
  const items = found.state === "there" ? found.value.items : [];
  return items.map(({ kind, id, name, detail, status }) => ({
    value: written(kind, id),
    label: [name, kinds.length > 1 ? kindWords[kind][1].toLowerCase() : "", detail, status === "active" ? "" : status].filter(Boolean).join(" · "),
  }));
}

/** Offered and chosen ones together: a chosen one has to be among the data to be shown. */
const together = (chosen: readonly Option[], offered: readonly Option[]): Option[] => [
  ...chosen,
  ...offered.filter(({ value }) => !chosen.some((one) => one.value === value)),
];

const plainName = (label: string): string => label.split(" · ")[0] ?? label;

/** One object of some kinds, found by any part of any field. */
export function ReferenceField({
  draft,
  kinds,
  label,
  hint,
  required,
  error,
  nameOf,
  onNamed,
  value,
  onChange,
}: Common & {
  readonly value: { readonly kind: RegisterKind; readonly id: string } | undefined;
  readonly onChange: (value: { kind: RegisterKind; id: string } | undefined) => void;
}) {
  const [text, setText] = useState("");
  const chosen = value && { value: written(value.kind, value.id), label: nameOf(value.kind, value.id) };
  const offered = useOffered(draft, kinds, chosen && text === chosen.label ? "" : text);
  return (
    <Select
      label={label}
      description={hint}
      required={required ?? false}
      error={error}
      searchable
      clearable={!required}
      placeholder="part of a name …"
      nothingFoundMessage="Nothing has this in any field."
      value={chosen?.value ?? null}
      data={together(chosen ? [chosen] : [], offered)}
      filter={({ options }) => options}
      onSearchChange={setText}
      onChange={(picked, option) => {
        if (picked === null) return onChange(undefined);
        const found = read(picked);
        onNamed?.(found.kind, found.id, plainName(option?.label ?? found.id));
        onChange(found);
      }}
      comboboxProps={{ width: 380, position: "bottom-start" }}
    />
  );
}

/** Several objects of a kind. */
export function ReferencesField({
  draft,
  kinds,
  label,
  hint,
  error,
  nameOf,
  onNamed,
  value,
  onChange,
}: Common & { readonly value: readonly string[]; readonly onChange: (ids: string[]) => void }) {
  const [text, setText] = useState("");
  const [kind] = kinds;
  const offered = useOffered(draft, kinds, text);
  if (!kind) return null;
  const chosen = value.map((id) => ({ value: written(kind, id), label: nameOf(kind, id) }));
  const all = together(chosen, offered);
  return (
    <MultiSelect
      label={label}
      description={hint}
      error={error}
      searchable
      clearable
      placeholder={value.length === 0 ? "part of a name …" : ""}
      nothingFoundMessage="Nothing has this in any field."
      value={chosen.map((one) => one.value)}
      data={all}
      filter={({ options }) => options}
      onSearchChange={setText}
      onChange={(picked) => {
        for (const one of picked) {
          const found = read(one);
          onNamed?.(found.kind, found.id, plainName(all.find(({ value: known }) => known === one)?.label ?? found.id));
        }
        onChange(picked.map((one) => read(one).id));
        setText("");
      }}
    />
  );
}

"use client";

import { Select, TextInput } from "@mantine/core";
import { useDebouncedCallback } from "@mantine/hooks";
import { useRouter } from "next/navigation";
import { useState } from "react";
import type { AskedEntries } from "@/operations/ports/record";
import { recordKinds } from "../words/record";

/** Narrows the record by any part of who, what it was done to and what it says, and by what was done. */
export function RecordSearch({ asked }: { readonly asked: Omit<AskedEntries, "before"> }) {
  const router = useRouter();
  const [text, setText] = useState(asked.text ?? "");
  const go = (next: Omit<AskedEntries, "before">): void => {
    const query = new URLSearchParams({ ...(next.text && { text: next.text }), ...(next.what && { what: next.what }) }).toString();
    router.replace(query === "" ? "/evidence" : `/evidence?${query}`, { scroll: false });
  };
  const find = useDebouncedCallback((wanted: string) => go({ ...asked, text: wanted }), 250);
  return (
    <div style={{ display: "flex", gap: 12, margin: "10px 0" }}>
      <TextInput
        size="xs"
        w={260}
        aria-label="Find in the record"
        placeholder="who, round 3, a reason …"
        value={text}
        onChange={(event) => {
          setText(event.currentTarget.value);
          find(event.currentTarget.value);
        }}
      />
      <Select
        size="xs"
        w={220}
        aria-label="What was done"
        placeholder="anything done"
        clearable
        searchable
        value={asked.what ?? null}
        data={recordKinds}
        onChange={(what) => go({ ...(text !== "" && { text }), ...(what !== null && { what }) })}
      />
    </div>
  );
}

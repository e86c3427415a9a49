"use client";

import { Select, TextInput } from "@mantine/core";
import { DateInput } from "@mantine/dates";
import { useDebouncedCallback } from "@mantine/hooks";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { recordKinds } from "../words/record";
import { recordHref } from "./record-address";
import type { RecordAddress } from "./record-address";

/** Narrows the record by any part of who, what it was done to and what it says, by what was done, by whom, and by dates of UTC. */
export function RecordSearch({ asked, people }: { readonly asked: RecordAddress; readonly people: readonly string[] }) {
  const router = useRouter();
  const [text, setText] = useState(asked.text ?? "");
  const go = (next: RecordAddress): void => router.replace(recordHref({ ...asked, text, ...next }), { scroll: false });
  const find = useDebouncedCallback((wanted: string) => go({ text: wanted }), 250);
  const date = (name: "from" | "until", label: string) => (
    <DateInput
      size="xs"
      w={110}
      aria-label={label}
      placeholder={name}
      valueFormat="D MMM YYYY"
      clearable
      value={asked[name] ?? null}
      onChange={(value) => go({ [name]: value ?? "" })}
    />
  );
  return (
    <div style={{ display: "flex", flexWrap: "wrap", gap: 10, margin: "10px 0" }}>
      <TextInput
        size="xs"
        w={180}
        aria-label="Find in the record"
        placeholder="signed, round 3, a reason …"
        value={text}
        onChange={(event) => {
          setText(event.currentTarget.value);
          find(event.currentTarget.value);
        }}
      />
      <Select
        size="xs"
        w={165}
        aria-label="What was done"
        placeholder="anything done"
        clearable
        searchable
        value={asked.what ?? null}
        data={recordKinds}
        onChange={(what) => go({ what: what ?? "" })}
      />
      <Select
        size="xs"
        w={125}
        aria-label="By whom"
        placeholder="by anybody"
        clearable
        searchable
        value={asked.who ?? null}
        data={[...people]}
        onChange={(who) => go({ who: who ?? "" })}
      />
      {date("from", "From this date on")}
      {date("until", "Until this date")}
    </div>
  );
}

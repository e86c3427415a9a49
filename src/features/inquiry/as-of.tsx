"use client";

import { Select } from "@mantine/core";
import { useRouter } from "next/navigation";
import type { Inquiry } from "@/operations/inquiry/inquiry";
import type { Snapshot } from "@/operations/ports/snapshots";
import { clockText } from "../words/times";
import { questionAddress } from "./address";

/** Of which snapshot an answer speaks, and a way to ask the same of another: as it was. */
export function AsOf({
  words,
  inquiry,
  stood,
  snapshots,
}: {
  readonly words: string;
  readonly inquiry: Inquiry;
  /** The snapshot that stood at the asked time, where that is not the latest: it is asked unless another is chosen. */
  readonly stood?: number | undefined;
  readonly snapshots: readonly Pick<Snapshot, "id" | "takenAt">[];
}) {
  const router = useRouter();
  const latest = snapshots[0]?.id;
  const asked = inquiry.snapshot ?? stood ?? latest;
  if (snapshots.length < 2) return words;
  return (
    <span style={{ display: "inline-flex", alignItems: "center", gap: 10 }}>
      {asked === latest ? words : `As it was. ${words}`}
      <Select
        size="xs"
        w={210}
        aria-label="As it was in"
        allowDeselect={false}
        value={String(asked)}
        data={snapshots.map(({ id, takenAt }) => ({
          value: String(id),
          label: `${id}, ${clockText(takenAt)}${id === latest ? ", now" : id === stood ? ", then" : ""}`,
        }))}
        onChange={(id) => router.replace(questionAddress({ ...inquiry, snapshot: Number(id) === (stood ?? latest) ? undefined : Number(id) }))}
      />
    </span>
  );
}

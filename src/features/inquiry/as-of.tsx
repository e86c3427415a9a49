"use client";

import { Select } from "@mantine/core";
import { useRouter } from "next/navigation";
import type { Inquiry } from "@/operations/inquiry/inquiry";
import type { Draft } from "@/operations/ports/drafts";
import type { Snapshot } from "@/operations/ports/snapshots";
import { clockText } from "../words/times";
import { questionAddress } from "./address";

/** Of which register an answer speaks, and a way to ask the same of another: as it was in a snapshot, or as it would be with a draft. */
export function AsOf({
  words,
  inquiry,
  stood,
  snapshots,
  drafts,
}: {
  readonly words: string;
  readonly inquiry: Inquiry;
  /** The snapshot that stood at the asked time, where that is not the latest: it is asked unless another is chosen. */
  readonly stood?: number | undefined;
  readonly snapshots: readonly Pick<Snapshot, "id" | "takenAt">[];
  /** Drafts that can be asked on. */
  readonly drafts: readonly Pick<Draft, "id" | "name">[];
}) {
  const router = useRouter();
  const latest = snapshots[0]?.id;
  const asked = inquiry.snapshot ?? stood ?? latest;
  if (snapshots.length < 2 && drafts.length === 0) return words;
  const choose = (value: string | null): void => {
    const [kind, number] = (value ?? "").split(" ");
    const id = Number(number);
    const isDraft = kind === "draft";
    const snapshot = isDraft || id === (stood ?? latest) ? undefined : id;
    router.replace(questionAddress({ ...inquiry, snapshot, draft: isDraft ? id : undefined }));
  };
  const ofSnapshots = snapshots.map(({ id, takenAt }) => ({
    value: `snapshot ${id}`,
    label: `${id}, ${clockText(takenAt)}${id === latest ? ", now" : id === stood ? ", then" : ""}`,
  }));
  const ofDrafts = drafts.map(({ id, name }) => ({ value: `draft ${id}`, label: name }));
  return (
    <span style={{ display: "inline-flex", alignItems: "center", gap: 10 }}>
      {inquiry.draft !== undefined || asked === latest ? words : `As it was. ${words}`}
      <Select
        size="xs"
        w={210}
        aria-label="As it was in, or would be with"
        allowDeselect={false}
        value={inquiry.draft === undefined ? `snapshot ${asked}` : `draft ${inquiry.draft}`}
        data={
          ofDrafts.length === 0
            ? ofSnapshots
            : [
                { group: "As it was", items: ofSnapshots },
                { group: "As it would be, with a draft", items: ofDrafts },
              ]
        }
        onChange={choose}
      />
    </span>
  );
}

import type { HolderId } from "@/core/facility/holder-id";

const kinds = ["cardholder", "credential"] as const satisfies readonly HolderId["kind"][];

/** A holder as addresses name them. */
export const aboutText = ({ kind, id }: HolderId): string => `${kind}:${id}`;

/** The page that plans a round about one holder. */
export const newRoundHref = (holder: HolderId): string => `/certification/new?${new URLSearchParams({ about: aboutText(holder) }).toString()}`;

/** Whom an address is about: undefined where it names nobody, null where it cannot be understood. */
export function aboutOfAddress({ about }: Readonly<Record<string, string | readonly string[] | undefined>>): HolderId | undefined | null {
  if (about === undefined) return undefined;
  if (typeof about !== "string") return null;
  const kind = kinds.find((one) => about.startsWith(`${one}:`));
  const id = kind && about.slice(kind.length + 1);
  return kind && id ? { kind, id } : null;
}

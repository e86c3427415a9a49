import type { HolderId } from "@/core/facility/holder-id";

const kinds = ["cardholder", "credential"] as const satisfies readonly HolderId["kind"][];

/** The page that plans a round about one holder. */
export const newRoundHref = ({ kind, id }: HolderId): string => `/certification/new?${new URLSearchParams({ about: `${kind}:${id}` }).toString()}`;

/** Whom an address asks a round about: undefined for everybody, null where it cannot be understood. */
export function aboutOfAddress({ about }: Readonly<Record<string, string | readonly string[] | undefined>>): HolderId | undefined | null {
  if (about === undefined) return undefined;
  if (typeof about !== "string") return null;
  const kind = kinds.find((one) => about.startsWith(`${one}:`));
  const id = kind && about.slice(kind.length + 1);
  return kind && id ? { kind, id } : null;
}

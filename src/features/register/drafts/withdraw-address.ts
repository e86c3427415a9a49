import type { HolderId } from "@/core/facility/holder-id";
import type { AskedWithdrawal } from "@/operations/register/drafts/draft-withdrawal";

/** The page that offers to take away what a finding is about, or a door from somebody. */
export const withdrawHref = (asked: AskedWithdrawal): string =>
  `/register/drafts/withdraw?${new URLSearchParams(
    "finding" in asked
      ? { finding: asked.finding }
      : { kind: asked.holder.kind, id: asked.holder.id, door: asked.door, ...(asked.withFewerBlocks && { way: "fewer-blocks" }) },
  ).toString()}`;

/** What an address asks to be taken away; undefined where it asks for nothing, or for something else. */
export function withdrawalOfAddress({
  finding,
  kind,
  id,
  door,
  way,
}: Readonly<Record<string, string | readonly string[] | undefined>>): AskedWithdrawal | undefined {
  if (typeof finding === "string") return { finding };
  const holderKind = (["cardholder", "credential"] as const satisfies readonly HolderId["kind"][]).find((one) => one === kind);
  return holderKind && typeof id === "string" && typeof door === "string"
    ? { holder: { kind: holderKind, id }, door, ...(way === "fewer-blocks" && { withFewerBlocks: true as const }) }
    : undefined;
}

/**
 * Whoever opens doors: a cardholder with all their credentials, or a credential that nobody holds. Kind and id together tell which: a card may have a person's
 * id.
 */
export interface HolderId {
  readonly kind: "cardholder" | "credential";
  readonly id: string;
}

/** A text that tells a holder from all others. */
export const holderKey = ({ kind, id }: HolderId): string => `${kind} ${id}`;

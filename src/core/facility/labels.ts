import type { Credential } from "./document";

/** What a credential is known by: its kind and its number with the facility code, or its id where it has none. */
export function credentialLabel({ kind, number, facilityCode, id }: Credential): string {
  const known = number === undefined ? id : [facilityCode, number].filter((part) => part !== undefined).join("-");
  return kind === "pin" ? `PIN ${known}` : `${kind.charAt(0).toUpperCase()}${kind.slice(1)} ${known}`;
}

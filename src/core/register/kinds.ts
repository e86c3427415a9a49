import type { Facility } from "../facility/facility";
import { credentialLabel } from "../facility/labels";

/** Kinds of objects that the register lists, in the order in which people look for them, with the list of the document that holds them. */
export const listOfKind = {
  cardholder: "cardholders",
  credential: "credentials",
  group: "groups",
  door: "doors",
  area: "areas",
  site: "sites",
  doorGroup: "doorGroups",
  level: "levels",
  bundle: "bundles",
  grant: "grants",
  schedule: "schedules",
  calendar: "calendars",
} as const;

export type RegisterKind = keyof typeof listOfKind;

export const registerKinds = Object.keys(listOfKind) as RegisterKind[];

/** What an object of a kind is called: its name; a credential by its number, a grant by whom it lets in where. */
export function nameOf(facility: Facility, kind: RegisterKind, position: number): string {
  if (kind === "credential") {
    const credential = facility.credentials[position];
    return credential ? credentialLabel(credential) : "";
  }
  if (kind === "grant") return facility.grants[position]?.id ?? "";
  return (facility[listOfKind[kind]][position] as { readonly name?: string } | undefined)?.name ?? "";
}

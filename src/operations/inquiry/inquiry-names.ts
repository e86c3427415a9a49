import { required } from "@/core/kernel/invariant";
import type { Position } from "@/core/compile/position-index";
import type { CompiledCredential, CompiledFacility } from "@/core/compile/compiled-facility";
import { credentialLabel } from "@/core/facility/labels";
import type { NamedHolder, NamedDoor } from "./inquiry";

export function namedCredential(credential: CompiledCredential): NamedHolder {
  const { status } = credential.credential;
  return {
    kind: "credential",
    id: credential.credential.id,
    name: credentialLabel(credential.credential),
    detail: credential.holder ? credential.holder.cardholder.name : `no cardholder${status === "active" ? "" : `, ${status}`}`,
  };
}

export function namedCardholder(compiled: CompiledFacility, position: Position): NamedHolder {
  const { cardholder } = required(compiled.cardholders.at(position), "positions are valid");
  const department = compiled.facility.groups[compiled.groupById.get(cardholder.department ?? "") ?? -1]?.name ?? "no department";
  const type = cardholder.type === undefined || cardholder.type === "employee" ? "" : `, ${cardholder.type}`;
  return {
    kind: "cardholder",
    id: cardholder.id,
    name: cardholder.name,
    detail: `${department}${type}${cardholder.status === "active" ? "" : `, ${cardholder.status}`}`,
  };
}

export function namedDoor(compiled: CompiledFacility, position: Position): NamedDoor {
  const { door, areas, zone } = required(compiled.doors[position], "positions are valid");
  return {
    id: door.id,
    name: door.name,
    area: areas[0] === undefined ? undefined : compiled.facility.areas[areas[0]]?.name,
    site: compiled.facility.sites.find(({ id }) => id === door.site)?.name ?? door.site,
    zone: zone.name,
  };
}

/** Whom a question is about; undefined where the register does not hold them. */
export function whoNamed(
  compiled: CompiledFacility,
  { kind, id }: { readonly kind: "cardholder" | "credential"; readonly id: string },
): NamedHolder | undefined {
  const position = (kind === "cardholder" ? compiled.cardholderById : compiled.credentialById).get(id);
  if (position === undefined) return undefined;
  return kind === "cardholder" ? namedCardholder(compiled, position) : namedCredential(required(compiled.credentials.at(position), "positions are valid"));
}

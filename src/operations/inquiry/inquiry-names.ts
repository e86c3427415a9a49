import { required } from "@/core/kernel/invariant";
import type { Position } from "@/core/compile/position-index";
import type { CompiledCredential, CompiledFacility } from "@/core/compile/compiled-facility";
import { credentialLabel } from "@/core/facility/labels";
import { isPlaceThere } from "@/core/questions/asked-doors";
import type { HolderNumber } from "@/core/questions/asked-people";
import { areThere, bearerOf } from "@/core/questions/asked-people";
import { directoryOf } from "@/core/register/directory";
import type { Inquiry, NamedHolder, NamedDoor, QuestionNames } from "./inquiry";

export function namedCredential(credential: CompiledCredential): NamedHolder {
  const { status } = credential.credential;
  return {
    kind: "credential",
    id: credential.credential.id,
    name: credentialLabel(credential.credential),
    detail: credential.holder ? credential.holder.cardholder.name : `no cardholder${status === "active" ? "" : `, ${status}`}`,
  };
}

function namedCardholder(compiled: CompiledFacility, position: Position): NamedHolder {
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

export function namedHolder(compiled: CompiledFacility, holder: HolderNumber): NamedHolder {
  const bearer = bearerOf(holder);
  return "card" in bearer
    ? namedCredential(required(compiled.credentials.at(bearer.card), "positions are valid"))
    : namedCardholder(compiled, bearer.cardholder);
}

/** By which a holder's findings and risk are kept. */
export function holderKey({ facility }: CompiledFacility, holder: HolderNumber): string {
  const bearer = bearerOf(holder);
  return "card" in bearer ? `credential ${facility.credentials[bearer.card]?.id ?? ""}` : `cardholder ${facility.cardholders[bearer.cardholder]?.id ?? ""}`;
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

/** Who and where of a question by name; undefined for what is left open. */
export function namesOfQuestion(compiled: CompiledFacility, { who, where }: Pick<Inquiry, "who" | "where">): QuestionNames {
  const directory = directoryOf(compiled);
  const whoName = (): string | undefined => {
    if (!who) return undefined;
    if (who.kind === "everybody") return "Everybody";
    if (who.kind === "type") return `Everybody of type ${who.type}`;
    if (who.kind === "credential") return directory.credentialName(who.id);
    const name = directory.name(who.kind, who.id);
    return who.kind === "group" ? `Everybody of ${name}` : who.kind === "cardholder" ? name : `Whoever holds ${name}`;
  };
  const whereName = (): string | undefined => {
    if (!where) return undefined;
    if (where.kind === "anywhere") return "anything";
    if (where.kind === "sensitivity") return `doors of sensitivity ${where.from === 3 ? "3" : `${where.from} and more`}`;
    const name = directory.name(where.kind, where.id);
    return where.kind === "level" || where.kind === "doorGroup" ? `the doors of ${name}` : name;
  };
  return { who: whoName(), where: whereName() };
}

/** Whether the register holds whoever and whatever a question names. */
export const isAbout = (compiled: CompiledFacility, { who, where }: Pick<Inquiry, "who" | "where">): boolean =>
  (!who || areThere(compiled, who)) && (!where || isPlaceThere(compiled, where));

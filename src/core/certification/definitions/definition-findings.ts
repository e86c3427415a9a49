import type { CompiledFacility } from "../../compile/compiled-facility";
import type { Finding } from "../../findings/finding";
import { isToldOfDefinitions } from "../against";
import { definitionKey } from "./definitions-of-register";

/** What findings about definitions speak against, by the keys of these. */
export function findingsOfDefinitions(compiled: CompiledFacility, findings: readonly Finding[]): ReadonlyMap<string, readonly Finding[]> {
  const { facility, indexes, credentialById, doorById } = compiled;
  const found = new Map<string, Finding[]>();
  const add = (kind: Parameters<typeof definitionKey>[0]["kind"], id: string, finding: Finding): void => {
    const key = definitionKey({ kind, id });
    const own = found.get(key) ?? [];
    if (!own.includes(finding)) own.push(finding);
    found.set(key, own);
  };
  const placeOf = (door: number | undefined): string | undefined => {
    const at = compiled.doors[door ?? -1];
    if (at?.unlock === undefined) return undefined;
    const area = at.areas[0] === undefined ? undefined : facility.areas[at.areas[0]]?.id;
    return area === undefined ? `site:${at.door.site}` : `area:${area}`;
  };
  for (const finding of findings.filter(isToldOfDefinitions)) {
    const { kind, id } = finding.subject;
    if (kind === "level" || kind === "calendar") add(kind, id, finding);
    if (kind === "site") {
      const calendar = facility.sites[indexes.of("sites").get(id) ?? -1]?.calendar;
      if (calendar !== undefined) add("calendar", calendar, finding);
    }
    if (kind === "door") {
      const place = placeOf(doorById.get(id));
      if (place !== undefined) add("unlocking", place, finding);
    }
    if (kind === "schedule") {
      for (const { id: level, rows = [] } of facility.levels) if (rows.some(({ schedule }) => schedule === id)) add("level", level, finding);
      for (const { position, door } of compiled.doors) {
        const place = door.unlock === id ? placeOf(position) : undefined;
        if (place !== undefined) add("unlocking", place, finding);
      }
    }
    if (kind === "credential") {
      const credential = facility.credentials[credentialById.get(id) ?? -1];
      if (credential && credential.cardholder === undefined) add("stock", credential.kind, finding);
    }
  }
  return found;
}

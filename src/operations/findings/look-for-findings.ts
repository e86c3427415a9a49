import { certifiers } from "@/core/certification/certifier";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import { areasOf, doorsOfFinding } from "@/core/findings/about";
import { findAll } from "@/core/findings/find";
import type { Finding, Findings } from "@/core/findings/finding";
import type { PeopleSource } from "@/core/findings/judged";
import type { FindingPlace } from "../ports/findings";
import { openRegister } from "../register/open-register";
import type { Services } from "../services";
import { judged, judgedHorizon, judgingOf, placesOf } from "./judging";

/** What was found in a register, and the earlier snapshots that were looked back to. */
export interface FoundIn {
  readonly findings: Findings;
  readonly earlier: readonly number[];
}

/** Counts the events by the sites, clocks and business hours that a register gives its doors. */
export const countEventsBy = async (services: Services, compiled: CompiledFacility): Promise<void> =>
  services.events.countBy(await placesOf(services, compiled));

/**
 * What should not be in a register, with what the events say up to its export. The events are counted by where its doors are. `named` is whom a source names
 * whose delivery is being stored.
 */
export async function findingsIn(services: Services, compiled: CompiledFacility, snapshot?: number, named?: PeopleSource): Promise<FoundIn> {
  await countEventsBy(services, compiled);
  const judging = await judgingOf(services, compiled, snapshot, undefined, named);
  return { findings: findAll(judged(judgedHorizon(compiled, judging.settings), judging)), earlier: judging.earlierIds };
}

/** Where findings belong: the area that they speak of, or their door's; the department of whom they are about, and who certifies them. */
export function placeOfFinding({ facility, indexes, cardholderById, doorById, doors }: CompiledFacility): (finding: Finding) => FindingPlace {
  const certifierOf = certifiers(facility);
  const areaOfDoor = (id: string | undefined): string | undefined => doors[doorById.get(id ?? "") ?? -1]?.door.area;
  return (finding) => {
    const { subject, cardholder } = finding;
    const holder = facility.cardholders[cardholderById.get(cardholder ?? "") ?? -1];
    const area =
      subject.kind === "area" ? subject.id : subject.kind === "door" ? areaOfDoor(subject.id) : (areasOf(finding)[0] ?? areaOfDoor(doorsOfFinding(finding)[0]));
    const department =
      subject.kind === "group" && facility.groups[indexes.of("groups").get(subject.id) ?? -1]?.kind === "department" ? subject.id : holder?.department;
    return { area, department, manager: holder && certifierOf(holder)?.cardholder };
  };
}

/** Keeps what was found in a snapshot. */
export const keepFindings = (services: Services, snapshot: number, compiled: CompiledFacility, { findings, earlier }: FoundIn): Promise<void> =>
  services.findings.put(snapshot, findings, placeOfFinding(compiled), earlier, services.now());

/** What was counted for an earlier snapshot would speak falsely of the present one. */
export async function countForPresent(services: Services, countedFor: number): Promise<void> {
  const present = await openRegister(services);
  if (present && present.snapshot.id !== countedFor) await countEventsBy(services, present.compiled);
}

/** Looks for the findings of the latest snapshot, or of another one, and keeps them; those it had are replaced. */
export async function lookForFindings(services: Services, snapshot?: number): Promise<void> {
  const register = await openRegister(services, snapshot);
  if (!register) return;
  const { id } = register.snapshot;
  await keepFindings(services, id, register.compiled, await findingsIn(services, register.compiled, id));
  await countForPresent(services, id);
}

import { openRegister } from "@/operations/register/open-register";
import type { Services } from "@/operations/services";
import { makeTokenFor } from "../feed/feed-tokens";
import { system } from "../ports/record";
import { demoSignOns } from "./demo-accounts";

/** Somebody of the demo as its personnel office knows them. */
export interface DemoEmployee {
  readonly staffNumber: string;
  readonly givenName: string;
  readonly familyName: string;
  readonly email: string;
  readonly department: string;
  readonly manager: string | undefined;
}

/** The source as which the stand-in personnel office pushes people. */
const personnelSource = "personnel";

/** The demo's employees, as far as the personnel office knows them; none where the demo is not there. */
export async function demoEmployees(services: Services): Promise<readonly DemoEmployee[]> {
  if ((await demoSignOns(services)).length === 0) return [];
  const facility = (await openRegister(services))?.compiled.facility;
  if (!facility) return [];
  const groups = new Map(facility.groups.map((group) => [group.id, group]));
  const numbers = new Map(facility.cardholders.map(({ id, staffNumber }) => [id, staffNumber]));
  return facility.cardholders.flatMap(({ id, name, staffNumber, email, type, status, department }) => {
    const group = groups.get(department ?? "");
    if (type !== "employee" || status !== "active" || staffNumber === undefined || !group) return [];
    const [givenName = name, ...rest] = name.split(" ");
    const manager = group.manager === undefined || group.manager === id ? undefined : numbers.get(group.manager);
    return [{ staffNumber, givenName, familyName: rest.join(" "), email: email ?? "", department: group.name, manager }];
  });
}

/** A token for the stand-in personnel office; made once, and kept by it. */
export const demoPersonnelToken = (services: Services): Promise<string> => makeTokenFor(services, personnelSource, system);

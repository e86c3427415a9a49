import type { Services } from "@/operations/services";
import { openRegister } from "@/operations/register/open-register";
import type { Role } from "@/operations/ports/accounts";

/** People who sign in to the demo, and only there. Managers are found by the department that they answer for. */
const demoPeople: readonly { readonly signIn: string; readonly role: Role; readonly name?: string; readonly manages?: string }[] = [
  { signIn: "reviewer", role: "reviewer", name: "Rosa Quillfeld" },
  { signIn: "administrator", role: "administrator", name: "Anselm Dorn" },
  { signIn: "auditor", role: "auditor", name: "Agnes Prufeld" },
  { signIn: "seedbank", role: "manager", manages: "d-seedbank" },
  { signIn: "facilities", role: "manager", manages: "d-facilities" },
  { signIn: "horticulture", role: "manager", manages: "d-horticulture" },
  { signIn: "genetics", role: "manager", manages: "d-genetics" },
  { signIn: "direction", role: "manager", manages: "d-direction" },
  { signIn: "computing", role: "owner", manages: "d-computing" },
];

export const demoPassword = "verrane-2026";

/** Adds the demo's accounts; those that are there get their password again. */
export async function addDemoAccounts(services: Services): Promise<void> {
  const register = await openRegister(services);
  const passwordHash = await services.passwords.hash(demoPassword);
  for (const { signIn, role, name, manages } of demoPeople) {
    const cardholder = manages === undefined ? undefined : register?.compiled.facility.groups.find(({ id }) => id === manages)?.manager;
    const known = cardholder === undefined ? undefined : register?.compiled.facility.cardholders.find(({ id }) => id === cardholder);
    const account = { signIn, role, name: name ?? known?.name ?? signIn, cardholder };
    await services.accounts.put({ ...account, passwordHash }, { signIn: "command line" }, services.now());
  }
}

/** The demo's sign-ins, a line each. */
export async function demoSignIns(services: Services): Promise<string[]> {
  const accounts = await services.accounts.all();
  const known = new Set(demoPeople.map(({ signIn }) => signIn));
  return accounts
    .filter(({ signIn }) => known.has(signIn))
    .map(({ signIn, role, name }) => `  ${signIn.padEnd(14)} ${demoPassword}   ${role}, ${name}`);
}

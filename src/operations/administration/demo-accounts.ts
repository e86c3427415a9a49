import type { Services } from "@/operations/services";
import { openRegister } from "@/operations/register/open-register";
import type { Role } from "@/operations/ports/accounts";

/** People who sign in to the demo, and only there. Managers are found by the department that they answer for. */
const demoPeople: readonly { readonly signIn: string; readonly role: Role; readonly name?: string; readonly email?: string; readonly manages?: string }[] = [
  { signIn: "reviewer", role: "reviewer", name: "Rosa Quillfeld", email: "rosa.quillfeld@verrane.example" },
  { signIn: "administrator", role: "administrator", name: "Anselm Dorn", email: "anselm.dorn@verrane.example" },
  { signIn: "auditor", role: "auditor", name: "Agnes Prufeld", email: "agnes.prufeld@verrane.example" },
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
  for (const { signIn, role, name, email, manages } of demoPeople) {
    const cardholder = manages === undefined ? undefined : register?.compiled.facility.groups.find(({ id }) => id === manages)?.manager;
    const known = cardholder === undefined ? undefined : register?.compiled.facility.cardholders.find(({ id }) => id === cardholder);
    const account = { signIn, role, name: name ?? known?.name ?? signIn, cardholder, email };
    await services.accounts.put({ ...account, passwordHash }, { signIn: "command line" }, services.now());
  }
}

/** The demo's people as the stand-in identity provider knows them; none where the demo is not there. */
export async function demoSignOns(
  services: Services,
): Promise<{ readonly name: string; readonly signIn: string; readonly email: string | undefined; readonly staffNumber: string | undefined }[]> {
  const known = new Set(demoPeople.map(({ signIn }) => signIn));
  const accounts = (await services.accounts.details()).filter(({ signIn, endedAt }) => known.has(signIn) && endedAt === undefined);
  // A register that is not the demo's has people of its own, and nobody of these names by chance.
  if (accounts.length < demoPeople.length) return [];
  const cardholders = new Map((await openRegister(services))?.compiled.facility.cardholders.map((one) => [one.id, one]));
  return accounts.map(({ name, signIn, email, cardholder }) => {
    const person = cardholders.get(cardholder ?? "");
    return { name, signIn, email: email ?? person?.email, staffNumber: person?.staffNumber };
  });
}

/** The demo's sign-ins, a line each. */
export async function demoSignIns(services: Services): Promise<string[]> {
  const accounts = await services.accounts.all();
  const known = new Set(demoPeople.map(({ signIn }) => signIn));
  return accounts
    .filter(({ signIn }) => known.has(signIn))
    .map(({ signIn, role, name }) => `  ${signIn.padEnd(14)} ${demoPassword}   ${role}, ${name}`);
}

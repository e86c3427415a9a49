import { mkdir, readFile, writeFile } from "node:fs/promises";
import path from "node:path";
import { startControllers } from "@/standins/controller/controllers";
import { addDemoUnits, demoUnits } from "@/operations/administration/demo-units";
import { startIdentityProvider } from "@/standins/identity-provider";
import { startMailServer } from "@/standins/mail-server";
import { startTimestampAuthority } from "@/standins/timestamp-authority";
import { startPersonnelFeed } from "@/standins/personnel-feed";
import { demoEmployees, demoPersonnelToken } from "@/operations/administration/demo-personnel";
import { lookForFindings } from "@/operations/findings/look-for-findings";
import { demoPassword, demoSignOns } from "@/operations/administration/demo-accounts";
import { publicAddress, signOnBack, standInControllerFolder, standInMailFolder, standInPersonnelFolder, standInStampFolder } from "./environment";
import { openServices } from "./services";

/** The one client that the stand-in identity provider knows. */
const clientId = "nomade";

const port = (name: string): number => Number(process.env[name] ?? 0);

/**
 * Entry file of the stand-ins, a process of its own: a mail server that delivers to nobody, an authority for time stamps, an identity provider and a personnel
 * office that know the demo's people, and the controllers of its doors. Prints, once they listen, what the server has to be told of them: its environment
 * as a line of JSON.
 */
const services = openServices();
const people = await demoSignOns(services);
const employees = await demoEmployees(services);

/** The token with which the personnel office pushes; kept in its own folder, as a real one would keep it. */
async function personnelToken(): Promise<string> {
  const file = path.join(standInPersonnelFolder(), "token");
  const kept = await readFile(file, "utf8").catch(() => undefined);
  if (kept !== undefined) return kept;
  const token = await demoPersonnelToken(services);
  await mkdir(standInPersonnelFolder(), { recursive: true, mode: 0o700 });
  await writeFile(file, token, { mode: 0o600 });
  return token;
}

const office =
  employees.length === 0
    ? undefined
    : await startPersonnelFeed({
        port: port("NOMADE_STANDIN_PERSONNEL_PORT"),
        folder: standInPersonnelFolder(),
        service: new URL("/scim/v2", publicAddress()).href,
        token: await personnelToken(),
        people: employees,
      });
/** The token by which the stand-in controllers answer; kept in their own folder. */
async function controllerToken(): Promise<string> {
  const file = path.join(standInControllerFolder(), "token");
  const kept = await readFile(file, "utf8").catch(() => undefined);
  if (kept !== undefined) return kept;
  const { token } = services.tokens.make();
  await mkdir(standInControllerFolder(), { recursive: true, mode: 0o700 });
  await writeFile(file, token, { mode: 0o600 });
  return token;
}

const units = await demoUnits(services);
const tokenOfControllers = await controllerToken();
/** The port at which they answered before, so that nobody has to be told anew where they are; 0 for any. */
const portFile = path.join(standInControllerFolder(), "port");
const portBefore = Number(await readFile(portFile, "utf8").catch(() => "0"));
const startAt = (at: number) => startControllers({ port: at, folder: standInControllerFolder(), token: tokenOfControllers, units });
const controllers = units.length === 0 ? undefined : await startAt(port("NOMADE_STANDIN_CONTROLLERS_PORT") || portBefore).catch(() => startAt(0));
if (controllers) await writeFile(portFile, new URL(controllers.address).port, { mode: 0o600 });
if (controllers) {
  const isFirst = (await services.units.all()).length === 0;
  await addDemoUnits(services, units, { address: controllers.address, token: tokenOfControllers });
  // What the silent one holds is found at once, as it would be after the next intake.
  if (isFirst) await lookForFindings(services);
}
await services.close();
const mail = await startMailServer(standInMailFolder(), port("NOMADE_STANDIN_MAIL_PORT"));
const stamps = await startTimestampAuthority(standInStampFolder(), port("NOMADE_STANDIN_TSA_PORT"));
// Without the demo there is nobody to know.
const provider =
  people.length === 0
    ? undefined
    : await startIdentityProvider({
        port: port("NOMADE_STANDIN_OIDC_PORT"),
        clientId,
        back: new URL(signOnBack, publicAddress()).href,
        people: people.map((person) => ({ ...person, password: demoPassword })),
      });
const told = {
  NOMADE_STANDIN_MAIL: "yes",
  NOMADE_SMTP_HOST: "127.0.0.1",
  NOMADE_SMTP_PORT: String(mail.port),
  NOMADE_TSA_ADDRESS: `http://127.0.0.1:${stamps.port}/`,
  ...(controllers && { NOMADE_STANDIN_CONTROLLERS: controllers.address, NOMADE_STANDIN_CONTROLLERS_TOKEN: tokenOfControllers }),
  ...(office && { NOMADE_STANDIN_PERSONNEL: office.address }),
  ...(provider && { NOMADE_OIDC_ISSUER: provider.issuer, NOMADE_OIDC_CLIENT_ID: clientId, NOMADE_OIDC_NAME: "the stand-in provider" }),
};
process.stdout.write(`${JSON.stringify(told)}\n`);
const stop = async (): Promise<void> => {
  await Promise.all([mail.stop(), stamps.stop(), provider?.stop(), office?.stop(), controllers?.stop()]);
  process.exit(0);
};
for (const signal of ["SIGINT", "SIGTERM"] as const) process.once(signal, () => void stop());

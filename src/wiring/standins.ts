import { startIdentityProvider } from "@/standins/identity-provider";
import { startMailServer } from "@/standins/mail-server";
import { startTimestampAuthority } from "@/standins/timestamp-authority";
import { demoPassword, demoSignOns } from "@/operations/administration/demo-accounts";
import { publicAddress, signOnBack, standInMailFolder, standInStampFolder } from "./environment";
import { openServices } from "./services";

/** The one client that the stand-in identity provider knows. */
const clientId = "nomade";

const port = (name: string): number => Number(process.env[name] ?? 0);

/**
 * Entry file of the stand-ins, a process of its own: a mail server that delivers to nobody, an authority for time stamps, and an identity provider that knows
 * the demo's people. Prints, once they listen, what the server has to be told of them: its environment as a line of JSON.
 */
const services = openServices();
const people = await demoSignOns(services);
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
  ...(provider && { NOMADE_OIDC_ISSUER: provider.issuer, NOMADE_OIDC_CLIENT_ID: clientId, NOMADE_OIDC_NAME: "the stand-in provider" }),
};
process.stdout.write(`${JSON.stringify(told)}\n`);
const stop = async (): Promise<void> => {
  await Promise.all([mail.stop(), stamps.stop(), provider?.stop()]);
  process.exit(0);
};
for (const signal of ["SIGINT", "SIGTERM"] as const) process.once(signal, () => void stop());

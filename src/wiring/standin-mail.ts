import { startMailServer } from "@/standins/mail-server";
import { standInMailFolder } from "./environment";

/** Entry file of the stand-in mail server, a process of its own: prints its port once it listens. */
const server = await startMailServer(standInMailFolder(), Number(process.env.NOMADE_STANDIN_MAIL_PORT ?? 0));
process.stdout.write(`${server.port}\n`);
for (const signal of ["SIGINT", "SIGTERM"] as const) process.once(signal, () => void server.stop().then(() => process.exit(0)));

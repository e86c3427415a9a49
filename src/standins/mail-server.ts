import { mkdir, rename, writeFile } from "node:fs/promises";
import path from "node:path";
import { simpleParser } from "mailparser";
import { SMTPServer } from "smtp-server";
import type { TakenMail } from "@/operations/ports/mail";
import { mailEnding } from "./mail-outbox";

/** So much of a mail is taken; a real server refuses larger ones, too. */
const largest = 5 * 1024 * 1024;

const textOf = (of: { readonly text: string } | readonly { readonly text: string }[] | undefined): string =>
  of === undefined ? "" : "text" in of ? of.text : of.map(({ text }) => text).join(", ");

/** A small mail server that takes everything and delivers nothing: each mail is a file of a folder. It speaks SMTP on loopback. */
export async function startMailServer(folder: string, port: number): Promise<{ readonly port: number; readonly stop: () => Promise<void> }> {
  await mkdir(folder, { recursive: true });
  let count = 0;
  const take = async (stream: Parameters<typeof simpleParser>[0]): Promise<void> => {
    const mail = await simpleParser(stream);
    const at = new Date().toISOString();
    const attachments = mail.attachments.map(({ filename = "", content }) => ({ name: filename, text: content.toString("utf8") }));
    const id = `${at.replace(/[^0-9]/g, "")}-${process.pid}-${count++}`;
    const taken: TakenMail = { id, at, from: textOf(mail.from), to: textOf(mail.to), subject: mail.subject ?? "", words: mail.text ?? "", attachments };
    const file = path.join(folder, `${id}${mailEnding}`);
    // Whoever lists the folder meanwhile sees a whole mail or none.
    await writeFile(`${file}.part`, JSON.stringify(taken));
    await rename(`${file}.part`, file);
  };
  const server = new SMTPServer({
    authOptional: true,
    disabledCommands: ["AUTH", "STARTTLS"],
    size: largest,
    onData: (stream, _session, done) => {
      take(stream).then(
        () => done(),
        (error: unknown) => done(error instanceof Error ? error : new Error("The mail could not be read.")),
      );
    },
  });
  await new Promise<void>((resolve, reject) => {
    server.once("error", reject);
    server.listen(port, "127.0.0.1", resolve);
  });
  const address = server.server.address();
  return {
    port: typeof address === "object" && address !== null ? address.port : port,
    stop: () => new Promise((resolve) => server.close(() => resolve())),
  };
}

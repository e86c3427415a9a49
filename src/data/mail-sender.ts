import type { MailSender } from "@/operations/ports/mail";

export interface MailSettings {
  readonly host: string;
  readonly port: number;
  readonly user: string | undefined;
  readonly password: string | undefined;
  readonly from: string;
  /** The public address of this installation. */
  readonly address: string;
  /** Whether the server is this machine itself, where nothing has to be encrypted. */
  readonly isLoopback: boolean;
}

const connectMs = 10_000;

/** Sends by SMTP (RFC 5321); without settings nothing is sent. Elsewhere than on this machine the connection is encrypted or not used. */
export function mailSender(settings: MailSettings | undefined): MailSender {
  if (!settings) return { address: undefined, send: () => Promise.reject(new Error("No mail server is set.")) };
  const { host, port, user, password, from, address, isLoopback } = settings;
  // Most commands send nothing: the library is loaded by the first mail.
  const opened = async () => {
    const { default: nodemailer } = await import("nodemailer");
    return nodemailer.createTransport({
      host,
      port,
      secure: port === 465,
      requireTLS: !isLoopback && port !== 465,
      ignoreTLS: isLoopback,
      ...(user !== undefined && password !== undefined && { auth: { user, pass: password } }),
      connectionTimeout: connectMs,
      greetingTimeout: connectMs,
      socketTimeout: connectMs,
      disableFileAccess: true,
      disableUrlAccess: true,
    });
  };
  let transport: ReturnType<typeof opened> | undefined;
  return {
    address,
    send: async ({ toAddress, toName, subject, words, attachment }) => {
      const attachments = attachment ? [{ filename: attachment.name, contentType: attachment.type, content: attachment.text }] : [];
      await (await (transport ??= opened())).sendMail({ from, to: { name: toName, address: toAddress }, subject, text: words, attachments });
    },
  };
}

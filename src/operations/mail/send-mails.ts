import { linkFor } from "../administration/accounts";
import type { Services } from "../services";

/** A mail that could not be sent is tried again after so many minutes; after the last, as often as that. */
const againMinutes = [1, 5, 15, 60, 360] as const;
const atOnce = 50;

/** Names as mail programs show them: without characters that could write headers. */
const shownName = (name: string): string => name.replace(/[\p{Cc}\p{Cf}<>"\\]+/gu, " ").trim();

/** Sends what is due. A link is made for each mail as it is sent, and only its hash is kept. */
export async function sendMails(services: Services): Promise<{ readonly sent: number; readonly failed: number }> {
  const { address, send } = services.mailSender;
  let [sent, failed] = [0, 0];
  if (address === undefined) return { sent, failed };
  for (const { id, account, path, toAddress, toName, subject, words, tries, attachment } of await services.mails.due(services.now(), atOnce)) {
    try {
      const link = account === undefined ? "" : new URL(await linkFor(services, account, path), address).href;
      await send({ toAddress, toName: shownName(toName), subject, words: words.replace("{link}", () => link), attachment });
      await services.mails.sent(id, services.now());
      sent += 1;
    } catch (error) {
      const minutes = againMinutes[Math.min(tries, againMinutes.length - 1)] ?? 60;
      const next = new Date(Date.parse(services.now()) + minutes * 60_000).toISOString();
      await services.mails.failed(id, error instanceof Error ? error.message : String(error), next);
      failed += 1;
    }
  }
  return { sent, failed };
}

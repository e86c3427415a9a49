import type { RecordHead } from "../ports/time-stamps";
import type { Services } from "../services";

/** Queues a mail with the head to the address that is set for it. */
async function mailHead(services: Services, { number, hash }: RecordHead): Promise<void> {
  const address = services.anchorAddress;
  if (address === undefined || services.mailSender.address === undefined) return;
  const words = services.papers.mailWords({
    kind: "anchor",
    language: "en",
    name: "",
    round: "",
    due: "",
    lines: 0,
    flagged: 0,
    minutes: 0,
    signed: { statement: "", hash: "", head: { number, hash } },
  });
  const to = { toAddress: address, toName: "", account: undefined, path: "", round: undefined, docket: undefined };
  await services.mails.queue([{ ...words, ...to, kind: "anchor", dueKey: `anchor ${number}` }], services.now());
}

/**
 * Writes the present head of the record outside, and mails it where an address is set. What cannot be written there is told, and does not stop what was
 * done.
 */
export async function anchorRecord(services: Services): Promise<void> {
  const [head] = await services.record.page({}, 1);
  if (!head) return;
  await services.anchors.write(head, services.now()).catch((error: unknown) => console.error("The head of the record could not be written outside:", error));
  await mailHead(services, head);
}

const dayMs = 86_400_000;

/** The same once a day. */
export async function anchorDaily(services: Services): Promise<void> {
  const isOver = (last: string | undefined): boolean => last === undefined || Date.parse(services.now()) - Date.parse(last) >= dayMs;
  const anchors = await services.anchors.read().catch(() => undefined);
  const isFileDue = anchors !== undefined && isOver(anchors.at(-1)?.at);
  const isMailDue = services.anchorAddress !== undefined && isOver(await services.mails.lastOf("anchor"));
  if (isFileDue || isMailDue) await anchorRecord(services);
}

import type { Account } from "../ports/accounts";
import type { Language } from "@/core/certification/signing-statement";
import type { Docket, Round } from "../ports/rounds";
import type { Services } from "../services";
import { usableAddress } from "./usable-address";

/** Queues the receipt of a signature: what was signed, its hash, and with what the record ended, so that it stands outside, too. */
export async function queueReceipt(
  services: Services,
  account: Account,
  {
    round,
    docket,
    statement,
    hash,
    language,
  }: { readonly round: Round; readonly docket: Docket; readonly statement: string; readonly hash: string; readonly language: Language },
): Promise<void> {
  if (services.mailSender.address === undefined) return;
  const own = (await services.accounts.details()).find(({ id }) => id === account.id);
  const address = usableAddress(own?.email);
  const [head] = await services.record.page({}, 1);
  if (address === undefined || !head) return;
  const words = services.papers.mailWords({
    kind: "receipt",
    language,
    name: account.name,
    round: round.name,
    due: round.due,
    lines: docket.lines,
    flagged: docket.flagged,
    minutes: 0,
    signed: { statement, hash, head: { number: head.number, hash: head.hash } },
  });
  const key = `receipt ${docket.id}`;
  await services.mails.queue(
    [{ ...words, kind: "receipt", dueKey: key, round: round.id, docket: docket.id, toAddress: address, toName: account.name, account: undefined, path: "" }],
    services.now(),
  );
}

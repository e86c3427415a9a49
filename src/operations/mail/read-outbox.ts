import type { Account } from "../ports/accounts";
import type { TakenMail } from "../ports/mail";
import { demand } from "../rights";
import type { Services } from "../services";

const shown = 200;

/** What the stand-in mail server took, the latest first; undefined where a real one is used. */
export async function readOutbox(services: Services, account: Account): Promise<readonly TakenMail[] | undefined> {
  demand(account, "keep-accounts");
  return services.outbox?.list(shown);
}

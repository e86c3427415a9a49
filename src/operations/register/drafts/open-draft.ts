import type { Account } from "../../ports/accounts";
import type { Draft } from "../../ports/drafts";
import { maySee } from "./draft-register";
import { demand, may } from "../../rights";
import type { Services } from "../../services";

/** Begins a draft; gives its number. */
export async function beginDraft(services: Services, account: Account, name: string): Promise<number> {
  demand(account, "edit-drafts");
  return services.drafts.open(name, account, services.now());
}

/** The drafts that an account may see, the latest first. */
export async function listDrafts(services: Services, account: Account): Promise<Draft[]> {
  demand(account, "read-whole");
  return (await services.drafts.list()).filter((draft) => maySee(account, draft));
}

const openTo = async (services: Services, account: Account, id: number): Promise<Draft | undefined> => {
  demand(account, "edit-drafts");
  const draft = await services.drafts.byId(id);
  return draft?.state === "open" && maySee(account, draft) ? draft : undefined;
};

/** Those a draft can still be shared with: whoever may edit drafts and does not see it yet. */
export async function whoCouldShare(services: Services, draft: Draft): Promise<Account[]> {
  return (await services.accounts.all()).filter(
    (account) => may(account, "edit-drafts") && draft.owner.id !== account.id && !draft.sharedWith.some(({ id }) => id === account.id),
  );
}

/** Lets another reviewer see and change a draft; false where there is no such draft or nobody such. */
export async function shareDraft(services: Services, account: Account, id: number, withAccount: number): Promise<boolean> {
  const draft = await openTo(services, account, id);
  const other = draft && (await whoCouldShare(services, draft)).find((one) => one.id === withAccount);
  if (!other) return false;
  await services.drafts.share(id, other, account, services.now());
  return true;
}

/** Drops a draft: nothing of it happens. */
export async function dropDraft(services: Services, account: Account, id: number): Promise<boolean> {
  const draft = await openTo(services, account, id);
  return draft !== undefined && services.drafts.drop(id, account, services.now());
}

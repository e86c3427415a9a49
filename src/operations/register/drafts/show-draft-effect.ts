import type { Account } from "../../ports/accounts";
import type { EffectState } from "../../ports/draft-effects";
import { demand } from "../../rights";
import type { ServerServices } from "../../services";
import { maySee } from "./draft-register";

/**
 * What a draft does to access and findings, as far as it is worked out; `again` begins anew where that was stopped or failed. Undefined where an account may
 * not see it.
 */
export async function showDraftEffect(services: ServerServices, account: Account, id: number, again: boolean): Promise<EffectState | undefined> {
  demand(account, "read-whole");
  const [draft, snapshot] = await Promise.all([services.drafts.byId(id), services.snapshots.latest()]);
  if (!draft || !snapshot || !maySee(account, draft)) return undefined;
  return services.draftEffects.stateOf({ draft: id, revision: draft.revision, snapshot: snapshot.id }, account, again);
}

export async function stopDraftEffect(services: ServerServices, account: Account, id: number): Promise<void> {
  demand(account, "edit-drafts");
  const draft = await services.drafts.byId(id);
  if (draft && maySee(account, draft)) services.draftEffects.stop(id);
}

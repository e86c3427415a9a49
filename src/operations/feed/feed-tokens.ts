import { feedProfile } from "@/intake/formats/people/scim/people-tables";
import type { Account } from "../ports/accounts";
import type { FeedState, FeedToken } from "../ports/feeds";
import type { Actor } from "../ports/record";
import { demand } from "../rights";
import type { Services } from "../services";

export interface Feed extends FeedState {
  readonly tokens: readonly FeedToken[];
}

/** Every source that pushes people, with its tokens and what came. */
export async function listFeeds(services: Services, account: Account): Promise<readonly Feed[]> {
  demand(account, "read-whole");
  const tokens = await services.feeds.tokens();
  return (await services.feeds.states()).map((state) => ({ ...state, tokens: tokens.filter(({ source }) => source === state.source) }));
}

/** A token for a source, which is known from then on; the token is told now and never again. */
export async function makeTokenFor(services: Services, source: string, who: Actor): Promise<string> {
  const { token, hash } = services.tokens.make();
  // How its tables are read is known beforehand; it can be changed like that of a file.
  if (!(await services.sources.profile(source))) await services.sources.putProfile(source, feedProfile, who, services.now());
  await services.feeds.makeToken({ source, hash }, who, services.now());
  return token;
}

export async function makeFeedToken(services: Services, account: Account, source: string): Promise<string> {
  demand(account, "keep-accounts");
  return makeTokenFor(services, source, account);
}

/** Revokes a token: nothing is taken with it from then on. False where there was none that worked. */
export async function revokeFeedToken(services: Services, account: Account, id: number): Promise<boolean> {
  demand(account, "keep-accounts");
  return services.feeds.revokeToken(id, account, services.now());
}

import { zoneOf } from "@/core/time/zone";
import { collect } from "../feed/collect-feed";
import type { Account } from "../ports/accounts";
import type { Arrival, ArrivedBy, SourceRhythm, WaitReason } from "../ports/deliveries";
import type { FeedState } from "../ports/feeds";
import type { WaitingFile } from "../ports/source-files";
import { demand } from "../rights";
import type { ServerServices } from "../services";
import { isTime } from "./source-age";

/** Everything that is kept while it waits; what a feed pushed is replaced by what it has pushed since. */
async function keepWaiting(
  services: ServerServices,
  file: WaitingFile,
  of: { readonly source: string; readonly by: ArrivedBy; readonly asOf: string | undefined },
  why: readonly WaitReason[],
): Promise<void> {
  if (of.by === "feed")
    for (const { token, source, by } of await services.deliveries.arrivals())
      if (source === of.source && by === "feed") {
        await services.deliveries.settle(token);
        const before = await services.uploads.find(token);
        if (before) await services.uploads.drop(before);
      }
  await services.deliveries.addArrival({ ...of, token: file.token, name: file.name, at: services.now(), why });
}

/** Takes in what arrived, or lets it wait with the reasons why nobody but a person can. */
async function take(services: ServerServices, file: WaitingFile, source: string, by: ArrivedBy, asOf: string | undefined): Promise<void> {
  const taken = await services
    .takeByItself({ path: file.path, name: file.name, source, asOf })
    .catch((): { readonly outcome: "waits"; readonly why: readonly WaitReason[] } => ({ outcome: "waits", why: [{ code: "failed" }] }));
  if (taken.outcome === "waits") return keepWaiting(services, file, { source, by, asOf }, taken.why);
  if (by === "feed" && asOf !== undefined) await services.feeds.noteTaken(source, asOf);
  await services.uploads.drop(file);
}

async function pushedBy(services: ServerServices, source: string): Promise<{ readonly file: WaitingFile; readonly asOf: string } | undefined> {
  const collected = await collect(services, source);
  return collected && { file: await services.uploads.keepTexts(`pushed by ${source}`, collected.tables), asOf: collected.asOf };
}

interface Looked {
  readonly source: string;
  readonly rhythm: SourceRhythm;
  readonly feed: FeedState | undefined;
  /** What it pushed that waits already. */
  readonly waiting: Arrival | undefined;
}

async function lookAt(services: ServerServices, { source, rhythm, feed, waiting }: Looked): Promise<void> {
  if (rhythm.watched === true)
    for (const { path, name } of await services.inbox.look(source)) await take(services, await services.uploads.adopt(path, name), source, "folder", undefined);
  if (!feed || feed.changes === 0 || (rhythm.everyMinutes === undefined && rhythm.dailyAt === undefined)) return;
  // What waits already, and has not changed since, waits on.
  if (waiting?.asOf !== undefined && feed.changedAt !== undefined && feed.changedAt < waiting.asOf) return;
  const pushed = await pushedBy(services, source);
  if (pushed) await take(services, pushed.file, source, "feed", pushed.asOf);
}

/** Looks for what sources have sent: into their folders, or by pushing. */
export async function lookForArrivals(services: ServerServices): Promise<void> {
  const zone = zoneOf((await services.snapshots.latest())?.timeZone ?? "UTC");
  const feeds = new Map((await services.feeds.states()).map((state) => [state.source, state]));
  const [last, arrivals] = [await services.deliveries.last(1), await services.deliveries.arrivals()];
  let failure: unknown;
  for (const source of await services.sources.names()) {
    const rhythm = await services.sources.rhythm(source);
    const feed = feeds.get(source);
    if (rhythm.watched !== true && !feed) continue;
    const own = arrivals.filter((arrival) => arrival.source === source);
    const lastAt = [...last.filter((delivery) => delivery.source === source), ...own]
      .map(({ at }) => at)
      .sort()
      .at(-1);
    if (!isTime(rhythm, lastAt, services.now(), zone)) continue;
    // What cannot be looked at of one source, such as a folder that may not be read, keeps nobody from the others.
    await lookAt(services, { source, rhythm, feed, waiting: own.find(({ by }) => by === "feed") }).catch((error: unknown) => (failure = error));
  }
  if (failure !== undefined) throw failure instanceof Error ? failure : new Error("A source could not be looked at.");
}

/** What arrived and waits for somebody, the latest first. */
export async function listArrivals(services: ServerServices, account: Account): Promise<readonly Arrival[]> {
  demand(account, "take-in");
  return services.deliveries.arrivals();
}

/** Lets what a source has pushed until now wait to be looked at; undefined where it has pushed nothing. Gives the token of what waits. */
export async function collectPushed(services: ServerServices, account: Account, source: string): Promise<string | undefined> {
  demand(account, "take-in");
  const pushed = await pushedBy(services, source);
  if (!pushed) return undefined;
  await keepWaiting(services, pushed.file, { source, by: "feed", asOf: pushed.asOf }, [{ code: "asked" }]);
  return pushed.file.token;
}

/** Takes what arrived off the list: it was stored, or somebody discards it, which stands in the record. */
export async function settleArrival(services: ServerServices, account: Account, token: string, isStored: boolean): Promise<void> {
  demand(account, "take-in");
  const arrival = await services.deliveries.settle(token);
  // What was looked at and discarded is not brought up again, but what comes after it.
  if (arrival?.by === "feed" && arrival.asOf !== undefined) await services.feeds.noteTaken(arrival.source, arrival.asOf);
  if (isStored || !arrival) return;
  await services.record.append(account, services.now(), { what: "arrival.discarded", on: arrival.source, after: { name: arrival.name, at: arrival.at } });
  const file = await services.uploads.find(token);
  if (file) await services.uploads.drop(file);
}

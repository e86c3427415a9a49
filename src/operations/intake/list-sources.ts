import type { Brings, OwnershipProfile } from "@/core/facility/ownership";
import type { SourceProfile } from "@/intake/profile/source-profile";
import type { Account } from "../ports/accounts";
import { usableAddress } from "../mail/usable-address";
import type { OrdersTo } from "../ports/sources";
import type { SourceRhythm } from "../ports/deliveries";
import type { Feed } from "../feed/feed-tokens";
import { listFeeds } from "../feed/feed-tokens";
import { demand, may } from "../rights";
import type { ServerServices, Services } from "../services";
import { dueAt } from "./source-age";

/** A source of data with what it brought last and what its profile says. */
export interface SourceSheet {
  readonly name: string;
  /** The last snapshot that it made; undefined where it is known by its profile alone. */
  readonly snapshot: number | undefined;
  readonly brings: Brings;
  readonly owns: OwnershipProfile;
  /** Where its orders go by mail; undefined where they are only saved. */
  readonly ordersTo: OrdersTo | undefined;
  /** Files of which it is kept how their headers are understood and how they are written. */
  readonly files: readonly string[];
  /** When something of it was taken in last, and the moment for which that speaks. */
  readonly lastAt: string | undefined;
  readonly asOf: string | undefined;
  /** When it is to have sent again; undefined where nothing tells. */
  readonly dueAt: string | undefined;
  readonly isOverdue: boolean;
  readonly rhythm: SourceRhythm;
  /** The folder that is watched for it, for whoever may take in. */
  readonly folder: string | undefined;
  /** What it pushes; undefined where it has no token. */
  readonly feed: Feed | undefined;
}

/** As many deliveries show the rhythm of a source. */
const deliveriesSeen = 11;

/** The tables and calendars of which a profile says how they are read. */
const filesOf = (profile: SourceProfile | undefined): string[] => [
  ...(profile?.tables.map(({ name }) => name) ?? []),
  ...Object.keys(profile?.calendars ?? {}),
];

/** All sources, by name. */
export async function listSources(services: ServerServices, account: Account): Promise<SourceSheet[]> {
  demand(account, "read-whole");
  const feeds = await listFeeds(services, account);
  const deliveries = await services.deliveries.last(deliveriesSeen);
  const brought = new Map((await services.sources.brought()).map((one) => [one.source, one]));
  const sheets: SourceSheet[] = [];
  for (const name of await services.sources.names()) {
    const rhythm = await services.sources.rhythm(name);
    const own = deliveries.filter(({ source }) => source === name);
    const due = dueAt(
      own.map(({ at }) => at),
      rhythm,
    );
    sheets.push({
      name,
      lastAt: own[0]?.at,
      asOf: own[0]?.asOf,
      dueAt: due,
      isOverdue: due !== undefined && due < services.now(),
      rhythm,
      folder: may(account, "take-in") ? services.inbox.folderOf(name) : undefined,
      feed: feeds.find(({ source }) => source === name),
      snapshot: brought.get(name)?.snapshot,
      brings: brought.get(name)?.brings ?? {},
      owns: await services.sources.owns(name),
      ordersTo: await services.sources.ordersTo(name),
      files: filesOf(await services.sources.profile(name)),
    });
  }
  return sheets;
}

/** Says how often a source is to send and what of it is taken in by itself; false where there is no such source. */
export async function setRhythm(services: Services, account: Account, source: string, rhythm: SourceRhythm): Promise<boolean> {
  demand(account, "take-in");
  if (!(await services.sources.names()).includes(source)) return false;
  await services.sources.putRhythm(source, rhythm, account, services.now());
  return true;
}

/** Says what a source owns from its next intake on; false where there is no such source. */
export async function setOwnership(services: Services, account: Account, source: string, owns: OwnershipProfile): Promise<boolean> {
  demand(account, "take-in");
  if (!(await services.sources.names()).includes(source)) return false;
  await services.sources.putOwns(source, owns, account, services.now());
  return true;
}

/** Says where the orders of a source go by mail, or that they go nowhere by mail; false where there is no such source, or the address cannot be used. */
export async function setOrdersTo(services: Services, account: Account, source: string, to: OrdersTo | undefined): Promise<boolean> {
  demand(account, "take-in");
  if (!(await services.sources.names()).includes(source) || (to && usableAddress(to.address) === undefined)) return false;
  await services.sources.putOrdersTo(source, to, account, services.now());
  return true;
}

/** Names of the sources whose way of writing tables is known. */
export async function sourceNames(services: Services, account: Account): Promise<string[]> {
  demand(account, "take-in");
  return services.sources.names();
}

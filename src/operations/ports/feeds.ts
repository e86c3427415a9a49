import type { ResourceKind } from "@/intake/formats/people/scim/attributes";
import type { FedResource } from "@/intake/formats/people/scim/people-tables";
import type { JsonObject } from "@/intake/formats/people/scim/resource";
import type { Actor } from "./record";

export type { FedResource, JsonObject, ResourceKind };

/** A token with which a source pushes people; only its hash is kept. */
export interface FeedToken {
  readonly id: number;
  readonly source: string;
  readonly madeAt: string;
  readonly madeBy: string;
  readonly lastUsedAt: string | undefined;
  readonly revokedAt: string | undefined;
}

/** What a source has pushed, and how much of it came since it was taken in last. */
export interface FeedState {
  readonly source: string;
  readonly people: number;
  readonly groups: number;
  /** Resources that came, were changed or ended since then. */
  readonly changes: number;
  readonly changedAt: string | undefined;
}

/** Which resource: one that ended is none any more, but for whoever takes it in. */
export type FeedKey = "userName" | "externalId";

/** People and groups as sources push them, each for itself; what is pushed becomes part of the register only by an intake. */
export interface FeedStore {
  readonly tokens: () => Promise<FeedToken[]>;
  readonly makeToken: (token: { readonly source: string; readonly hash: string }, who: Actor, at: string) => Promise<void>;
  /** False where there is none that still works. */
  readonly revokeToken: (id: number, who: Actor, at: string) => Promise<boolean>;
  /** Whose token it is; undefined where it is nobody's, or revoked. */
  readonly sourceOf: (tokenHash: string, at: string) => Promise<string | undefined>;
  readonly byId: (source: string, kind: ResourceKind, id: string) => Promise<FedResource | undefined>;
  /** Those with this text there, told apart as the attribute is. */
  readonly find: (source: string, kind: ResourceKind, by: FeedKey, text: string) => Promise<FedResource[]>;
  readonly count: (source: string, kind: ResourceKind) => Promise<number>;
  /** Resources in the order in which they came, from the first after those of before on. */
  readonly page: (source: string, kind: ResourceKind, skip: number, limit: number) => Promise<FedResource[]>;
  /** All of a kind, some at a time, in that order. */
  readonly each: (source: string, kind: ResourceKind) => AsyncIterable<FedResource>;
  /** Everything of a source, with what ended. */
  readonly all: (source: string) => Promise<FedResource[]>;
  /** Refused where another has this `userName`, or there are too many. */
  readonly create: (source: string, kind: ResourceKind, body: JsonObject, at: string) => Promise<FedResource | "taken" | "too-many">;
  /** Puts a body in the place of that of a version. */
  readonly change: (
    source: string,
    kind: ResourceKind,
    of: { readonly id: string; readonly version: number },
    body: JsonObject,
    at: string,
  ) => Promise<FedResource | "taken" | "changed-meanwhile">;
  /** Ends a resource of a version; it stays for the register. */
  readonly end: (source: string, kind: ResourceKind, of: { readonly id: string; readonly version: number }, at: string) => Promise<boolean>;
  readonly states: () => Promise<FeedState[]>;
  /** Notes that what came until then was taken in. */
  readonly noteTaken: (source: string, at: string) => Promise<void>;
}

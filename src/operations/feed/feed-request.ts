/** A request of a source to the service for people, as the route read it. */
export interface FeedRequest {
  readonly method: string;
  /** What follows the address of the service, in parts. */
  readonly path: readonly string[];
  readonly query: Readonly<Record<string, string>>;
  /** The body, read as JSON; undefined where there was none. */
  readonly body: unknown;
  readonly ifMatch: string | undefined;
  readonly ifNoneMatch: string | undefined;
  /** The address of the service itself. */
  readonly base: string;
}

export interface FeedAnswer {
  readonly status: number;
  readonly body?: object;
  readonly headers?: Readonly<Record<string, string>>;
}

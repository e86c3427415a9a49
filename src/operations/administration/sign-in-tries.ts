/** How many tries of a window may fail: of one name, from one source, and of the whole server. */
export interface TryLimits {
  readonly perName: number;
  readonly perSource: number;
  readonly perServer: number;
  readonly windowMinutes: number;
}

export const tryLimits: TryLimits = { perName: 5, perSource: 20, perServer: 200, windowMinutes: 15 };

/** A try under way: it counts as failed from its beginning, until it is known to be right. */
export interface Try {
  readonly succeeded: () => void;
}

export interface SignInTries {
  /** Begins a try; undefined where there were too many that failed. `now` in milliseconds. */
  readonly begin: (name: string, source: string, now: number) => Try | undefined;
}

/**
 * Limits the tries to sign in, whether or not there is such a name: a limit that only existing names had would tell which exist. A try
 * is counted before its password is looked at, so that many at once do not all pass the limit. No more tries are remembered than
 * the whole server may fail in a window.
 */
export function signInTries({ perName, perSource, perServer, windowMinutes }: TryLimits = tryLimits): SignInTries {
  let tries: { readonly name: string; readonly source: string; readonly at: number }[] = [];
  return {
    begin: (name, source, now) => {
      tries = tries.filter(({ at }) => Math.abs(now - at) < windowMinutes * 60_000);
      const mine = { name, source, at: now };
      if (
        tries.length >= perServer ||
        tries.filter((one) => one.name === name).length >= perName ||
        tries.filter((one) => one.source === source).length >= perSource
      )
        return undefined;
      tries.push(mine);
      return { succeeded: () => (tries = tries.filter((one) => one.name !== name && one !== mine)) };
    },
  };
}

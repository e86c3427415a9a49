/**
 * An object whose every method is one call with its name. The type says which methods there are; that the other side has just those is for
 * whoever uses it to promise, which a type derived from what the other side exports does.
 */
export const calledByName = <T extends object>(call: (name: string, asked: readonly never[]) => unknown): T =>
  new Proxy({} as T, { get: (_, name) => (...asked: readonly never[]) => call(String(name), asked) });

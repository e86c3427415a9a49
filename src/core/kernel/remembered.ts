/** Remembers what is worked out for a key. */
export function remembered<K, V>(workOut: (key: K) => V): (key: K) => V {
  const known = new Map<K, V>();
  return (key) => {
    const found = known.get(key);
    if (found !== undefined || known.has(key)) return found as V;
    const made = workOut(key);
    known.set(key, made);
    return made;
  };
}

/** Remembers what is worked out for a list of objects, by which these are and in which order. */
export function rememberedByList<K extends object, V>(workOut: (items: readonly K[]) => V): (items: readonly K[]) => V {
  let count = 0;
  const numberOf = remembered((_: K): number => count++);
  const known = new Map<string, V>();
  return (items) => {
    const key = items.map(numberOf).join(" ");
    const found = known.get(key);
    if (found !== undefined || known.has(key)) return found as V;
    const made = workOut(items);
    known.set(key, made);
    return made;
  };
}

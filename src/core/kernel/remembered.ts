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

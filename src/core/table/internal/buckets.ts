/** Index b .. b + 1 of the result bounds the places of bucket b, of which `count` adds each place. */
export function bucketStarts(bucketCount: number, count: (add: (bucket: number) => void) => void): Int32Array {
  const start = new Int32Array(bucketCount + 1);
  count((bucket) => (start[bucket + 1] = (start[bucket + 1] as number) + 1));
  for (let i = 0; i < bucketCount; i++) start[i + 1] = (start[i + 1] as number) + (start[i] as number);
  return start;
}

/** Positions by their bucket: index b .. b + 1 of `start` bounds the members of bucket b, in order of position. */
export function buckets(bucketOf: Int32Array, count: number): { readonly start: Int32Array; readonly members: Int32Array } {
  const start = bucketStarts(count, (add) => {
    for (let i = 0; i < bucketOf.length; i++) add(bucketOf[i] as number);
  });
  const members = new Int32Array(bucketOf.length);
  const next = start.slice();
  for (let i = 0; i < bucketOf.length; i++) {
    const bucket = bucketOf[i] as number;
    members[next[bucket] as number] = i;
    next[bucket] = (next[bucket] as number) + 1;
  }
  return { start, members };
}


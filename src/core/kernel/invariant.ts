/** Throws when something that this program promises itself does not hold: a defect of ours, never of the data. */
export function invariant(condition: unknown, promise: string): asserts condition {
  if (!condition) throw new Error(`Broken promise: ${promise}`);
}

/** The value, where the program itself guarantees that there is one. */
export function required<T>(value: T | undefined | null, promise: string): T {
  invariant(value !== undefined && value !== null, promise);
  return value;
}

/** For the branch of a switch that no member of a closed union can reach. */
export function unreachable(value: never): never {
  throw new Error(`Broken promise: no case for ${JSON.stringify(value)}`);
}

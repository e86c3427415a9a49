import { Stopped } from "../nomade";

/** What work gives; undefined where it was stopped. */
export async function unlessStopped<T>(work: () => Promise<T>): Promise<T | undefined> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof Stopped) return undefined;
    throw error;
  }
}

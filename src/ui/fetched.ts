import { useQueries, useQuery } from "@tanstack/react-query";

/** What an address gave: it is awaited, there, or could not be had. */
export type Fetched<T> = { readonly state: "awaited" } | { readonly state: "there"; readonly value: T } | { readonly state: "failed" };

/** A page that was looked at a moment ago is not asked for again. */
const freshMs = 60_000;

async function load<T>(address: string, signal: AbortSignal): Promise<T> {
  const response = await fetch(address, { signal });
  if (!response.ok) throw new Error(`${address}: ${response.status}`);
  return (await response.json()) as T;
}

const queryOf = <T>(address: string | undefined, first?: T) => ({
  queryKey: ["fetched", address],
  queryFn: ({ signal }: { readonly signal: AbortSignal }) => load<T>(address ?? "", signal),
  enabled: address !== undefined,
  staleTime: freshMs,
  retry: false,
  ...(first !== undefined && { initialData: first as T & (() => T) }),
});

const fetched = <T>({ data, isError }: { readonly data: T | undefined; readonly isError: boolean }): Fetched<T> =>
  data !== undefined ? { state: "there", value: data } : isError ? { state: "failed" } : { state: "awaited" };

/**
 * What an address gives as JSON, asked for once by everything on the page; nothing is asked for where there is no address. `first` is what came with
 * the page, if that was the same.
 */
export const useFetched = <T>(address: string | undefined, first?: T): Fetched<T> => fetched<T>(useQuery(queryOf<T>(address, first)));

/** The same of several addresses, in their order. */
export const useAllFetched = <T>(addresses: readonly string[]): Fetched<T>[] =>
  useQueries({ queries: addresses.map((address) => queryOf<T>(address)) }).map((one) => fetched<T>(one));

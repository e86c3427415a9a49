/** Whether the host of an address, as a request names it, is this machine itself: there alone may a session go unencrypted. */
export function isLoopback(host: string): boolean {
  const name = host
    .trim()
    .toLowerCase()
    .replace(/:\d+$/, "")
    .replace(/^\[|\]$/g, "");
  return name === "localhost" || name === "::1" || /^127\.\d{1,3}\.\d{1,3}\.\d{1,3}$/.test(name);
}

/** Where a request comes from: what the last one who passed it on says of its own asker. */
export const sourceOf = (headers: Pick<Headers, "get">): string => headers.get("x-forwarded-for")?.split(",").at(-1)?.trim() ?? "unknown";

/** Whether a request was sent by a page of another site: such a page must not send files here with the session of who is signed in. */
export function comesFromElsewhere(request: Request): boolean {
  const origin = request.headers.get("origin");
  // A page without an address of its own, such as one in a sandbox, says "null".
  return origin !== null && (!URL.canParse(origin) || new URL(origin).host !== request.headers.get("host"));
}

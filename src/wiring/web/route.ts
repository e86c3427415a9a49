import { Interrupted, TookTooLong } from "@/jobs/asking-pool";
import type { Account } from "@/operations/ports/accounts";
import { AlteredSnapshot } from "@/operations/ports/snapshots";
import { NotAllowed } from "@/operations/rights";
import type { Right } from "@/operations/rights";
import { accountForRoute } from "./web-session";

/** What every reply of a route bears: it is nobody else's, is kept nowhere, and is taken for nothing that it does not say it is. */
export const replyHeaders = {
  "cache-control": "private, no-store",
  "x-content-type-options": "nosniff",
  "referrer-policy": "same-origin",
  "content-security-policy": "default-src 'none'; frame-ancestors 'none'",
};

function withReplyHeaders(response: Response): Response {
  for (const [name, value] of Object.entries(replyHeaders)) if (!response.headers.has(name)) response.headers.set(name, value);
  return response;
}

/** What a missing right is called on its way between threads. */
const notAllowed: NotAllowed["name"] = "NotAllowed";

export const refuse = (error: string, status: number): Response => Response.json({ error }, { status });

/** What somebody is told where a route failed; what it was stands in the server's messages. */
function failed({ method, url }: Request, error: unknown): Response {
  if (error instanceof TookTooLong || error instanceof Interrupted) return refuse(error.message, 503);
  if (error instanceof NotAllowed || (error instanceof Error && error.name === notAllowed)) return refuse("There is nothing here for this account.", 404);
  if (error instanceof URIError) return refuse("A % in the address or in a file’s name is followed by no two digits of a character.", 400);
  if (error instanceof AlteredSnapshot) return refuse(error.message, 409);
  console.error(`${method} ${new URL(url).pathname} failed:`, error);
  return refuse("Something went wrong on the server, and this was not answered. The server’s messages say more.", 500);
}

/** A route handler for accounts with a right: no reply without a reason, and none that another site or a cache keeps. */
export const route =
  <P = Record<never, never>>(right: Right, handle: (account: Account, request: Request, params: P) => Promise<Response> | Response) =>
  async (request: Request, { params }: { readonly params: Promise<P> }): Promise<Response> => {
    try {
      const account = await accountForRoute(right);
      return withReplyHeaders(account instanceof Response ? account : await handle(account, request, await params));
    } catch (error) {
      return withReplyHeaders(failed(request, error));
    }
  };

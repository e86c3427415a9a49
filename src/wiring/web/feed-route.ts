import { headers } from "next/headers";
import { addressAsked } from "../environment";
import { nomade } from "../nomade";
import { replyHeaders } from "./route";

const type = "application/scim+json; charset=utf-8";
/** A body of more bytes is not read: a group of a hundred thousand people is smaller. */
const mostBytes = 16 * 1024 * 1024;

/** The address that sources push to. */
export const feedAddress = async (): Promise<string> => new URL("/scim/v2", addressAsked((await headers()).get("host") ?? "127.0.0.1")).href;

class TooLong extends Error {}

const reply = (status: number, body?: object, more: Readonly<Record<string, string>> = {}): Response =>
  new Response(body === undefined ? null : JSON.stringify(body), {
    status,
    headers: { ...replyHeaders, ...(body !== undefined && { "content-type": type }), ...more },
  });

const refusal = (status: number, detail: string, more: object = {}): object => ({
  schemas: ["urn:ietf:params:scim:api:messages:2.0:Error"],
  status: String(status),
  ...more,
  detail,
});

async function textOf(request: Request): Promise<string> {
  const chunks: Uint8Array[] = [];
  let bytes = 0;
  for await (const chunk of request.body ?? []) {
    bytes += chunk.byteLength;
    if (bytes > mostBytes) throw new TooLong();
    chunks.push(chunk);
  }
  return Buffer.concat(chunks).toString("utf8");
}

/** The token of a request, as RFC 6750 has it; empty where there is none. */
const tokenOf = (request: Request): string => /^Bearer +([A-Za-z0-9._~+/=-]+)$/i.exec(request.headers.get("authorization") ?? "")?.[1] ?? "";

/** Answers a source that pushes people (RFC 7644): whose token it is decides whose people these are. */
export async function feedRoute(request: Request, { params }: { readonly params: Promise<{ readonly path?: readonly string[] }> }): Promise<Response> {
  try {
    const source = await nomade.sourceOfToken(tokenOf(request));
    if (source === undefined)
      return reply(401, refusal(401, "There is no token here that works. An administrator makes one for each source."), {
        "www-authenticate": 'Bearer realm="Nomade"',
      });
    const text = request.method === "GET" || request.method === "DELETE" ? "" : await textOf(request);
    let body: unknown;
    try {
      body = text === "" ? undefined : JSON.parse(text);
    } catch {
      return reply(400, refusal(400, "The body is no JSON.", { scimType: "invalidSyntax" }));
    }
    const { path = [] } = await params;
    const answer = await nomade.answerFeed(source, {
      method: request.method,
      path,
      query: Object.fromEntries(new URL(request.url).searchParams),
      body,
      ifMatch: request.headers.get("if-match") ?? undefined,
      ifNoneMatch: request.headers.get("if-none-match") ?? undefined,
      base: new URL("/scim/v2", addressAsked(request.headers.get("host") ?? "127.0.0.1")).href,
    });
    return reply(answer.status, answer.body, answer.headers);
  } catch (error) {
    if (error instanceof TooLong) return reply(413, refusal(413, `The body has more than ${mostBytes / 1024 / 1024} MB; expected a smaller one.`));
    if (error instanceof URIError) return reply(400, refusal(400, "A % in the address is followed by no two digits of a character."));
    console.error(`${request.method} ${new URL(request.url).pathname} failed:`, error);
    return reply(500, refusal(500, "Something went wrong on the server. Its messages say more."));
  }
}

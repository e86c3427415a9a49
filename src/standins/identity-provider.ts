import { createHash, randomBytes, timingSafeEqual } from "node:crypto";
import { createServer } from "node:http";
import type { IncomingMessage, ServerResponse } from "node:http";
import type { AddressInfo } from "node:net";
import { exportJWK, generateKeyPair, SignJWT } from "jose";
import type { JWTPayload } from "jose";

/** Somebody who can sign in at the stand-in. */
export interface KnownPerson {
  readonly name: string;
  readonly signIn: string;
  readonly password: string;
  readonly email?: string | undefined;
  readonly staffNumber?: string | undefined;
}

export interface ProviderSettings {
  readonly port: number;
  readonly clientId: string;
  /** The one address to which people are sent back. */
  readonly back: string;
  readonly people: readonly KnownPerson[];
  /** For tests: says something else in a token than was asked for, or gives another token. */
  readonly alterClaims?: (claims: JWTPayload) => JWTPayload;
  readonly alterToken?: (token: string) => string;
}

interface Grant {
  readonly person: KnownPerson;
  readonly challenge: string;
  readonly nonce: string | undefined;
  readonly withFactor: boolean;
  readonly until: number;
}

const codeMs = 60_000;
const largest = 20_000;

const escaped = (text: string): string => text.replace(/[<>&"]/g, (sign) => ({ "<": "&lt;", ">": "&gt;", "&": "&amp;", '"': "&quot;" })[sign] ?? sign);

const isSame = (a: string, b: string): boolean => {
  const [first, second] = [a, b].map((text) => createHash("sha256").update(text).digest());
  return first !== undefined && second !== undefined && timingSafeEqual(first, second);
};

async function formOf(request: IncomingMessage): Promise<URLSearchParams> {
  let text = "";
  for await (const piece of request) {
    text += String(piece);
    if (text.length > largest) throw new Error("too large");
  }
  return new URLSearchParams(text);
}

const send = (response: ServerResponse, status: number, type: string, body: string): void => {
  response.writeHead(status, { "content-type": type, "cache-control": "no-store" }).end(body);
};
const sendJson = (response: ServerResponse, status: number, body: object): void => send(response, status, "application/json", JSON.stringify(body));

const page = (words: string, fields: string): string => `<!doctype html><html lang="en"><meta charset="utf-8"><title>Invented identity provider</title>
<style>body{font:16px/1.5 sans-serif;max-width:26em;margin:4em auto;padding:0 1em}label{display:block;margin:.8em 0}input[type=text],input[type=password]{width:100%;padding:.4em;box-sizing:border-box}button{padding:.5em 1.2em}</style>
<h1>Invented identity provider</h1><p>It ships to try single sign-on with, and knows nobody but the demo’s people.</p>${words === "" ? "" : `<p role="alert"><strong>${escaped(words)}</strong></p>`}${fields}</html>`;

/** The fields of a request that are carried through the form. */
const carried = ["client_id", "redirect_uri", "response_type", "scope", "state", "nonce", "code_challenge", "code_challenge_method"] as const;

function formPage(asked: URLSearchParams, words: string): string {
  const hidden = carried.map((name) => `<input type="hidden" name="${name}" value="${escaped(asked.get(name) ?? "")}">`).join("");
  return page(
    words,
    `<form method="post" action="/authorize">${hidden}<label>Name <input type="text" name="name" autofocus required></label><label>Password <input type="password" name="password" required></label><label><input type="checkbox" name="factor" value="yes"> as if a second factor was given</label><button>Go on</button></form>`,
  );
}

/** A small identity provider for OpenID Connect on loopback: authorization code with PKCE, and nothing else. Its key is made anew at each start. */
export async function startIdentityProvider(settings: ProviderSettings): Promise<{ readonly issuer: string; readonly stop: () => Promise<void> }> {
  const { privateKey, publicKey } = await generateKeyPair("RS256");
  const key = { ...(await exportJWK(publicKey)), use: "sig", alg: "RS256", kid: randomBytes(8).toString("hex") };
  const grants = new Map<string, Grant>();
  let issuer = "";

  /** What is wrong with a request to sign somebody in; nobody is sent back to an address that is not ours. */
  const wrong = (asked: URLSearchParams): string | undefined => {
    if (asked.get("client_id") !== settings.clientId) return "This client is not known here.";
    if (asked.get("redirect_uri") !== settings.back) return "This address to come back to is not the one that is known here.";
    if (asked.get("response_type") !== "code" || !(asked.get("scope") ?? "").split(" ").includes("openid")) return "Expected an authorization code for openid.";
    return asked.get("code_challenge_method") === "S256" && asked.get("code_challenge") ? undefined : "Expected PKCE with S256.";
  };

  const authorize = async (request: IncomingMessage, response: ServerResponse, query: URLSearchParams): Promise<void> => {
    const asked = request.method === "POST" ? await formOf(request) : query;
    const refusal = wrong(asked);
    if (refusal !== undefined) return send(response, 400, "text/html", page(refusal, ""));
    if (request.method !== "POST") return send(response, 200, "text/html", formPage(asked, ""));
    const person = settings.people.find(({ signIn }) => signIn === asked.get("name"));
    if (!isSame(asked.get("password") ?? "", person?.password ?? "") || !person)
      return send(response, 200, "text/html", formPage(asked, "Name and password do not go together."));
    const code = randomBytes(24).toString("base64url");
    grants.set(code, {
      person,
      challenge: asked.get("code_challenge") ?? "",
      nonce: asked.get("nonce") ?? undefined,
      withFactor: asked.get("factor") === "yes",
      until: Date.now() + codeMs,
    });
    const back = new URL(settings.back);
    back.searchParams.set("code", code);
    back.searchParams.set("state", asked.get("state") ?? "");
    back.searchParams.set("iss", issuer);
    response.writeHead(303, { location: back.href }).end();
  };

  const token = async (request: IncomingMessage, response: ServerResponse): Promise<void> => {
    const asked = await formOf(request);
    const code = asked.get("code") ?? "";
    const grant = grants.get(code);
    // A code works once, whatever comes of it.
    grants.delete(code);
    const challenge = createHash("sha256")
      .update(asked.get("code_verifier") ?? "")
      .digest("base64url");
    if (
      !grant ||
      grant.until < Date.now() ||
      challenge !== grant.challenge ||
      asked.get("redirect_uri") !== settings.back ||
      asked.get("client_id") !== settings.clientId
    )
      return sendJson(response, 400, { error: "invalid_grant" });
    const { person, nonce, withFactor } = grant;
    const claims: JWTPayload = {
      ...(nonce !== undefined && nonce !== "" && { nonce }),
      name: person.name,
      ...(person.email !== undefined && { email: person.email, email_verified: true }),
      ...(person.staffNumber !== undefined && { staff_number: person.staffNumber }),
      amr: withFactor ? ["pwd", "otp", "mfa"] : ["pwd"],
    };
    const signed = await new SignJWT(settings.alterClaims?.(claims) ?? claims)
      .setProtectedHeader({ alg: "RS256", kid: key.kid })
      .setIssuer(issuer)
      .setSubject(person.signIn)
      .setAudience(settings.clientId)
      .setIssuedAt()
      .setExpirationTime("5m")
      .sign(privateKey);
    sendJson(response, 200, {
      access_token: randomBytes(24).toString("base64url"),
      token_type: "Bearer",
      expires_in: 300,
      id_token: settings.alterToken?.(signed) ?? signed,
    });
  };

  const answer = async (request: IncomingMessage, response: ServerResponse): Promise<void> => {
    const { pathname, searchParams } = new URL(request.url ?? "/", issuer);
    switch (pathname) {
      case "/.well-known/openid-configuration":
        return sendJson(response, 200, {
          issuer,
          authorization_endpoint: `${issuer}/authorize`,
          token_endpoint: `${issuer}/token`,
          jwks_uri: `${issuer}/keys`,
          response_types_supported: ["code"],
          subject_types_supported: ["public"],
          id_token_signing_alg_values_supported: ["RS256"],
          code_challenge_methods_supported: ["S256"],
          token_endpoint_auth_methods_supported: ["none"],
          authorization_response_iss_parameter_supported: true,
        });
      case "/keys":
        return sendJson(response, 200, { keys: [key] });
      case "/authorize":
        return authorize(request, response, searchParams);
      case "/token":
        return request.method === "POST" ? token(request, response) : sendJson(response, 405, { error: "invalid_request" });
      default:
        return send(response, 404, "text/plain", "There is nothing here.");
    }
  };

  const server = createServer((request, response) => {
    answer(request, response).catch(() => {
      if (!response.headersSent) sendJson(response, 400, { error: "invalid_request" });
    });
  });
  await new Promise<void>((resolve, reject) => {
    server.once("error", reject);
    server.listen(settings.port, "127.0.0.1", resolve);
  });
  issuer = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  return {
    issuer,
    stop: () =>
      new Promise((resolve) => {
        server.close(() => resolve());
        server.closeAllConnections();
      }),
  };
}

import { cookies, headers } from "next/headers";
import { openAhead } from "../nomade";
import { isLoopback, sourceOf } from "./request-address";
import { sessionCookie } from "./web-session";

/** Gives the browser the token of a session that was opened. */
export async function keepSession(token: string): Promise<void> {
  const asked = await headers();
  // Whoever signs in will ask of the register soon: it is opened meanwhile.
  openAhead();
  (await cookies()).set(sessionCookie, token, { httpOnly: true, sameSite: "lax", path: "/", secure: !isLoopback(asked.get("host") ?? "") });
}

/** Where a request comes from, and what it calls itself. */
export async function asker(): Promise<{ readonly source: string; readonly agent: string }> {
  const asked = await headers();
  return { source: sourceOf(asked), agent: asked.get("user-agent") ?? "" };
}

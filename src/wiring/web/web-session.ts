import { cookies } from "next/headers";
import { notFound, redirect } from "next/navigation";
import type { Account } from "@/operations/ports/accounts";
import type { Right } from "@/operations/rights";
import { may, nomade } from "../nomade";

export const sessionCookie = "nomade-session";

/** The account that a request comes from; undefined for none. */
export async function accountOfRequest(): Promise<Account | undefined> {
  const token = (await cookies()).get(sessionCookie)?.value;
  return token === undefined ? undefined : nomade.whoIs(token);
}

/** The token of the request’s session; empty for none. */
export const sessionToken = async (): Promise<string> => (await cookies()).get(sessionCookie)?.value ?? "";

/** For a page of one’s own: to the sign-in page without a session. */
export async function ownAccount(): Promise<Account> {
  const account = await accountOfRequest();
  if (!account) redirect("/sign-in");
  return account;
}

/** For a page that needs a right: without a session to the sign-in page, without the right there is no such page. */
export async function accountWith(right: Right): Promise<Account> {
  const account = await accountOfRequest();
  if (!account) redirect("/sign-in");
  if (account.setUp) redirect("/account");
  if (!may(account, right)) notFound();
  return account;
}

/** For a route handler that needs a right: the account, or the response that refuses. */
export async function accountForRoute(right: Right): Promise<Account | Response> {
  const account = await accountOfRequest();
  if (!account) return Response.json({ error: "Nobody is signed in. Sign in and try again." }, { status: 401 });
  if (account.setUp) return Response.json({ error: "Set up the second factor that this role asks for first." }, { status: 403 });
  if (!may(account, right)) return Response.json({ error: "There is nothing here for this account." }, { status: 404 });
  return account;
}

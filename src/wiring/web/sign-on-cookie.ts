import { cookies, headers } from "next/headers";
import { isLoopback } from "./request-address";

const name = "nomade-sign-on";
const path = "/sign-in/on";
const seconds = 600;

/** Keeps, sealed, what was asked of the identity provider until somebody comes back from it. */
export async function keepAskedSignOn(kept: string): Promise<void> {
  const secure = !isLoopback((await headers()).get("host") ?? "");
  (await cookies()).set(name, kept, { httpOnly: true, sameSite: "lax", path, maxAge: seconds, secure });
}

/** What was kept, once: it is taken away. Empty where there is nothing. */
export async function takeAskedSignOn(): Promise<string> {
  const jar = await cookies();
  const kept = jar.get(name)?.value ?? "";
  jar.delete({ name, path });
  return kept;
}

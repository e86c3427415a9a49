import { redirect } from "next/navigation";
import { nomade } from "@/wiring/nomade";
import { takeAskedSignOn } from "@/wiring/web/sign-on-cookie";
import { asker, keepSession } from "@/wiring/web/new-session";

/** Whoever comes back from the identity provider. */
export async function GET(request: Request): Promise<Response> {
  const { search } = new URL(request.url);
  const done = await nomade.finishSignOn({ kept: await takeAskedSignOn(), query: search, ...(await asker()) });
  if (done.outcome === "refused") redirect(`/sign-in?refused=${done.why}`);
  await keepSession(done.token);
  redirect("/");
}

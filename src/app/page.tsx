import { redirect } from "next/navigation";
import { may } from "@/wiring/nomade";
import { accountOfRequest } from "@/wiring/web/web-session";

export default async function Home() {
  const account = await accountOfRequest();
  if (!account) redirect("/sign-in");
  redirect(may(account, "ask") ? "/inquiry" : "/docket");
}

import { redirect } from "next/navigation";
import { nomade } from "@/wiring/nomade";
import { accountOfRequest } from "@/wiring/web-session";

export default async function Home() {
  const account = await accountOfRequest();
  if (!account) redirect("/sign-in");
  redirect(nomade.may(account, "ask") ? "/inquiry" : "/docket");
}

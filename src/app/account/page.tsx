import { redirect } from "next/navigation";
import { OwnAccountView } from "@/features/administration/own-account-view";
import { may, nomade } from "@/wiring/nomade";
import { ownLanguage } from "@/wiring/web/docket-language";
import { ownAccount, sessionToken } from "@/wiring/web/web-session";
import { changePassword, confirm, drop, endSession, offer } from "./actions";

export default async function AccountPage() {
  const account = await ownAccount();
  const own = await nomade.showOwnAccount(account, await sessionToken());
  if (!own) redirect("/sign-in");
  const back = account.setUp ? undefined : may(account, "ask") ? "/" : "/docket";
  return <OwnAccountView own={own} actions={{ changePassword, endSession, offer, confirm, drop }} back={back} language={await ownLanguage(account)} />;
}

import { MyDocketsView } from "@/features/certification/my-dockets-view";
import { nomade } from "@/wiring/nomade";
import { docketLanguage } from "@/wiring/web/docket-language";
import { accountWith } from "@/wiring/web/web-session";
import { signOut } from "../sign-in/actions";

export default async function MyDocketsPage() {
  const account = await accountWith("certify");
  const dockets = await nomade.myDockets(account);
  return <MyDocketsView dockets={dockets} name={account.name} account={account.id} language={await docketLanguage(account)} signOut={signOut} />;
}

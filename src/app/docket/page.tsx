import { MyDocketsView } from "@/features/certification/my-dockets-view";
import { nomade } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";
import { signOut } from "../sign-in/actions";

export default async function MyDocketsPage() {
  const account = await accountWith("certify");
  return <MyDocketsView dockets={await nomade.myDockets(account)} name={account.name} signOut={signOut} />;
}

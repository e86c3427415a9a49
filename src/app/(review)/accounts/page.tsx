import { AccountsView } from "@/features/administration/accounts-view";
import { asking } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";
import { add, askFactor, change, end, reset } from "./actions";

export default async function AccountsPage() {
  const account = await accountWith("keep-accounts");
  return <AccountsView list={await asking.listAccounts(account)} own={account.id} actions={{ add, change, end, reset, askFactor }} />;
}

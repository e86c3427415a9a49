import { listOfAddress } from "@/features/register/list-address";
import { RegisterView } from "@/features/register/register-view";
import { NoRegister } from "@/features/shell/no-register";
import { rowsAPage } from "@/features/register/rows-a-page";
import { asking, nomade } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";

export default async function RegisterPage({ searchParams }: { readonly searchParams: Promise<Record<string, string>> }) {
  const account = await accountWith("read-register");
  const address = listOfAddress(new URLSearchParams(await searchParams));
  const [first, snapshots] = await Promise.all([
    asking.listRegister(account, address.snapshot, address, { offset: 0, limit: rowsAPage, withChoices: true }),
    nomade.snapshotChoices(account),
  ]);
  if (!first) return <NoRegister />;
  return <RegisterView address={address} first={first} snapshots={snapshots} />;
}

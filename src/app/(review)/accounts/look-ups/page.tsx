import { LookUpsView } from "@/features/administration/look-ups-view";
import { nomade } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";

export default async function LookUpsPage({ searchParams }: { readonly searchParams: Promise<{ text?: string | string[]; before?: string | string[] }> }) {
  const account = await accountWith("keep-accounts");
  const { text, before } = await searchParams;
  const asked = typeof text === "string" ? text.slice(0, 200) : "";
  const from = typeof before === "string" && /^[1-9]\d{0,14}$/.test(before) ? Number(before) : undefined;
  return <LookUpsView lookUps={await nomade.listLookUps(account, asked, from)} text={asked} isLater={from !== undefined} />;
}

import { ruleOf } from "@/core/findings/catalogue";
import { FindingsView } from "@/features/findings/findings-view";
import { NoRegister } from "@/features/shell/no-register";
import { notRead } from "@/features/words/not-read";
import { nomade } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web-session";

export default async function FindingsPage({ searchParams }: { readonly searchParams: Promise<{ rule?: string }> }) {
  const account = await accountWith("read-findings");
  const asked = (await searchParams).rule;
  const rule = asked !== undefined && ruleOf(asked) ? asked : undefined;
  const [found, snapshot] = await Promise.all([nomade.findings(account, rule), nomade.latestSnapshot()]);
  if (!found || !snapshot) return <NoRegister />;
  return <FindingsView key={rule ?? "all"} findings={found.findings} counts={found.counts} rule={rule} reference={`Findings of snapshot ${snapshot.id}${notRead(snapshot)}`} />;
}

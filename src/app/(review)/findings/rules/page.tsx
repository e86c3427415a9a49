import { allRules, isRuleKey } from "@/core/findings/catalogue";
import { RulesView } from "@/features/findings/rules-view";
import { nomade } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";

interface Props {
  readonly searchParams: Promise<{ rule?: string }>;
}

export default async function RulesPage({ searchParams }: Props) {
  const account = await accountWith("read-findings");
  const { rule } = await searchParams;
  const asked = rule !== undefined && isRuleKey(rule) ? rule : undefined;
  const [snapshot, inForce] = [await nomade.snapshotWithFindings(account, undefined), await nomade.rulesInForce(account)];
  const rules = allRules.map(({ key, source }) => ({ key, source, ...inForce[key] }));
  return <RulesView key={asked ?? ""} rules={rules} asked={asked} timeZone={snapshot?.timeZone} />;
}

import { catalogue } from "@/core/findings/catalogue";
import { isRuleKey } from "@/core/findings/finding";
import { RulesView } from "@/features/findings/rules-view";
import { accountWith } from "@/wiring/web/web-session";

interface Props {
  readonly searchParams: Promise<{ rule?: string }>;
}

export default async function RulesPage({ searchParams }: Props) {
  await accountWith("read-findings");
  const { rule } = await searchParams;
  const asked = catalogue.find(({ key }) => key === rule)?.key;
  const rules = catalogue.map(({ key, base, source, parameters }) => ({ key, base, source, parameters, isLookedFor: isRuleKey(key) }));
  return <RulesView key={asked ?? ""} rules={rules} asked={asked} />;
}

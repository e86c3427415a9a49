import { allRules } from "@/core/findings/catalogue";
import { SettingsView } from "@/features/findings/settings-view";
import { NoRegister } from "@/features/shell/no-register";
import { asking, may, nomade } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";
import { confirmRuleSettings, dropRuleSettings, keepRuleSettings, previewRuleSettings } from "./actions";

export default async function SettingsPage() {
  const account = await accountWith("read-findings");
  const [shown, snapshot] = await Promise.all([asking.showRuleSettings(account, undefined), nomade.latestSnapshot()]);
  if (!shown || !snapshot) return <NoRegister />;
  return (
    <SettingsView
      key={shown.version}
      shown={shown}
      rules={allRules.map(({ key, base, source, parameters }) => ({ key, base, source, parameters }))}
      timeZone={snapshot.timeZone}
      mayEdit={may(account, "set-rules")}
      actions={{ preview: previewRuleSettings, keep: keepRuleSettings, confirm: confirmRuleSettings, drop: dropRuleSettings }}
    />
  );
}

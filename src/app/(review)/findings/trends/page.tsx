import { TrendsView } from "@/features/findings/trends-view";
import { NoRegister } from "@/features/shell/no-register";
import { asking, nomade } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";

export default async function TrendsPage() {
  const account = await accountWith("read-findings");
  const snapshot = await nomade.snapshotWithFindings(account, undefined);
  const trends = snapshot && (await asking.findingTrends(account, snapshot.id));
  return trends ? <TrendsView trends={trends} /> : <NoRegister />;
}

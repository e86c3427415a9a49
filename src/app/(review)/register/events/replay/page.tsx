import { ReplayView } from "@/features/events/replay-view";
import { NoRegister } from "@/features/shell/no-register";
import { nomade } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";
import { replayEvents } from "../actions";

export default async function ReplayPage() {
  const account = await accountWith("read-whole");
  const dates = await nomade.datesOfEvents(account);
  if (!dates) return <NoRegister />;
  return <ReplayView span={dates.span} usual={dates.usual} replay={replayEvents} />;
}

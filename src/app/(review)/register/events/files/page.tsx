import { EventFilesView } from "@/features/events/files-view";
import { may, nomade } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";
import { withdrawEvents } from "../actions";

export default async function EventFilesPage() {
  const account = await accountWith("read-whole");
  const [files, snapshot] = await Promise.all([nomade.listEventFiles(account), nomade.latestSnapshot()]);
  return <EventFilesView files={files} mayWithdraw={may(account, "take-in")} withdraw={withdrawEvents} timeZone={snapshot?.timeZone ?? "UTC"} />;
}

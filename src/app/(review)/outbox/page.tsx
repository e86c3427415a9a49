import { notFound } from "next/navigation";
import { OutboxView } from "@/features/administration/outbox-view";
import { nomade } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";

export default async function OutboxPage() {
  const mails = await nomade.readOutbox(await accountWith("keep-accounts"));
  if (!mails) notFound();
  return <OutboxView mails={mails} />;
}

import { stampWhenDue } from "../evidence/stamp-record";
import { anchorDaily } from "../evidence/anchor-record";
import { applyRetentionDaily } from "./retention";
import { queueOrderReminders } from "../mail/order-mails";
import { queueRoundMails } from "../mail/plan-mails";
import { sendMails } from "../mail/send-mails";
import type { Services } from "../services";

/** What the clock asks for: the head of the record outside, and stamped, and the mails that open rounds need by now. */
export async function runClock(services: Services): Promise<{ readonly sent: number; readonly failed: number }> {
  await anchorDaily(services);
  await stampWhenDue(services);
  await applyRetentionDaily(services);
  await queueRoundMails(services);
  await queueOrderReminders(services);
  return sendMails(services);
}

import { system } from "../ports/record";
import { StampRefused } from "../ports/time-stamps";
import type { Services } from "../services";

const dayMs = 86_400_000;

/** Has the present head of the record stamped by the authority that is set, and says so in the record. Throws `StampRefused`. */
export async function stampRecord(services: Services): Promise<void> {
  const [head] = await services.record.page({}, 1);
  if (!head) return;
  const at = await services.timeStamps.stamp(head);
  await services.record.append(system, services.now(), { what: "record.stamped", on: `entry ${head.number}`, after: { hash: head.hash, at } });
}

/** What is stamped at once: whatever somebody put their name to. */
const signatures = ["docket.signed", "round.closed"];

/** Whether something was signed, or a day went by with new entries, since the record was stamped last. */
async function isDue(services: Services): Promise<boolean> {
  const [stamped] = await services.record.page({ what: "record.stamped" }, 1);
  const last = stamped?.number ?? 0;
  const [head] = await services.record.page({}, 1);
  if (!head || head.number === last) return false;
  if (!stamped || Date.parse(services.now()) - Date.parse(stamped.at) >= dayMs) return true;
  for (const what of signatures) if (((await services.record.page({ what }, 1))[0]?.number ?? 0) > last) return true;
  return false;
}

let isTold = false;

/** Stamps the record where it is due. What the authority refuses is told once, and tried again whenever this is called. */
export async function stampWhenDue(services: Services): Promise<void> {
  if (!services.timeStamps.isSet || !(await isDue(services))) return;
  try {
    await stampRecord(services);
    isTold = false;
  } catch (error) {
    if (!(error instanceof StampRefused)) throw error;
    if (!isTold) console.error(`The record was not stamped, and will be tried again: ${error.message}`);
    isTold = true;
  }
}

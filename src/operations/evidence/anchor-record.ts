import type { Services } from "../services";

/** Writes the present head of the record outside. What cannot be written there is told, and does not stop what was done. */
export async function anchorRecord(services: Services): Promise<void> {
  const [head] = await services.record.page({}, 1);
  if (!head) return;
  await services.anchors.write(head, services.now()).catch((error: unknown) => console.error("The head of the record could not be written outside:", error));
}

const dayMs = 86_400_000;

/** The same once a day. */
export async function anchorDaily(services: Services): Promise<void> {
  const anchors = await services.anchors.read().catch(() => undefined);
  const last = anchors?.at(-1)?.at;
  if (anchors && (last === undefined || Date.parse(services.now()) - Date.parse(last) >= dayMs)) await anchorRecord(services);
}

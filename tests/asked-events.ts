import type { AskedEvents } from "@/operations/events/list-events";

/** Events, nothing said of which. */
export const anyEvents: AskedEvents = {
  text: "",
  about: undefined,
  card: undefined,
  granted: undefined,
  reason: undefined,
  from: undefined,
  to: undefined,
  by: undefined,
  behind: undefined,
};

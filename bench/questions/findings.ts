import { findAll } from "@/core/findings/find";
import { asIfLive, ordinary } from "@/core/paths/paths";
import { Horizon } from "@/core/table/horizon";
import { judgedOf } from "~/tests/judged";
import type { Institute } from "../institute";
import type { Measurements } from "../measuring";
import { mediansTogether, timed } from "../measuring";

/** What takes longer than this is timed once: five rounds of it, after warming up, would take minutes. */
const longMs = 5000;

/** Every finding that needs no events, over tables that are laid out already; what it may take at 100,000 people is three seconds. */
export function measureFindings({ compiled }: Institute, measurements: Measurements): void {
  const horizon = new Horizon(compiled);
  horizon.table(ordinary);
  horizon.week(asIfLive);
  const look = () => findAll(judgedOf(horizon));
  const once = timed(look).ms;
  const [ms = NaN] = once > longMs ? [once] : mediansTogether([() => look]);
  measurements.inTermsOf("all findings that need no events, over the tables", ms, "the target at 100,000 × 5,000", 3000);
}

import { groupBy } from "@/core/kernel/compare";
import { usualTerms } from "@/core/certification/round-terms";
import { required } from "@/core/kernel/invariant";
import { openRound } from "../certification/open-round";
import { signDocket } from "../certification/sign-docket";
import { unwatched } from "../ports/progress";
import type { Services } from "../services";

const hour = 3_600_000;
const day = 24 * hour;
/** So long after the export it is opened, decided and due. */
const times = { opened: 3 * hour, decided: 4 * day, due: 14 * day };

/**
 * The demo's round of last quarter, over the snapshot that is the present one now: those who sign in to the demo kept what their people have, and signed;
 * whoever never signed in has not. It is written down as of then, so that what nobody certified shows.
 */
export async function addDemoRound(services: Services): Promise<void> {
  const snapshot = required(await services.snapshots.latest(), "the demo is loaded");
  const after = (ms: number): string => new Date(Date.parse(snapshot.asOf) + ms).toISOString();
  const at = (ms: number): Services => ({ ...services, now: () => after(ms) });
  const reviewer = required(await services.accounts.bySignIn("reviewer"), "the demo has a reviewer");
  const asked = { name: "September review", due: after(times.due).slice(0, 10), snapshot: snapshot.id, terms: usualTerms };
  const round = await openRound(at(times.opened), reviewer, asked, unwatched);
  const then = at(times.decided);
  const accounts = new Map((await services.accounts.all()).map((account) => [account.id, account]));
  for (const { id, account } of await services.rounds.dockets({ round })) {
    const certifier = accounts.get(account ?? -1);
    if (!certifier) continue;
    const lines = await services.rounds.lines({ docket: id });
    for (const same of groupBy(lines, ({ flagged }) => flagged).values()) {
      const reason = same[0]?.flagged ? "Spoken about with them; the work of this season needs it." : "";
      const decisions = same.map((line) => ({ line: line.id, decision: "keep" as const, reason }));
      await services.rounds.decide(id, decisions, certifier, then.now());
    }
    await signDocket(then, certifier, id);
  }
}

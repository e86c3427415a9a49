import { isDescribed } from "@/core/certification/withdrawal/described-change";
import { checkFacility } from "@/core/facility/check-facility";
import { withChanges } from "@/core/facility/facility-change";
import { issueWords } from "@/intake/formats/facility/issue-words";
import type { Account } from "../ports/accounts";
import type { Report } from "../ports/progress";
import { storeContents } from "../intake/store-contents";
import { openRegister } from "../register/open-register";
import { demand } from "../rights";
import type { Services } from "../services";
import { checkOrders } from "./check-orders";
import { plannedAnew } from "./send-orders";

export type ApplyingOutcome =
  | { readonly outcome: "applied"; readonly orders: number; readonly snapshot: number }
  | { readonly outcome: "refused"; readonly why: "nothing-to-apply" | "changed-meanwhile" }
  | { readonly outcome: "does-not-hold"; readonly reasons: readonly string[] };

/** The source that a snapshot names where Nomade itself carried out what a round decided. */
const ownSource = (round: number): string => `Nomade, round ${round}`;

const reasonsShown = 10;

/**
 * Carries out the orders of a round whose objects Nomade owns: they become a snapshot, which is checked at once. `seen` is the snapshot that stood
 * when it was confirmed.
 */
export async function applyOwnOrders(services: Services, account: Account, roundId: number, seen: number, report: Report): Promise<ApplyingOutcome> {
  demand(account, "run-rounds");
  const unsent = await plannedAnew(services, account, roundId, seen);
  const register = await openRegister(services);
  if (!unsent || register?.snapshot.id !== seen) return { outcome: "refused", why: "changed-meanwhile" };
  // What has to be seen to by hand, somebody has to see to.
  const own = unsent.filter(({ source, described }) => source === undefined && isDescribed(described));
  if (own.length === 0) return { outcome: "refused", why: "nothing-to-apply" };
  const { facility } = register.compiled;
  const changes = own.flatMap(({ described }) => (isDescribed(described) ? described.change : []));
  const checked = checkFacility(withChanges(facility, changes));
  if (!checked.ok) return { outcome: "does-not-hold", reasons: checked.error.slice(0, reasonsShown).map((issue) => `${issue.path}: ${issueWords(issue)}`) };
  // Rows that the register lacks it lacks still: answers go on saying so.
  const contents = { checked: checked.value, fileHash: "", leftOut: register.snapshot.leftOut, files: [], brings: {} };
  const stored = await storeContents(services, contents, ownSource(roundId), account, report, seen);
  if (stored.outcome === "refused") return { outcome: "refused", why: "changed-meanwhile" };
  const sent = await services.orders.send(
    roundId,
    own.map(({ id }) => id),
    account,
    services.now(),
  );
  const present = await openRegister(services);
  if (!sent || !present) return { outcome: "refused", why: "changed-meanwhile" };
  await checkOrders(services, present);
  return { outcome: "applied", orders: own.length, snapshot: present.snapshot.id };
}

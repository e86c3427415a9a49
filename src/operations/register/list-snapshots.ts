import type { Account } from "../ports/accounts";
import type { Snapshot, SnapshotChoice, SnapshotSummary } from "../ports/snapshots";
import { demand } from "../rights";
import type { Services } from "../services";

export const latestSnapshot = (services: Services): Promise<Snapshot | undefined> => services.snapshots.latest();

export async function listSnapshots(services: Services, account: Account): Promise<SnapshotSummary[]> {
  demand(account, "read-register");
  return services.snapshots.list();
}

/** The snapshots to choose from, the latest first. */
export async function snapshotChoices(services: Services, account: Account): Promise<SnapshotChoice[]> {
  demand(account, "read-register");
  return services.snapshots.choices();
}

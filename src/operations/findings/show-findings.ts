import type { Account } from "../ports/accounts";
import type { Snapshot } from "../ports/snapshots";
import { demand, may } from "../rights";
import type { ServerServices, Services } from "../services";
import { todayOf } from "./today";

/** The snapshot whose findings are asked for, the latest unless another is named; they are made where its intake was cut off before it made them. */
export async function snapshotWithFindings(services: ServerServices, account: Account, id: number | undefined): Promise<Snapshot | undefined> {
  demand(account, "read-findings");
  const snapshot = id === undefined ? await services.snapshots.latest() : await services.snapshots.byId(id);
  if (snapshot && !(await services.findings.isMade(snapshot.id))) await services.lookForFindings(snapshot.id);
  return snapshot;
}

/** How many findings the latest snapshot has; none for whoever may not read them. */
export async function countFindings(services: Services, account: Account): Promise<number> {
  if (!may(account, "read-findings")) return 0;
  const snapshot = await services.snapshots.latest();
  return snapshot ? services.findings.count(snapshot.id, {}, todayOf(services)) : 0;
}

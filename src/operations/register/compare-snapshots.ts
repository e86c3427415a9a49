import type { Account } from "../ports/accounts";
import { demand } from "../rights";
import type { AccessEffect } from "./effect-on-access";
import { horizonOf } from "@/core/table/horizon";
import { effectOnAccess } from "./effect-on-access";
import { openRegister } from "./open-register";
import type { Snapshot } from "../ports/snapshots";
import type { Services } from "../services";

/** What changed in access from one snapshot to another; undefined where one of them is not there. */
export async function compareSnapshots(
  services: Services,
  account: Account,
  before: number,
  after: number,
): Promise<{ before: Snapshot; after: Snapshot; effect: AccessEffect } | undefined> {
  demand(account, "read-whole");
  const [was, is] = [await openRegister(services, before), await openRegister(services, after)];
  return was && is && { before: was.snapshot, after: is.snapshot, effect: effectOnAccess(horizonOf(is.compiled).beside(was.compiled), horizonOf(is.compiled)) };
}

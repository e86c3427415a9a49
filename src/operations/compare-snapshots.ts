import type { AccessEffect } from "./register/effect-on-access";
import { effectOnAccess } from "./register/effect-on-access";
import { openRegister } from "./register/open-register";
import type { Snapshot } from "./ports/snapshots";
import type { Services } from "./services";

/** What changed in access from one snapshot to another; undefined where one of them is not there. */
export async function compareSnapshots(services: Services, before: number, after: number): Promise<{ before: Snapshot; after: Snapshot; effect: AccessEffect } | undefined> {
  const [was, is] = [await openRegister(services, before), await openRegister(services, after)];
  return was && is && { before: was.snapshot, after: is.snapshot, effect: effectOnAccess(was.compiled, is.compiled) };
}

import { createHash, randomBytes } from "node:crypto";
import { compileFacility } from "@/core/compile/compile-facility";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import type { FacilityDocument } from "@/core/facility/document";
import { withAllLists } from "@/core/facility/facility";
import { accountStore, sessionStore } from "@/data/account-store";
import { connect } from "@/data/connection";
import { draftStore } from "@/data/draft-store";
import { eventStore } from "@/data/event-store";
import { findingStore } from "@/data/finding-store";
import { recordStore } from "@/data/record-store";
import { registerStore } from "@/data/register-store";
import { roundStore } from "@/data/round-store";
import { verifying } from "@/data/verification-store";
import { snapshotStore } from "@/data/snapshot-store";
import { sourceStore } from "@/data/source-store";
import type { SnapshotStore } from "@/operations/ports/snapshots";
import type { Services } from "@/operations/services";
import { signInTries } from "@/operations/administration/sign-in-tries";
import { databaseSettings, dataFolder } from "./environment";
import { passwords } from "./passwords";
import { pinTagger } from "./pin-key";

const digest = (text: string): string => createHash("sha256").update(text).digest("hex");

const compiledKept = 3;

/** Compiled registers by the hash of their snapshot, the last few of them; two requests for one share the work. */
function compiledRegisters(snapshots: SnapshotStore, opening: <T>(work: () => Promise<T>) => Promise<T>): Services["compiled"] {
  const kept = new Map<string, Promise<CompiledFacility>>();
  return ({ id, hash }, normal) => {
    const known = kept.get(hash);
    const read = async () => normal ?? withAllLists(JSON.parse(await snapshots.frozen(id)) as FacilityDocument);
    const compiled = known ?? opening(async () => compileFacility(await read()));
    // Last used goes last; the one at the front is let go.
    kept.delete(hash);
    kept.set(hash, compiled);
    compiled.catch(() => kept.delete(hash));
    for (const oldest of kept.keys()) {
      if (kept.size <= compiledKept) break;
      kept.delete(oldest);
    }
    return compiled;
  };
}

/** Everything that operations need, on the real database. `close` ends the connections; `opening` is told while a register is opened. */
export function openServices({ opening = (work) => work() }: { readonly opening?: <T>(work: () => Promise<T>) => Promise<T> } = {}): Services & { readonly close: () => Promise<void> } {
  const sequelize = connect(databaseSettings());
  const folder = dataFolder();
  const snapshots = snapshotStore(sequelize, folder);
  return {
    accounts: accountStore(sequelize, folder),
    sessions: sessionStore(sequelize),
    snapshots,
    record: recordStore(sequelize, folder),
    register: registerStore(sequelize),
    sources: sourceStore(sequelize, folder),
    drafts: draftStore(sequelize, folder),
    events: eventStore(sequelize, folder),
    findings: findingStore(sequelize),
    rounds: roundStore(sequelize, folder),
    passwords,
    tries: signInTries(),
    verifying: (read) => verifying(sequelize, read),
    tokens: {
      make: () => {
        const token = randomBytes(32).toString("base64url");
        return { token, hash: digest(token) };
      },
      hashOf: digest,
    },
    digest,
    tagOfPin: pinTagger(),
    now: () => new Date().toISOString(),
    compiled: compiledRegisters(snapshots, opening),
    close: () => sequelize.close(),
  };
}

import { createHash, randomBytes } from "node:crypto";
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
import type { Services } from "@/operations/services";
import { signInTries } from "@/operations/administration/sign-in-tries";
import { databaseSettings, dataFolder } from "./environment";
import { pinTagger } from "@/data/pin-key";
import { sourceFiles } from "@/data/source-files";
import { passwords } from "@/jobs/passwords";
import { compiledRegisters } from "@/operations/register/compiled-registers";

const digest = (text: string): string => createHash("sha256").update(text).digest("hex");

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
    files: sourceFiles,
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
    tagOfPin: pinTagger(folder),
    now: () => new Date().toISOString(),
    compiled: compiledRegisters(snapshots, opening),
    close: () => sequelize.close(),
  };
}

import { anchorFile } from "@/data/anchor-file";
import { signOnProvider } from "@/data/sign-on";
import { timeStampStore } from "@/data/time-stamp-store";
import { planStore } from "@/data/plan-store";
import { standInDoors, unitDriver } from "@/data/unit-driver";
import { unitStore } from "@/data/unit-store";
import { trialStore } from "@/data/trial-store";
import { houseRuleStore } from "@/data/house-rule-store";
import { keptQuestionStore } from "@/data/kept-question-store";
import { lookUpStore } from "@/data/look-up-store";
import { mailSender } from "@/data/mail-sender";
import { mailStore } from "@/data/mail-store";
import { mailWords } from "@/papers/mail/mail-words";
import { outboxOf } from "@/standins/mail-outbox";
import { ordersByMail } from "@/papers/tables/orders-csv";
import { archive } from "@/papers/evidence/archive";
import { packPapers } from "@/papers/evidence/pack-papers";
import { createHash, randomBytes } from "node:crypto";
import { existsSync, readFileSync } from "node:fs";
import path from "node:path";
import { accountStore } from "@/data/account-store";
import { sealer } from "@/data/sealed";
import { sessionStore } from "@/data/session-store";
import { connect } from "@/data/connection";
import { draftStore } from "@/data/draft-store";
import { eventStore } from "@/data/event-store";
import { findingStore } from "@/data/finding-store";
import { ruleSettingsStore } from "@/data/rule-settings-store";
import { triageStore } from "@/data/triage-store";
import { recordStore } from "@/data/record-store";
import { registerStore } from "@/data/register-store";
import { orderStore } from "@/data/order-store";
import { retentionStore } from "@/data/retention-store";
import { roundStore } from "@/data/round-store";
import { verifying } from "@/data/verification-store";
import { snapshotStore } from "@/data/snapshot-store";
import { deliveryStore } from "@/data/delivery-store";
import { feedStore } from "@/data/feed-store";
import { sourceStore } from "@/data/source-store";
import type { Services } from "@/operations/services";
import { signInTries } from "@/operations/administration/sign-in-tries";
import {
  anchorAddress,
  anchorFolder,
  intakeLimits,
  signOnSettings,
  timeStampSettings,
  mailSettings,
  standInMail,
  standInControllers,
  standInMailFolder,
  databaseSettings,
  dataFolder,
} from "./environment";
import { publicHolidaysOf } from "./public-holidays";
import { pinTagger } from "@/data/pin-key";
import { sourceFiles } from "@/data/source-files";
import { passwords } from "@/jobs/passwords";
import { horizonStore } from "@/data/horizon-store";
import { compiledRegisters, limitedRegisters } from "@/operations/register/compiled-registers";
import { laidOutRegisters } from "@/operations/register/laid-out-registers";

const digest = (text: string): string => createHash("sha256").update(text).digest("hex");
const digestOfBytes = (bytes: Uint8Array): string => createHash("sha256").update(bytes).digest("hex");

/** The marks of the programs that were built together: what another version kept is not read. */
function programText(): string {
  const file = path.join(process.cwd(), "dist", ".built-from");
  return existsSync(file) ? readFileSync(file, "utf8") : randomBytes(16).toString("hex");
}

/** Everything that operations need, on the real database. `close` ends the connections; `opening` is told while a register is opened. */
export function openServices({ opening = (work) => work() }: { readonly opening?: <T>(work: () => Promise<T>) => Promise<T> } = {}): Services & {
  readonly close: () => Promise<void>;
} {
  const sequelize = connect(databaseSettings());
  const folder = dataFolder();
  const snapshots = snapshotStore(sequelize, folder);
  const compiled = compiledRegisters(snapshots, opening);
  return {
    accounts: accountStore(sequelize, folder),
    sessions: sessionStore(sequelize),
    snapshots,
    record: recordStore(sequelize, folder),
    register: registerStore(sequelize),
    sources: sourceStore(sequelize, folder),
    feeds: feedStore(sequelize, folder),
    deliveries: deliveryStore(sequelize),
    files: sourceFiles,
    drafts: draftStore(sequelize, folder),
    events: eventStore(sequelize, folder),
    findings: findingStore(sequelize),
    triage: triageStore(sequelize, folder),
    ruleSettings: ruleSettingsStore(sequelize, folder),
    publicHolidays: publicHolidaysOf,
    rounds: roundStore(sequelize, folder),
    orders: orderStore(sequelize, folder),
    passwords,
    sealer: sealer(folder),
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
    digestOfBytes,
    papers: { packPapers, archive, mailWords, ordersByMail },
    anchors: anchorFile(anchorFolder()),
    signOn: signOnProvider(signOnSettings()),
    timeStamps: timeStampStore(timeStampSettings()),
    anchorAddress: anchorAddress(),
    keptQuestions: keptQuestionStore(sequelize),
    houseRules: houseRuleStore(sequelize, folder),
    trials: trialStore(sequelize, folder),
    plans: planStore(sequelize, folder),
    units: unitStore(sequelize, folder, sealer(folder)),
    unitDriver: unitDriver(),
    standInDoors: standInDoors(standInControllers()),
    lookUps: lookUpStore(sequelize),
    retention: retentionStore(sequelize, folder),
    mails: mailStore(sequelize),
    mailSender: mailSender(mailSettings()),
    outbox: standInMail() ? outboxOf(standInMailFolder()) : undefined,
    limits: intakeLimits(),
    tagOfPin: pinTagger(folder),
    now: () => new Date().toISOString(),
    compiled,
    limited: limitedRegisters(compiled, opening),
    layOut: laidOutRegisters(horizonStore(folder, programText()), opening),
    close: () => sequelize.close(),
  };
}

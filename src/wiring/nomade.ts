import path from "node:path";
import { AskingPool } from "@/jobs/asking-pool";
import type { OperationKind } from "@/jobs/asking-pool";
import { remote } from "@/jobs/asking-protocol";
import { calledByName } from "@/jobs/called-by-name";
import { draftEffects } from "@/jobs/draft-effects";
import { LongWork } from "@/jobs/long-work";
import type { LongRemote } from "@/jobs/long-work";
import { watched } from "@/jobs/watched-work";
import type { Account } from "@/operations/ports/accounts";
import type { Uploads } from "@/operations/ports/source-files";
import type { ServerServices } from "@/operations/services";
import { inbox } from "@/data/inbox";
import { uploads } from "@/data/uploads";
import type { AskedOperations } from "./asked-operations";
import { askingLimits, dataFolder, inboxFolder, standInMail, standInPersonnel, taskMs, uploadMegabytes } from "./environment";
import type { LongOperations } from "./long-operations";
import { ownOperations } from "./own-operations";
import { openServices } from "./services";

/** What each of the asked operations is. */
const kinds: Readonly<Record<keyof AskedOperations, OperationKind>> = {
  layOutAhead: "question",
  layOutWeekAhead: "question",
  listAhead: "look-up",
  shutInquiry: "question",
  answerInquiry: "question",
  layOutSheet: "question",
  traceInquiry: "question",
  yearOfPair: "question",
  answerOnPlan: "question",
  listPlans: "look-up",
  showPlan: "look-up",
  doorsToPlace: "look-up",
  addPlan: "change",
  changePlan: "change",
  runTrials: "look-up",
  listUnits: "look-up",
  showUnit: "question",
  findRoutes: "question",
  showForecast: "question",
  listHouseRules: "question",
  tryHouseRule: "question",
  chartInquiry: "question",
  sensitivityOfReach: "question",
  readInquiry: "question",
  readTimes: "look-up",
  exampleQuestions: "question",
  keepQuestion: "change",
  listKeptQuestions: "look-up",
  changeOfQuestion: "question",
  timesOfInquiry: "question",
  answerPast: "question",
  firstSteps: "question",
  suggest: "look-up",
  listRegister: "look-up",
  showDepartments: "look-up",
  showObject: "question",
  listFindings: "look-up",
  exampleFinding: "look-up",
  showRuleSettings: "look-up",
  findingTrends: "look-up",
  exportFindings: "question",
  printFindings: "question",
  listEvents: "question",
  compareSnapshots: "question",
  verifyRecord: "question",
  listAccounts: "look-up",
  addAccount: "change",
  changeAccount: "change",
  endAccount: "change",
  resetAccount: "change",
  makeCertifierAccounts: "change",
  listRounds: "look-up",
  showRound: "look-up",
  listOrders: "look-up",
  listLines: "look-up",
  exportLines: "change",
  exportOrders: "change",
  showDocket: "look-up",
  showWithdrawal: "question",
  showNarrowings: "question",
  narrowLine: "change",
  closeRound: "change",
  giveDocket: "change",
  previewSending: "question",
  sendOrders: "change",
  signDocket: "change",
  draftToAsk: "look-up",
  showDraft: "question",
  exportDraftOrders: "change",
  changeDraft: "change",
  offerWithdrawal: "question",
  draftWithdrawal: "change",
  takeBack: "change",
  takeBackAll: "change",
  settleClash: "change",
  addBox: "change",
  movePeople: "change",
  editObject: "question",
  suggestInDraft: "look-up",
  peopleBoard: "question",
};

const program = (name: string): string => path.join(process.cwd(), "dist", name);

/** One for the whole server process, also where the framework loads this module more than once. */
const shared = globalThis as {
  nomadeServices?: ServerServices;
  nomadeWork?: LongWork<LongOperations>;
  nomadeAsking?: AskingPool<AskedOperations>;
  nomadeUploads?: Uploads;
};
const work = (): LongWork<LongOperations> => (shared.nomadeWork ??= new LongWork<LongOperations>(program("worker.mjs"), taskMs()));
const services = (): ServerServices =>
  (shared.nomadeServices ??= {
    ...openServices(),
    draftEffects: draftEffects((account, draft, watch) => work().operations(watch).effectOfDraft(account, draft)),
    uploads: waitingUploads(),
    inbox: inbox(inboxFolder()),
    takeByItself: (arrived) => work().operations().takeByItself(arrived),
    lookForFindings: (snapshot) => work().operations().lookForFindings(snapshot),
  });
const pool = (): AskingPool<AskedOperations> => (shared.nomadeAsking ??= new AskingPool<AskedOperations>(program("asking-worker.mjs"), kinds, askingLimits()));

/** Operations as pages call them: each is given the services here, and says who asks itself. */
type Bound<O> = { readonly [K in keyof O]: O[K] extends (services: ServerServices, ...asked: infer A) => infer R ? (...asked: A) => R : never };

const bind = <O extends Readonly<Record<string, (services: ServerServices, ...asked: never[]) => unknown>>>(operations: O): Bound<O> =>
  calledByName<Bound<O>>((operation, asked) => operations[operation]?.(services(), ...asked));

/** Operations on the server's own thread. */
export const nomade = bind(ownOperations);

/** Operations on the threads that hold compiled registers. */
export const asking = remote<AskedOperations>((operation, asked) => pool().ask(operation, asked));

/**
 * Opens the register on the thread for questions, then on that for look-ups, and lays weeks out, ahead of whoever asks first. Where there is no database yet,
 * whoever asks is told.
 */
export function openAhead(): void {
  asking
    .layOutAhead()
    .then(() => asking.listAhead())
    .then(() => asking.layOutWeekAhead())
    .catch(() => undefined);
}

/** Long operations that nobody watches. */
export const longWork = (): LongRemote<LongOperations> => work().operations();

/** Long operations as a page calls them. */
export type WatchedOperations = LongRemote<LongOperations>;

/** A long operation that its page looks after under a number, and may stop; it is stopped too when whoever asked (`asker`) is gone. */
export const watchedWork = <T>(account: Account, number: string, run: (operations: WatchedOperations) => Promise<T>, asker?: AbortSignal): Promise<T> =>
  watched(account, number, (watch) => run(work().operations(watch)), asker);

export const waitingUploads = (): Uploads => (shared.nomadeUploads ??= uploads(dataFolder(), uploadMegabytes()));

/** Whether mails go to the stand-in server, whose outbox has a page. */
export const hasOutbox = (): boolean => standInMail();

/** The page of the stand-in personnel office; undefined where it does not run. */
export const personnelOffice = (): string | undefined => standInPersonnel();

export { Stopped } from "@/jobs/watched-work";
export { TooLarge } from "@/operations/ports/source-files";
export { csvOfList, rowsOfList } from "@/operations/register/list-csv";
export { draftOrderRows, draftOrdersCsv } from "@/operations/register/drafts/draft-orders-csv";
export { longestForecastDays, usualForecastDays } from "@/operations/inquiry/show-forecast";
export { may } from "@/operations/rights";
export { profileTargets } from "@/operations/intake/try-profile";

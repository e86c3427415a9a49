import path from "node:path";
import { AskingPool } from "@/jobs/asking-pool";
import { longWork } from "@/jobs/worker-pool";
import type { AskedWithdrawal } from "@/operations/register/drafts/draft-withdrawal";
import type { AskedQuestions, ChangingQuestion } from "./asking-worker";
import { askingLimits, taskMs } from "./environment";
import type { AddressParts } from "@/core/questions/question-address";
import type { Inquiry } from "@/operations/inquiry/inquiry";
import type { ExampleQuestion } from "@/operations/inquiry/example-questions";
import { decideLine, keepUnremarkable } from "@/operations/certification/decide-line";
import type { BundleMapping } from "@/intake/formats/tables/read-bundle";
import { knownColumns } from "@/intake/formats/tables/read-bundle";
import type { Account } from "@/operations/ports/accounts";
import type { AskedList } from "@/operations/register/list-register";
import type { RegisterKind } from "@/core/register/kinds";
import type { ObjectRef } from "@/core/register/related/ways";
import type { CardBox } from "@/core/drafting/card-box";
import type { ListKey } from "@/core/facility/document";
import type { Plain } from "@/core/facility/object-key";
import type { Move, WantedObject } from "@/operations/register/drafts/change-draft";
import type { OwnershipProfile } from "@/core/facility/ownership";
import { listSources, setOwnership } from "@/operations/intake/list-sources";
import { maySee } from "@/operations/register/drafts/draft-register";
import { beginDraft, dropDraft, listDrafts, shareDraft } from "@/operations/register/drafts/open-draft";
import type { EffectState } from "./draft-effects";
import { effectState, stopEffect } from "./draft-effects";
import { demand, may } from "@/operations/rights";
import type { Right } from "@/operations/rights";
import type { IntakeOutcome, LongWork, Services } from "@/operations/services";
import type { HolderId } from "@/core/facility/holder-id";
import { myDockets } from "@/operations/certification/show-docket";
import { signIn, signOut, whoIs } from "@/operations/administration/sign-in";
import { openServices } from "./services";
import { eventForm } from "./event-form";
import { watched } from "./tasks";

/** One for the whole server process, also where the framework loads this module more than once. */
const shared = globalThis as { nomadeServices?: Services; nomadeWork?: LongWork; nomadeAsking?: AskingPool<AskedQuestions> };
const services = (): Services => (shared.nomadeServices ??= openServices());
const work = (): LongWork => (shared.nomadeWork ??= longWork(taskMs()));
const changing: ReadonlySet<string> = new Set<ChangingQuestion>(["signed", "draftChanged", "changeTakenBack", "allTakenBack", "clashSettled", "boxAdded", "peopleMoved"]);
const asking = (): AskingPool<AskedQuestions> => (shared.nomadeAsking ??= new AskingPool<AskedQuestions>(path.join(process.cwd(), "dist", "asking-worker.mjs"), changing, askingLimits()));

const recordPage = 60;

/** A change of a draft as somebody had it before them. */
interface ChangeSeen {
  readonly list: ListKey;
  readonly key: string;
  readonly seen: number;
}

/** What of a snapshot leaves the register stands in the record; undefined where there is no such snapshot. */
async function exported<T>(account: Account, id: number, write: () => Promise<T>): Promise<T | undefined> {
  demand(account, "read-register");
  if (!(await services().snapshots.byId(id))) return undefined;
  const written = await write();
  if (written !== undefined) await services().record.append(account, services().now(), { what: "snapshot.exported", on: `snapshot ${id}` });
  return written;
}

/** Every operation as the pages call it, bound to the real services. Rights are checked inside. */
export const nomade = {
  may: (account: Account, right: Right) => may(account, right),
  signIn: async (given: { signIn: string; password: string; source: string }) => {
    const signed = await signIn(services(), given);
    // Whoever signs in will ask of the register soon: it is opened meanwhile.
    if (signed.outcome === "signed-in") void asking().ask("warm", {}).catch(() => undefined);
    return signed;
  },
  signOut: (account: Account, token: string) => signOut(services(), account, token),
  whoIs: (token: string) => whoIs(services(), token),

  latestSnapshot: () => services().snapshots.latest(),
  snapshots: (account: Account) => {
    demand(account, "read-register");
    return services().snapshots.list();
  },
  /** The snapshots to choose from, the latest first. */
  snapshotChoices: (account: Account) => {
    demand(account, "read-register");
    return services().snapshots.choices();
  },
  frozenSnapshot: (account: Account, id: number) => exported(account, id, () => services().snapshots.frozen(id)),
  snapshotTables: (account: Account, id: number) => exported(account, id, () => work().writeTables({ snapshot: id })),
  /** A calendar of a snapshot, of the latest where none is named. */
  calendarFile: async (account: Account, id: number | undefined, calendar: string) => {
    demand(account, "read-register");
    const snapshot = id ?? (await services().snapshots.latest())?.id;
    return snapshot === undefined ? undefined : exported(account, snapshot, () => work().writeCalendar({ snapshot, calendar }));
  },

  /** The question that an address holds, or what of it is not understood; undefined where there is no register. */
  readInquiry: (account: Account, parts: AddressParts) => {
    demand(account, "ask");
    return asking().ask("inquiryRead", { account, parts });
  },
  readTimes: (account: Account, text: string) => {
    demand(account, "ask");
    return asking().ask("timesRead", { account, text });
  },
  answer: (account: Account, inquiry: Inquiry) => {
    demand(account, "ask");
    return asking().ask("answer", { account, inquiry });
  },
  trace: (account: Account, inquiry: Inquiry) => {
    demand(account, "ask");
    return asking().ask("trace", { account, inquiry });
  },
  /** Questions that the register at hand answers: its most sensitive door and whoever is most at risk. */
  examples: async (account: Account): Promise<ExampleQuestion[]> => {
    demand(account, "ask");
    return asking().ask("examples", {});
  },
  suggest: async (account: Account, kinds: readonly RegisterKind[], text: string, limit: number) => {
    demand(account, "read-register");
    return asking().ask("suggested", { kinds, text, limit });
  },
  /** A page of a list of the register; undefined where there is no such snapshot. */
  listRegister: async (account: Account, asked: AskedList & { snapshot: number | undefined }, page: { offset: number; limit: number; withChoices: boolean }) => {
    demand(account, "read-register");
    return asking().ask("listed", { asked, page });
  },
  compareSnapshots: async (account: Account, before: number, after: number) => {
    demand(account, "read-register");
    return asking().ask("snapshotsCompared", { before, after });
  },
  showObject: async (account: Account, hook: ObjectRef, snapshot: number | undefined) => {
    demand(account, "read-register");
    return asking().ask("object", { hook, snapshot });
  },

  sourceSheets: (account: Account) => listSources(services(), account),
  setOwnership: (account: Account, source: string, owns: OwnershipProfile) => setOwnership(services(), account, source, owns),
  drafts: (account: Account) => listDrafts(services(), account),
  beginDraft: (account: Account, name: string) => beginDraft(services(), account, name),
  shareDraft: (account: Account, draft: number, withAccount: number) => shareDraft(services(), account, draft, withAccount),
  dropDraft: (account: Account, draft: number) => dropDraft(services(), account, draft),
  draft: (account: Account, draft: number, all = false) => asking().ask("draft", { account, draft, all }),
  draftOrders: async (account: Account, draft: number) => {
    const orders = await asking().ask("draftOrders", { account, draft });
    if (orders) await services().record.append(account, services().now(), { what: "orders.exported", on: `draft ${draft}` });
    return orders;
  },
  changeDraft: (account: Account, draft: number, objects: readonly WantedObject[], despite: boolean) => asking().ask("draftChanged", { account, draft, objects, despite }),
  offerWithdrawal: (account: Account, asked: AskedWithdrawal) => asking().ask("withdrawalOffered", { account, asked }),
  draftWithdrawal: (account: Account, asked: AskedWithdrawal) => asking().ask("withdrawalDrafted", { account, asked }),
  takeBack: (account: Account, draft: number, change: ChangeSeen) => asking().ask("changeTakenBack", { account, draft, change }),
  takeBackAll: (account: Account, draft: number, list: ListKey, revision: number) => asking().ask("allTakenBack", { account, draft, list, revision }),
  settleClash: (account: Account, draft: number, change: ChangeSeen, take: "draft" | "register") => asking().ask("clashSettled", { account, draft, change, take }),
  addBox: (account: Account, draft: number, box: CardBox) => asking().ask("boxAdded", { account, draft, box }),
  movePeople: (account: Account, draft: number, moves: readonly Move[], to: string | undefined) => asking().ask("peopleMoved", { account, draft, moves, to }),
  editObject: (account: Account, draft: number, list: ListKey, key: string | undefined, given: Plain) => asking().ask("objectEdited", { account, draft, list, key, given }),
  suggestInDraft: (account: Account, draft: number, kinds: readonly RegisterKind[], text: string, limit: number) => asking().ask("suggestedInDraft", { account, draft, kinds, text, limit }),
  peopleBoard: (account: Account, draft: number, columns: readonly string[], text: string) => asking().ask("board", { account, draft, columns, text }),
  /** What a draft does to access and findings, as far as it is worked out; undefined where an account may not see it. */
  draftEffect: async (account: Account, id: number, again: boolean): Promise<EffectState | undefined> => {
    demand(account, "read-register");
    const [draft, snapshot] = await Promise.all([services().drafts.byId(id), services().snapshots.latest()]);
    if (!draft || !snapshot || !maySee(account, draft)) return undefined;
    return effectState({ draft: id, revision: draft.revision, snapshot: snapshot.id }, again, (watch) => work().effectOfDraft({ account: account.id, draft: id }, watch));
  },
  stopDraftEffect: async (account: Account, id: number) => {
    demand(account, "edit-drafts");
    const draft = await services().drafts.byId(id);
    if (draft && maySee(account, draft)) stopEffect(id);
  },
  closeDraft: (account: Account, number: string, draft: number, seen: { revision: number; snapshot: number }) => {
    demand(account, "edit-drafts");
    return watched(account, number, (watch) => work().closeDraft({ account: account.id, draft, seen }, watch));
  },

  /** The findings of a snapshot, the latest unless another is named. */
  findings: async (account: Account, rule: string | undefined, id?: number) => {
    demand(account, "read-findings");
    const snapshot = id === undefined ? await services().snapshots.latest() : await services().snapshots.byId(id);
    if (!snapshot) return undefined;
    // A snapshot whose intake was cut off after it was stored has none yet.
    if (!(await services().findings.isMade(snapshot.id))) await work().lookForFindings({ snapshot: snapshot.id });
    const page = await asking().ask("findings", { rule, snapshot: snapshot.id });
    return page && { page, snapshot };
  },
  findingCount: async (account: Account) => {
    if (!may(account, "read-findings")) return 0;
    const snapshot = await services().snapshots.latest();
    return snapshot ? (await services().findings.counts(snapshot.id)).total : 0;
  },

  /** The tables of a bundle, and the columns of each. */
  tableColumns: () => knownColumns,
  /** Names of the sources whose way of writing tables is known. */
  sources: (account: Account) => {
    demand(account, "take-in");
    return services().sources.names();
  },
  /** What a file would bring, read as its source writes, or as a mapping says. */
  previewIntake: async (account: Account, number: string, { mapping, source, ...task }: { path: string; name: string; source: string; mapping: BundleMapping | undefined }, asker: AbortSignal) => {
    demand(account, "take-in");
    const readAs = { mapping: mapping ?? (await services().sources.mapping(source)), owns: await services().sources.owns(source) };
    return watched(account, number, (watch) => work().previewIntake({ ...task, readAs }, watch), asker);
  },
  /** Stores a file as it was previewed for a source, which is the one that it is stored for unless that owns just what any other would. */
  storeIntake: async (account: Account, number: string, { mapping, previewedFor, ...task }: { path: string; name: string; source: string; previewedFor: string; leaveOut: number; mapping: BundleMapping | undefined; on: number | null }): Promise<IntakeOutcome> => {
    demand(account, "take-in");
    if (task.source === "" && eventForm(task.name) === undefined) return { outcome: "refused", errors: [{ level: "error", path: task.name, code: "no-source", message: "Name the source that sends this: what it brings is its own from then on, and orders for it go there." }], errorCount: 1 };
    const [owns, previewed] = [await services().sources.owns(task.source), await services().sources.owns(previewedFor)];
    if (JSON.stringify(owns) !== JSON.stringify(previewed)) {
      const message = `What ${task.source} owns is set by its profile, and this was not read by it. Choose ${task.source} before the file is read, so that what you see is what is stored.`;
      return { outcome: "refused", errors: [{ level: "error", path: task.name, code: "other-profile", message }], errorCount: 1 };
    }
    const readAs = { mapping: mapping ?? (await services().sources.mapping(previewedFor)), owns };
    return watched(account, number, (watch) => work().storeIntake({ ...task, readAs, who: { signIn: account.signIn } }, watch));
  },
  rounds: (account: Account) => {
    demand(account, "read-rounds");
    return asking().ask("rounds", { account });
  },
  round: (account: Account, id: number) => {
    demand(account, "read-rounds");
    return asking().ask("round", { account, id });
  },
  previewRound: (account: Account, number: string) => {
    demand(account, "run-rounds");
    return watched(account, number, (watch) => work().previewRound({ account: account.id }, watch));
  },
  openRound: (account: Account, number: string, asked: { name: string; due: string; snapshot: number }) => {
    demand(account, "run-rounds");
    return watched(account, number, (watch) => work().openRound({ ...asked, account: account.id }, watch));
  },
  orders: (account: Account, round: number) => {
    demand(account, "read-rounds");
    return asking().ask("orders", { account, round });
  },
  noteOrdersExport: (account: Account, round: number) => {
    demand(account, "read-rounds");
    return services().record.append(account, services().now(), { what: "orders.exported", on: `round ${round}` });
  },
  docket: (account: Account, id: number) => asking().ask("docket", { account, id }),
  myDockets: (account: Account) => myDockets(services(), account),
  decideLine: (account: Account, line: number, decision: "keep" | "withdraw", reason: string) =>
    decideLine(services(), account, line, { decision, reason }),
  /** What withdrawing a line would come to. */
  withdrawal: (account: Account, line: number) => asking().ask("withdrawal", { account, line }),
  keepUnremarkable: (account: Account, docket: number, holder: HolderId) => keepUnremarkable(services(), account, docket, holder),
  signDocket: (account: Account, docket: number) => asking().ask("signed", { account, docket }),

  record: (account: Account, before: number | undefined) => {
    demand(account, "read-record");
    return services().record.page(before, recordPage);
  },
  verifyRecord: (account: Account) => {
    demand(account, "read-record");
    return services().record.verify();
  },
};

import type { Account } from "../ports/accounts";
import type { KeptQuestion } from "../ports/kept-questions";
import type { OpenRegister } from "../register/open-register";
import { onHorizon, onRegister } from "../register/on-register";
import { demand } from "../rights";
import type { Services } from "../services";
import type { Inquiry, QuestionNames } from "./inquiry";
import { contextOf, minuteNow } from "./inquiry-context";
import { namedDoor, namedHolder } from "./inquiry-names";
import { allOpened } from "./opened-pairs";
import { timesOfInquiry } from "./past-inquiry";
import { readInquiry } from "./read-question";

/** So many questions are kept by an account. */
export const mostKept = 100;
/** So long is the query of a question at most. */
const longestQuery = 4000;

export type KeepOutcome = "kept" | "kept-already" | "full" | "not-understood" | "on-a-draft";

const partsOf = (query: string): Readonly<Record<string, string>> => Object.fromEntries(new URLSearchParams(query));

/** Keeps a question by the query of its address, times in words; of one that is not understood, or about what the register does not hold, nothing is kept. */
export async function keepQuestion(services: Services, account: Account, register: OpenRegister, query: string): Promise<KeepOutcome> {
  demand(account, "ask");
  const read = query.length > longestQuery ? undefined : readInquiry(services, account, register, partsOf(query));
  if (!read?.ok || !read.value.isThere) return "not-understood";
  // A draft ends before the question does.
  if (read.value.inquiry.draft !== undefined) return "on-a-draft";
  const kept = await services.keptQuestions.of(account.id);
  if (kept.some((one) => one.query === query)) return "kept-already";
  if (kept.length >= mostKept) return "full";
  await services.keptQuestions.keep(account.id, query, services.now());
  return "kept";
}

export function watchQuestion(services: Services, account: Account, id: number, watched: boolean): Promise<boolean> {
  demand(account, "ask");
  return services.keptQuestions.watch(account.id, id, watched);
}

export function dropQuestion(services: Services, account: Account, id: number): Promise<boolean> {
  demand(account, "ask");
  return services.keptQuestions.drop(account.id, id);
}

/** A kept question as it reads now; undefined where it is not understood any more, or about what the register no longer holds. */
export interface ListedQuestion extends KeptQuestion {
  readonly read: { readonly inquiry: Inquiry; readonly names: QuestionNames } | undefined;
}

/** The questions that an account keeps, the latest first. */
export async function listKeptQuestions(services: Services, account: Account, register: OpenRegister): Promise<ListedQuestion[]> {
  demand(account, "ask");
  return (await services.keptQuestions.of(account.id)).map((kept) => {
    const read = readInquiry(services, account, register, partsOf(kept.query));
    return { ...kept, read: read.ok && read.value.isThere ? read.value : undefined };
  });
}

/** A row of an answer by what it is about, with how much it stands for. */
interface AnsweredRow {
  readonly name: string;
  readonly count: number;
}

/** The rows of the answer to a question, by kind and id; undefined where it is not understood in that register. */
async function rowsOf(services: Services, account: Account, register: OpenRegister, query: string): Promise<ReadonlyMap<string, AnsweredRow> | undefined> {
  demand(account, "ask");
  const read = readInquiry(services, account, register, partsOf(query));
  if (!read.ok || !read.value.isThere) return undefined;
  const { compiled } = register;
  const { by, pairs } = allOpened(await contextOf(services, compiled, read.value.inquiry));
  return new Map(
    pairs.map(({ holders, doors }): [string, AnsweredRow] => {
      if (by === "doors") {
        const { id, name } = namedDoor(compiled, doors[0] ?? 0);
        return [`door ${id}`, { name, count: holders.length }];
      }
      const { kind, id, name } = namedHolder(compiled, holders[0] ?? 0);
      return [`${kind} ${id}`, { name, count: doors.length }];
    }),
  );
}

/** Whether a question asks of what is over, so that no intake changes its answer. */
async function isSettled(services: Services, account: Account, register: OpenRegister, query: string): Promise<boolean> {
  const read = readInquiry(services, account, register, partsOf(query));
  if (!read.ok) return false;
  const { inquiry } = read.value;
  if (inquiry.snapshot !== undefined) return true;
  const times = await timesOfInquiry(services, account, register, inquiry);
  return times.outcome === "past" && times.parts.every(({ to }) => to <= minuteNow(services));
}

/** How the answer to a question changed with the last intake: rows that came, that went, and that stand for more or for fewer. */
export type ChangeOfAnswer =
  | { readonly outcome: "compared"; readonly before: number; readonly came: Changed; readonly went: Changed; readonly otherwise: number }
  /** One of a snapshot by its number, or of a time that is over, has one answer for good. */
  | { readonly outcome: "nothing-earlier" | "not-in-both" | "settled" };

interface Changed {
  readonly count: number;
  /** The first few by name. */
  readonly names: readonly string[];
}

const namesShown = 4;

/** Of a kept question, how the answer in the present snapshot differs from that in the one before; undefined where the account keeps no such question. */
export async function changeOfQuestion(services: Services, account: Account, id: number): Promise<ChangeOfAnswer | undefined> {
  demand(account, "ask");
  const kept = (await services.keptQuestions.of(account.id)).find((one) => one.id === id);
  if (!kept) return undefined;
  if (await onRegister(isSettled)(services, account, undefined, kept.query)) return { outcome: "settled" };
  const [latest, before] = await services.snapshots.choices();
  if (!latest || !before) return { outcome: "nothing-earlier" };
  const ask = onHorizon(rowsOf);
  const [was, is] = [await ask(services, account, before.id, kept.query), await ask(services, account, latest.id, kept.query)];
  if (!was || !is) return { outcome: "not-in-both" };
  const only = (these: ReadonlyMap<string, AnsweredRow>, those: ReadonlyMap<string, AnsweredRow>): Changed => {
    const names = [...these].filter(([key]) => !those.has(key)).map(([, { name }]) => name);
    return { count: names.length, names: names.sort().slice(0, namesShown) };
  };
  return {
    outcome: "compared",
    before: before.id,
    came: only(is, was),
    went: only(was, is),
    otherwise: [...is].filter(([key, { count }]) => was.has(key) && was.get(key)?.count !== count).length,
  };
}

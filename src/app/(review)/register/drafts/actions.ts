"use server";

import Joi from "joi";
import { revalidatePath } from "next/cache";
import { redirect } from "next/navigation";
import type { CardBox } from "@/core/drafting/card-box";
import type { ListKey } from "@/core/facility/document";
import { listKeys } from "@/core/facility/document";
import type { SeenChange } from "@/features/register/drafts/draft-actions";
import type { Move, WantedObject } from "@/operations/register/drafts/change-draft";
import type { AskedWithdrawal } from "@/operations/register/drafts/draft-withdrawal";
import { checkInput } from "@/wiring/web/check-input";
import { asking, nomade, Stopped, watchedWork } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";

const id = Joi.number().integer().min(1).required();
const list = Joi.valid(...listKeys).required();
const key = Joi.string().max(2000);
const seen = Joi.number().integer().min(0).required();
const objectsAtOnce = 2000;

/** What a person sends is read by a schema; what of it is wrong is wrong of the program, as the pages send nothing else. */
function read<T>(schema: Joi.Schema<T>, given: unknown): T {
  const checked = checkInput(schema, given);
  if (!checked.ok) throw new Error(`A draft was sent something that it cannot be sent: ${checked.error}`);
  return checked.value;
}

const nameSchema = Joi.object<{ name: string; next: string; people: string }>({
  name: Joi.string().trim().max(255).required(),
  next: Joi.string().max(2200).allow("").required(),
  people: Joi.string().max(128).allow("").required(),
});

/** Begins a draft and goes on to it, to what is to be edited in it, or to the people of a department who are to be moved. */
export async function beginDraft(_before: string | undefined, form: FormData): Promise<string | undefined> {
  const account = await accountWith("edit-drafts");
  const asked = checkInput(nameSchema, { name: form.get("name"), next: form.get("next") ?? "", people: form.get("people") ?? "" }, true);
  if (!asked.ok) return "Give the draft a name, so that others know what it is about.";
  const { name, next, people } = asked.value;
  const draft = await nomade.beginDraft(account, name);
  const place = people !== "" ? `/people?${new URLSearchParams({ in: people })}` : next !== "" ? `/edit?${next}` : "";
  redirect(`/register/drafts/${draft}${place}`);
}

const objectsSchema = Joi.object<{ draft: number; objects: WantedObject[]; despite: boolean }>({
  draft: id,
  objects: Joi.array()
    .items(Joi.object({ list, key, value: Joi.object().unknown(), seen }))
    .min(1)
    .max(objectsAtOnce)
    .required(),
  despite: Joi.boolean().required(),
});

export async function changeDraft(draft: number, objects: readonly WantedObject[], despite: boolean) {
  const account = await accountWith("edit-drafts");
  const asked = read(objectsSchema, { draft, objects, despite });
  return asking.changeDraft(account, asked.draft, asked.objects, asked.despite);
}

const idText = Joi.string().max(128).required();
const withdrawalSchema = Joi.alternatives<AskedWithdrawal>(
  Joi.object({ finding: Joi.string().max(512).required() }),
  Joi.object({ holder: Joi.object({ kind: Joi.valid("cardholder", "credential").required(), id: idText }).required(), door: idText, withFewerBlocks: Joi.valid(true) }),
).required();

/** Begins a draft that takes away what was asked, and goes on to it; gives a sentence where there is nothing that could be. */
export async function draftWithdrawal(asked: AskedWithdrawal): Promise<string> {
  const account = await accountWith("edit-drafts");
  const draft = await asking.draftWithdrawal(account, read(withdrawalSchema, asked));
  if (draft === undefined) return "The register has changed since: there is nothing left to take away. Load the page again.";
  redirect(`/register/drafts/${draft}`);
}

const changeSchema = Joi.object<{ draft: number; change: SeenChange }>({ draft: id, change: Joi.object({ list, key: key.required(), seen }).required() });

export async function takeBack(draft: number, change: SeenChange) {
  const account = await accountWith("edit-drafts");
  const asked = read(changeSchema, { draft, change });
  return asking.takeBack(account, asked.draft, asked.change);
}

const allSchema = Joi.object<{ draft: number; list: ListKey; revision: number }>({ draft: id, list, revision: Joi.number().integer().min(0).required() });

export async function takeBackAll(draft: number, ofList: ListKey, revision: number) {
  const account = await accountWith("edit-drafts");
  const asked = read(allSchema, { draft, list: ofList, revision });
  return asking.takeBackAll(account, asked.draft, asked.list, asked.revision);
}

const takeSchema = Joi.valid("draft", "register").required();

export async function settleClash(draft: number, change: SeenChange, take: "draft" | "register") {
  const account = await accountWith("edit-drafts");
  const asked = read(changeSchema, { draft, change });
  return asking.settleClash(account, asked.draft, asked.change, read<"draft" | "register">(takeSchema, take));
}

const text = Joi.string().max(32).allow("");
const boxSchema = Joi.object<{ draft: number; box: CardBox }>({
  draft: id,
  box: Joi.object({
    kind: Joi.valid("card", "fob", "mobile", "biometric", "remote", "pin").required(),
    status: Joi.valid("active", "suspended", "lost", "stock", "returned").required(),
    bitFormat: text,
    facilityCode: text.required(),
    first: text.required(),
    last: text.required(),
    printedFirst: text,
  }).required(),
});

export async function addBox(draft: number, box: CardBox) {
  const account = await accountWith("edit-drafts");
  const asked = read(boxSchema, { draft, box });
  return asking.addBox(account, asked.draft, asked.box);
}

const movesSchema = Joi.object<{ draft: number; moves: Move[]; to: string | undefined }>({
  draft: id,
  moves: Joi.array()
    .items(Joi.object({ cardholder: Joi.string().max(128).required(), seenIn: Joi.string().max(128) }))
    .min(1)
    .max(objectsAtOnce)
    .required(),
  to: Joi.string().max(128),
});

export async function movePeople(draft: number, moves: readonly Move[], to: string | undefined) {
  const account = await accountWith("edit-drafts");
  const asked = read(movesSchema, { draft, moves, to });
  return asking.movePeople(account, asked.draft, asked.moves, asked.to);
}

const pairSchema = Joi.object<{ draft: number; with: number }>({ draft: id, with: id });

export async function shareDraft(draft: number, withAccount: number) {
  const account = await accountWith("edit-drafts");
  const asked = read(pairSchema, { draft, with: withAccount });
  return nomade.shareDraft(account, asked.draft, asked.with);
}

export async function dropDraft(draft: number) {
  const account = await accountWith("edit-drafts");
  return nomade.dropDraft(account, read<number>(id, draft));
}

const closeSchema = Joi.object<{ draft: number; seen: { revision: number; snapshot: number }; task: string }>({
  draft: id,
  seen: Joi.object({ revision: Joi.number().integer().required(), snapshot: id }).required(),
  task: Joi.string().max(64).required(),
});

/** Closes a draft as it was seen; can be looked after, and stopped before it stands, under the number that the page gave it. */
export async function closeDraft(draft: number, seenState: { readonly revision: number; readonly snapshot: number }, task: string) {
  const account = await accountWith("edit-drafts");
  const asked = read(closeSchema, { draft, seen: seenState, task });
  try {
    const outcome = await watchedWork(account, asked.task, (work) => work.closeDraft(account, asked.draft, asked.seen));
    revalidatePath("/", "layout");
    return outcome;
  } catch (error) {
    if (error instanceof Stopped) return { outcome: "stopped" as const };
    throw error;
  }
}

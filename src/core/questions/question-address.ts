import type { Result } from "../kernel/result";
import { failure, success } from "../kernel/result";
import { unreachable } from "../kernel/invariant";
import { formOf, formsOf } from "./answer-form";
import { cardholderTypes, chosenForms, sheetFolds } from "./question";
import type { Question, Where, Who } from "./question";
import { whenOfAddress, writeWhen } from "./when-address";

/** The keys of an address that holds a question; one that is left out is left open. */
export const questionKeys = ["who", "where", "when", "lockdown", "asIfLive", "snapshot", "draft", "form", "fold"] as const;
export type QuestionKey = (typeof questionKeys)[number];

/** A part of an address that says nothing that is known: told, never dropped, since the answer would be one to another question. */
export interface UnknownPart {
  readonly key: string;
  readonly text: string;
}

/** Query parameters as they come: a key that comes twice has a list. */
export type AddressParts = Readonly<Record<string, string | readonly string[] | undefined>>;

function writtenWho(who: Who): string {
  switch (who.kind) {
    case "cardholder":
    case "credential":
    case "group":
    case "level":
    case "bundle":
      return `${who.kind}:${who.id}`;
    case "type":
      return `type:${who.type}`;
    case "everybody":
      return "everybody";
    default:
      return unreachable(who);
  }
}

function writtenWhere(where: Where): string {
  switch (where.kind) {
    case "door":
    case "doorGroup":
    case "level":
    case "area":
    case "site":
      return `${where.kind}:${where.id}`;
    case "sensitivity":
      return `sensitivity:${where.from}`;
    case "anywhere":
      return "anywhere";
    default:
      return unreachable(where);
  }
}

/** The query of an address that holds a question, its keys in a fixed order. */
export function writeQuestion(question: Question): readonly (readonly [QuestionKey, string])[] {
  const { who, where, when, lockdown, asIfLive, snapshot, draft, fold } = question;
  const time = writeWhen(when);
  const form = formOf(question);
  return [
    ...(who ? [["who", writtenWho(who)] as const] : []),
    ...(where ? [["where", writtenWhere(where)] as const] : []),
    ...(time === undefined ? [] : [["when", time] as const]),
    ...(lockdown ? [["lockdown", "1"] as const] : []),
    ...(asIfLive ? [["asIfLive", "1"] as const] : []),
    ...(snapshot === undefined ? [] : [["snapshot", String(snapshot)] as const]),
    ...(draft === undefined ? [] : [["draft", String(draft)] as const]),
    ...(form === formsOf(question)[0] ? [] : [["form", form] as const]),
    ...(fold === undefined || form !== "sheet" ? [] : [["fold", fold] as const]),
  ];
}

const longestId = 128;

/** The kind and the rest of a text such as `group:press`. */
function kindAndRest(text: string): readonly [string, string] {
  const colon = text.indexOf(":");
  return colon < 0 ? [text, ""] : [text.slice(0, colon), text.slice(colon + 1)];
}

const isId = (text: string): boolean => text.length > 0 && [...text].length <= longestId;

export function readWho(text: string): Who | undefined {
  if (text === "everybody") return { kind: "everybody" };
  const [kind, rest] = kindAndRest(text);
  const type = cardholderTypes.find((one) => kind === "type" && one === rest);
  if (type) return { kind: "type", type };
  if (!isId(rest)) return undefined;
  const holder = (["cardholder", "credential"] as const).find((one) => one === kind);
  const many = (["group", "level", "bundle"] as const).find((one) => one === kind);
  return holder ? { kind: holder, id: rest } : many && { kind: many, id: rest };
}

export function readWhere(text: string): Where | undefined {
  if (text === "anywhere") return { kind: "anywhere" };
  const [kind, rest] = kindAndRest(text);
  const from = ([1, 2, 3] as const).find((one) => kind === "sensitivity" && String(one) === rest);
  if (from !== undefined) return { kind: "sensitivity", from };
  if (!isId(rest)) return undefined;
  const place = (["door", "area"] as const).find((one) => one === kind);
  const many = (["doorGroup", "level", "site"] as const).find((one) => one === kind);
  return place ? { kind: place, id: rest } : many && { kind: many, id: rest };
}

/**
 * The question that an address holds. Fails with every part that says nothing known, a key that it does not know and one that comes twice among
 * them. Times are read as they are written in addresses; `readTime` may read others.
 */
export function readQuestion(
  parts: AddressParts,
  readTime: (text: string) => Question["when"] | undefined = whenOfAddress,
): Result<Question, readonly UnknownPart[]> {
  const unknown: UnknownPart[] = [];
  const texts = new Map<string, string>();
  for (const [key, value] of Object.entries(parts)) {
    if (value === undefined) continue;
    if (typeof value !== "string" || !questionKeys.some((one) => one === key))
      unknown.push({ key, text: typeof value === "string" ? value : value.join(" and ") });
    else texts.set(key, value);
  }
  const read = <T>(key: QuestionKey, of: (text: string) => T | undefined): T | undefined => {
    const text = texts.get(key);
    const value = text === undefined ? undefined : of(text);
    if (text !== undefined && value === undefined) unknown.push({ key, text });
    return value;
  };
  const number = (text: string): number | undefined => (/^[1-9][0-9]{0,8}$/.test(text) ? Number(text) : undefined);
  const question: Question = {
    who: read("who", readWho),
    where: read("where", readWhere),
    when: read("when", readTime) ?? { kind: "any" },
    lockdown: read("lockdown", (text) => (text === "1" ? true : undefined)) ?? false,
    asIfLive: read("asIfLive", (text) => (text === "1" ? true : undefined)),
    snapshot: read("snapshot", number),
    draft: read("draft", number),
    form: read("form", (text) => chosenForms.find((one) => one === text)),
    fold: read("fold", (text) => sheetFolds.find((one) => one === text)),
  };
  if (question.form && !formsOf(question).includes(question.form)) unknown.push({ key: "form", text: question.form });
  if (question.fold && formOf(question) !== "sheet") unknown.push({ key: "fold", text: question.fold });
  // A draft is of the present register.
  if (question.draft !== undefined && question.snapshot !== undefined) unknown.push({ key: "draft", text: String(question.draft) });
  return unknown.length > 0 ? failure(unknown) : success(question);
}

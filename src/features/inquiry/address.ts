import { writeQuestion } from "@/core/questions/question-address";
import type { AnswerRow, Inquiry } from "@/operations/inquiry/inquiry";

/** The query of the address that holds a question. */
export const questionQuery = (inquiry: Inquiry): string => new URLSearchParams(writeQuestion(inquiry).map(([key, text]) => [key, text])).toString();

export const questionAddress = (inquiry: Inquiry): string => `/inquiry?${questionQuery(inquiry)}`;

/** Who gets where on foot, of a question; with a door, what would be cut off without it. */
export const routesAddress = (inquiry: Inquiry, without?: string): string => {
  const query = questionQuery({ ...inquiry, form: undefined, fold: undefined });
  return `/inquiry/routes?${query}${without === undefined ? "" : `&without=${encodeURIComponent(without)}`}`;
};

/** An answer on the plans of the building: on one of them, with one of its doors chosen, where these are given. */
export const planAnswerAddress = (inquiry: Inquiry, plan?: number, door?: string): string => {
  const query = questionQuery({ ...inquiry, form: undefined, fold: undefined });
  return `/inquiry/plan?${query}${plan === undefined ? "" : `&plan=${plan}`}${door === undefined ? "" : `&door=${encodeURIComponent(door)}`}`;
};

/** The question why a row's holder opens its door, at the time that was asked; of a row that stands for several, of the one that it names. */
export const questionOfRow = (inquiry: Inquiry, { holder, door }: AnswerRow): Inquiry => ({
  ...inquiry,
  who: { kind: holder.kind, id: holder.id },
  where: { kind: "door", id: door.id },
});

/** The question as it is answered: of the snapshot that stood at the asked time, where it names none. */
export const answeredQuestion = ({ inquiry, stood }: { readonly inquiry: Inquiry; readonly stood?: number | undefined }): Inquiry =>
  stood === undefined ? inquiry : { ...inquiry, snapshot: stood };

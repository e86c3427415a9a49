import type { ChosenForm, Question } from "./question";

/** As what a question is answered: one verdict, people, doors, or people by doors. */
export type AnswerForm = "verdict" | ChosenForm;

const isOne = (kind: string | undefined): boolean => kind === "cardholder" || kind === "credential" || kind === "door";

/** As what a question can be answered, what it is answered as unless something else is chosen first. */
export function formsOf({ who, where }: Pick<Question, "who" | "where">): readonly AnswerForm[] {
  const [oneHolder, oneDoor] = [isOne(who?.kind), isOne(where?.kind)];
  if (oneHolder) return oneDoor ? ["verdict"] : ["doors"];
  if (oneDoor) return ["people"];
  // What some people open is asked by doors; who opens some places, or anything, by people.
  const isOpenWhere = where === undefined || where.kind === "anywhere";
  return who !== undefined && isOpenWhere ? ["doors", "people", "sheet"] : ["people", "doors", "sheet"];
}

/** As what a question is answered. A form that its parts cannot be answered in is not taken. */
export function formOf(question: Pick<Question, "who" | "where" | "form">): AnswerForm {
  const forms = formsOf(question);
  return forms.find((form) => form === question.form) ?? (forms[0] as AnswerForm);
}

import { writeQuestion } from "@/core/questions/question-address";
import type { Inquiry } from "@/operations/inquiry/inquiry";

/** The query of the address that holds a question. */
export const questionQuery = (inquiry: Inquiry): string => new URLSearchParams(writeQuestion(inquiry).map(([key, text]) => [key, text])).toString();

export const questionAddress = (inquiry: Inquiry): string => `/inquiry?${questionQuery(inquiry)}`;

import type { Account } from "../ports/accounts";
import type { OpenRegister } from "../register/open-register";
import type { Services } from "../services";
import { answerInquiry } from "./answer-inquiry";
import { answerable } from "./inquiry";
import type { AskedAnswer, Inquiry } from "./inquiry";
import { namesOfQuestion } from "./read-question";

/** The answer to a question, or its parts in words where no view answers it yet. */
export async function askInquiry(services: Services, account: Account, register: OpenRegister, inquiry: Inquiry): Promise<AskedAnswer> {
  const asked = answerable(inquiry);
  if (!asked) return { outcome: "not-answered-yet", words: namesOfQuestion(register, inquiry) };
  return { outcome: "answered", answerable: asked, answer: await answerInquiry(services, account, register, asked) };
}

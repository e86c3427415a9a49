import { answerQuestions, whileOpening } from "@/jobs/answer-questions";
import type { Services } from "@/operations/services";
import { askedOperations } from "./asked-operations";
import { openServices } from "./services";

/** Entry file of the threads that answer questions. Connections are opened with the first question and kept. */
let opened: Services | undefined;

answerQuestions(askedOperations, () => (opened ??= openServices({ opening: whileOpening })));

import { english } from "./english";
import type { DocketWords } from "./docket-words";

/** The docket in German. */
export const german: DocketWords = { ...english, language: "de", called: "Deutsch", locale: "de-AT" };

import type { DecisionCounts } from "./sign-docket";

/** The languages in which a docket is read and signed. */
export const languages = ["en", "de"] as const;
export type Language = (typeof languages)[number];

const kinds = ["keep", "narrow", "withdraw", "pass-on"] as const;

interface StatementWords {
  readonly begins: (signer: string, lines: number) => string;
  readonly access: Readonly<Record<(typeof kinds)[number], (n: number) => string>>;
  /** Of definitions: how many there are, and what of them. */
  readonly ofDefinitions: (n: number) => string;
  readonly definitions: Readonly<Record<(typeof kinds)[number], (n: number) => string>>;
}

const passedOn = {
  en: (n: number) => `${n} ${n === 1 ? "was" : "were"} passed on to somebody else to decide`,
  de: (n: number) => `${n} ${n === 1 ? "wurde" : "wurden"} an jemand anderen zur Entscheidung weitergegeben`,
};

const said: Readonly<Record<Language, StatementWords>> = {
  en: {
    begins: (signer, lines) => `I, ${signer}, have looked at ${lines === 1 ? "this one line" : `each of these ${lines} lines`}.`,
    access: {
      keep: (n) => `${n} ${n === 1 ? "is" : "are"} needed and ${n === 1 ? "stays" : "stay"}`,
      narrow: (n) => `${n} ${n === 1 ? "stays" : "stay"} in part only`,
      withdraw: (n) => `${n} ${n === 1 ? "is" : "are"} to be withdrawn`,
      "pass-on": passedOn.en,
    },
    ofDefinitions: (n) => (n === 1 ? "Of the one definition" : `Of ${n} definitions`),
    definitions: {
      keep: (n) => `${n} ${n === 1 ? "is as it should be" : "are as they should be"}`,
      narrow: (n) => `${n} ${n === 1 ? "stays" : "stay"} in part only`,
      withdraw: (n) => `${n} ${n === 1 ? "needs" : "need"} changing`,
      "pass-on": passedOn.en,
    },
  },
  de: {
    begins: (signer, lines) => `Ich, ${signer}, habe ${lines === 1 ? "diese eine Zeile" : `jede dieser ${lines} Zeilen`} angesehen.`,
    access: {
      keep: (n) => `${n} ${n === 1 ? "wird" : "werden"} gebraucht und ${n === 1 ? "bleibt" : "bleiben"}`,
      narrow: (n) => `${n} ${n === 1 ? "bleibt" : "bleiben"} nur zum Teil`,
      withdraw: (n) => `${n} ${n === 1 ? "ist" : "sind"} zu entziehen`,
      "pass-on": passedOn.de,
    },
    ofDefinitions: (n) => (n === 1 ? "Von der einen Festlegung:" : `Von ${n} Festlegungen:`),
    definitions: {
      keep: (n) => `${n} ${n === 1 ? "ist, wie sie sein soll" : "sind, wie sie sein sollen"}`,
      narrow: (n) => `${n} ${n === 1 ? "bleibt" : "bleiben"} nur zum Teil`,
      withdraw: (n) => `${n} ${n === 1 ? "ist" : "sind"} zu ändern`,
      "pass-on": passedOn.de,
    },
  },
};

const countOf = (counts: DecisionCounts): number => kinds.reduce((sum, kind) => sum + counts[kind], 0);

/** What stays and what goes, and in which other ways lines were decided. */
const toldOf = (counts: DecisionCounts, words: StatementWords["access"]): string =>
  kinds
    .filter((kind) => counts[kind] > 0 || kind === "keep" || kind === "withdraw")
    .map((kind) => words[kind](counts[kind]))
    .join("; ");

/**
 * What a certifier signs, in their own language: how many lines were decided in which way, those about definitions apart; ways that nobody chose are left
 * out, but for what stays and what goes.
 */
export function signingStatement(language: Language, signer: string, access: DecisionCounts, definitions?: DecisionCounts): string {
  const words = said[language];
  const [ofAccess, ofDefinitions] = [countOf(access), definitions ? countOf(definitions) : 0];
  return [
    words.begins(signer, ofAccess + ofDefinitions),
    ...(ofAccess > 0 || ofDefinitions === 0 ? [`${toldOf(access, words.access)}.`] : []),
    ...(definitions && ofDefinitions > 0 ? [`${words.ofDefinitions(ofDefinitions)} ${toldOf(definitions, words.definitions)}.`] : []),
  ].join(" ");
}

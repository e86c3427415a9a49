import type { DecisionCounts } from "./sign-docket";

/** The languages in which a docket is read and signed. */
export const languages = ["en", "de"] as const;
export type Language = (typeof languages)[number];

const kinds = ["keep", "narrow", "withdraw", "pass-on"] as const;

const said: Readonly<
  Record<Language, Readonly<Record<(typeof kinds)[number], (n: number) => string>> & { readonly begins: (signer: string, lines: number) => string }>
> = {
  en: {
    begins: (signer, lines) => `I, ${signer}, have looked at ${lines === 1 ? "this one line" : `each of these ${lines} lines`}.`,
    keep: (n) => `${n} ${n === 1 ? "is" : "are"} needed and ${n === 1 ? "stays" : "stay"}`,
    narrow: (n) => `${n} ${n === 1 ? "stays" : "stay"} in part only`,
    withdraw: (n) => `${n} ${n === 1 ? "is" : "are"} to be withdrawn`,
    "pass-on": (n) => `${n} ${n === 1 ? "was" : "were"} passed on to somebody else to decide`,
  },
  de: {
    begins: (signer, lines) => `Ich, ${signer}, habe ${lines === 1 ? "diese eine Zeile" : `jede dieser ${lines} Zeilen`} angesehen.`,
    keep: (n) => `${n} ${n === 1 ? "wird" : "werden"} gebraucht und ${n === 1 ? "bleibt" : "bleiben"}`,
    narrow: (n) => `${n} ${n === 1 ? "bleibt" : "bleiben"} nur zum Teil`,
    withdraw: (n) => `${n} ${n === 1 ? "ist" : "sind"} zu entziehen`,
    "pass-on": (n) => `${n} ${n === 1 ? "wurde" : "wurden"} an jemand anderen zur Entscheidung weitergegeben`,
  },
};

/**
 * What a certifier signs, in their own language: how many lines were decided in which way; ways that nobody chose are left out, but for what stays
 * and what goes.
 */
export function signingStatement(language: Language, signer: string, counts: DecisionCounts): string {
  const words = said[language];
  const told = kinds.filter((kind) => counts[kind] > 0 || kind === "keep" || kind === "withdraw").map((kind) => words[kind](counts[kind]));
  return `${words.begins(
    signer,
    kinds.reduce((sum, kind) => sum + counts[kind], 0),
  )} ${told.join("; ")}.`;
}

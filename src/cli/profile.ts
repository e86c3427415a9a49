import { access } from "node:fs/promises";
import path from "node:path";
import { parseArgs } from "node:util";
import type { Question } from "@/operations/intake/try-profile";
import { trySource } from "@/wiring/command-line";
import { profileFile } from "./intake";
import { exitRefused, printLine, Refusal, say, UsageError } from "./output";
import { withServices, writeTo } from "./with-database";

/** What a profile leaves open, in a sentence. */
function questionWords(question: Question): string {
  const at = "table" in question ? `${question.table}: ` : "";
  switch (question.kind) {
    case "table":
      return `${at}what its rows make is not said; say it, or leave the table aside ("makes": [], "aside": its columns).`;
    case "columns":
      return `${at}nothing is said of the columns ${question.columns.join(", ")}; read them, or name them in "aside".`;
    case "gone":
      return `${at}the profile reads the column ${question.column}, which the table has no more.`;
    case "needs":
      return `${at}no column and no constant says ${question.fields.join(" or ")} of ${question.makes}.`;
    case "values":
      return `${at}${question.column} as ${question.makes}.${question.field} has values without a meaning: ${question.values.map(({ text, count }) => `${JSON.stringify(text)} (${count})`).join(", ")}.`;
    case "marks":
      return `${at}it is not said which of these marks say yes: ${question.values.map(({ text }) => JSON.stringify(text)).join(", ")}.`;
    case "moments":
      return `${at}${question.column} as ${question.makes}.${question.field} can be read ${question.fits.length === 0 ? "in no form" : `as ${question.fits.map(({ form }) => form).join(" or as ")}`}: ${question.texts.slice(0, 3).join(", ")}.`;
    case "midnight":
      return `${at}it is not said whether midnight in ${question.column} means the date or the instant ("midnight").`;
    case "backwards":
      return `${at}it is not said whether hours that end before they begin are overnight or never ("backwards"): ${question.texts.slice(0, 3).join(", ")}.`;
    case "names":
      return `nothing brings the ${question.list} ${question.names
        .map(({ text }) => text)
        .slice(0, 10)
        .join(", ")}; bring them, or have them made ("madeFromNames").`;
  }
}

/** `nomade profile FILE`: how a file seems to be written, or what a profile makes of it; what is left open goes to standard error. */
export async function profile(args: readonly string[]): Promise<number> {
  const { values, positionals } = parseArgs({
    args: [...args],
    allowPositionals: true,
    options: { source: { type: "string" }, profile: { type: "string" }, out: { type: "string" } },
  });
  const [file] = positionals;
  if (file === undefined || positionals.length > 1) throw new UsageError("profile takes one file.");
  await access(file).catch(() => {
    throw new UsageError(`The file ${file} cannot be read.`);
  });
  const given = values.profile === undefined ? undefined : await profileFile(values.profile);
  return withServices(async (services) => {
    const tried = await trySource(services, { path: file, name: path.basename(file), source: values.source ?? "", profile: given }, () => undefined);
    if ("error" in tried) throw new Refusal(tried.error);
    const { profile: found, questions, tables, refused, refusedCount, unread, madeFromNames } = tried;
    if (values.out === undefined)
      await printLine({
        profile: found,
        questions,
        tables: tables.map(({ name, rows, outcome }) => ({ name, rows, ...outcome })),
        refused,
        refusedCount,
        unread,
        madeFromNames,
      });
    else await writeTo(values.out, `${JSON.stringify(found, undefined, 2)}\n`);
    for (const question of questions) say(questionWords(question));
    for (const { name, why } of unread) say(`${name} is not read: ${why}.`);
    return questions.length > 0 || refusedCount > 0 ? exitRefused : 0;
  });
}

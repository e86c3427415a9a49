/** Characters that show nothing, letters among them, such as the fillers of Hangul and the blank of Braille. */
const invisible = /[\p{Default_Ignorable_Code_Point}\p{Cc}\u2800]/gu;

/** A reason as it is kept: without blanks and invisible characters at its ends. Empty where it says nothing that can be read. */
export function writtenReason(text: string): string {
  const visible = text.replace(invisible, "");
  if (!/[\p{L}\p{N}]/u.test(visible)) return "";
  return text.replace(/^[\p{Default_Ignorable_Code_Point}\p{Cc}\p{Z}\u2800]+|[\p{Default_Ignorable_Code_Point}\p{Cc}\p{Z}\u2800]+$/gu, "");
}

/** Words that say nothing by themselves, in the languages of dockets. */
const empty = new Set(["ok", "okay", "yes", "fine", "good", "keep", "same", "none", "nothing", "test", "ja", "gut", "passt", "bleibt", "nichts", "egal"]);

/**
 * Whether a written reason says more than that somebody agrees: words other than empty ones, with more than three letters among them, not one letter
 * again and again.
 */
export function saysSomething(reason: string): boolean {
  const words = reason.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? [];
  const letters = words.filter((word) => !empty.has(word)).join("");
  // Scripts without an alphabet say in two signs what takes others a word.
  const isSyllabic = /[\p{Script=Han}\p{Script=Hiragana}\p{Script=Katakana}\p{Script=Hangul}]/u.test(letters);
  return new Set(letters).size >= (isSyllabic ? 2 : 3) && [...letters].length > (isSyllabic ? 1 : 3);
}

/** Characters that show nothing, letters among them, such as the fillers of Hangul and the blank of Braille. */
const invisible = /[\p{Default_Ignorable_Code_Point}\p{Cc}\u2800]/gu;

/** A reason as it is kept: without blanks and invisible characters at its ends. Empty where it says nothing that can be read. */
export function writtenReason(text: string): string {
  const visible = text.replace(invisible, "");
  if (!/[\p{L}\p{N}]/u.test(visible)) return "";
  return text.replace(/^[\p{Default_Ignorable_Code_Point}\p{Cc}\p{Z}\u2800]+|[\p{Default_Ignorable_Code_Point}\p{Cc}\p{Z}\u2800]+$/gu, "");
}

/**
 * Texts in cells that a spreadsheet must not run. A text that begins like a formula gets an apostrophe before it, an empty text is
 * one apostrophe (an empty cell means that there is nothing); what begins so already gets one more, so that reading undoes writing.
 * That spreadsheets run cells beginning with = + - @, tab or carriage return: common practice, no source.
 */
export const harmless = (text: string): string => (/^'*([=+\-@\t\r]|$)/.test(text) ? `'${text}` : text);

export const restored = (cell: string): string => (/^'+([=+\-@\t\r]|$)/.test(cell) ? cell.slice(1) : cell);

/** Several texts in one cell: with semicolons where that can be read back, else as a list of JSON. */
export function writtenList(texts: readonly string[]): string {
  const plain =
    texts.length > 0 &&
    !texts[0]?.startsWith("[") &&
    texts.every((text) => text !== "" && text === text.trim() && !text.includes(";") && harmless(text) === text);
  return plain ? texts.join("; ") : JSON.stringify(texts);
}

/** The texts of a cell; undefined where it begins like a list of JSON and is none. */
export function readList(cell: string): readonly string[] | undefined {
  if (!cell.startsWith("[")) return cell.split(";").map((text) => text.trim());
  try {
    const value: unknown = JSON.parse(cell);
    return Array.isArray(value) && value.every((text) => typeof text === "string") ? value : undefined;
  } catch {
    return undefined;
  }
}

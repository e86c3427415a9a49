/** A reference to something of the same drawing, as values of styles write it. */
const ownLink = /url\(\s*(?:"#([^"()\\]*)"|'#([^'()\\]*)'|#([^"'()\\\s]*))\s*\)/gi;

/** The ids of the same drawing that a value refers to. */
export const linkTargets = (value: string): string[] => [...value.matchAll(ownLink)].map(([, a, b, c]) => a ?? b ?? c ?? "");

/** A value of an attribute, where it refers to nothing but its own drawing; undefined otherwise. What is escaped could be anything. */
export function safeValue(value: string): string | undefined {
  const others = value.replace(ownLink, "");
  return /url\s*\(|image-set|src\s*\(|\\|expression\s*\(|javascript:|@/i.test(others) ? undefined : value;
}

/** What in styles moves a drawing, embeds something in it, or paints at every corner of a line. */
const notKept = /^(animation|transition|behavior|-moz-binding|filter|backdrop-filter|content|cursor|marker)/i;

/** The declarations of a `style` attribute without those that are not kept; undefined where one refers to something else. */
export function safeDeclarations(value: string): string | undefined {
  if (safeValue(value) === undefined) return undefined;
  return value
    .split(";")
    .filter((declaration) => declaration.trim() !== "" && !notKept.test(declaration.trim()))
    .join(";");
}

/** A style sheet with a space in place of each comment; undefined where one is never closed. */
function withoutComments(css: string): string | undefined {
  const parts: string[] = [];
  let from = 0;
  for (let begin = css.indexOf("/*"); begin >= 0; begin = css.indexOf("/*", from)) {
    const end = css.indexOf("*/", begin + 2);
    if (end < 0) return undefined;
    parts.push(css.slice(from, begin));
    from = end + 2;
  }
  return [...parts, css.slice(from)].join(" ");
}

/**
 * Whether a style sheet only paints: no rules at the level of the sheet, nothing escaped, and no reference but to colour gradients (`isGradient`) of the same
 * drawing: what else it may refer to could paint without end.
 */
export function isSafeStyleSheet(css: string, isGradient: (id: string) => boolean): boolean {
  const plain = withoutComments(css);
  if (plain === undefined || plain.includes("<")) return false;
  return (
    safeValue(plain) !== undefined &&
    linkTargets(plain).every(isGradient) &&
    !/(^|[;{\s])(animation|transition|filter|behavior|-moz-binding|marker)/i.test(plain)
  );
}

const marks = /\p{M}+/gu;
const plain = /^[\x20-\x7e]*$/;

/** A text as it is searched: case and accents do not count (Unicode's compatibility decomposition without its marks). */
export const fold = (text: string): string => (plain.test(text) ? text.toLowerCase() : text.normalize("NFKD").replace(marks, "").toLowerCase());

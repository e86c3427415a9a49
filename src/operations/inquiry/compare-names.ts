const collator = new Intl.Collator("en", { numeric: true });

/** Orders names as people sort them: "Glasshouse 2" before "Glasshouse 10". */
export const compareNames = (a: string, b: string): number => collator.compare(a, b);

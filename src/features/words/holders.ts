import type { LineHolder } from "@/operations/ports/rounds";

/** Who a line is about, in small print: department, what they are if no employee, and a status other than active. */
export function holderWords(holder: LineHolder | undefined): string {
  if (!holder) return "no cardholder";
  const { department, type, status } = holder;
  return [department ?? "No department", ...(type === undefined || type === "employee" ? [] : [type]), ...(status === "active" ? [] : [status])].join(", ");
}

/** Whose docket it is, by the name that the snapshot has. */
export const certifierWords = (name: string | undefined): string => name ?? "Nobody named: the reviewer";

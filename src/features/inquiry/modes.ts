import type { Inquiry } from "@/operations/inquiry/inquiry";

/** Under which conditions a question is asked, each as a few words. */
export const modesOf = ({ lockdown, asIfLive, draft }: Inquiry): readonly string[] => [
  ...(lockdown ? ["in a lockdown"] : []),
  ...(asIfLive ? ["as if every card were live"] : []),
  ...(draft === undefined ? [] : ["with a draft’s changes made"]),
];

/** The same as the end of a sentence: each after a comma; empty where there are none. */
export const modesClause = (inquiry: Inquiry): string =>
  modesOf(inquiry)
    .map((words) => `, ${words}`)
    .join("");

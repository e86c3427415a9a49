import type { ListKey } from "@/core/facility/document";

export const draftHref = (draft: number): string => `/register/drafts/${draft}`;

/** Where an object of a draft is edited; without a key, where one is added. */
export function editHref(draft: number, list: ListKey, key?: string, given: Readonly<Record<string, string>> = {}): string {
  const query = new URLSearchParams({ list, ...(key !== undefined && { key }), ...given });
  return `${draftHref(draft)}/edit?${query}`;
}

import type { KeptPlan } from "@/operations/register/plans/keep-plans";
import { refusalWords } from "./plan-words";

/** What a file chooser offers as pictures of plans. */
export const pictureKinds = "image/png,image/jpeg,image/svg+xml,.svg";

/** Sends a picture with what is said of it; gives the plan as it was kept, or why it was not, in words. */
export async function sendPicture(
  file: File,
  said: Readonly<Record<string, string>>,
): Promise<{ readonly id: number; readonly leftOut: readonly string[] } | string> {
  const response = await fetch(`/register/plans/upload?${new URLSearchParams(said)}`, { method: "POST", body: file });
  const answer = (await response.json()) as KeptPlan | { readonly error: string };
  if ("error" in answer) return answer.error;
  return answer.outcome === "kept" ? { id: answer.id, leftOut: answer.leftOut } : refusalWords(answer);
}

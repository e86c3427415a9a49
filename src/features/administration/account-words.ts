import type { AccountRefusal } from "@/operations/administration/accounts";
import type { AccountDetails } from "@/operations/ports/accounts";
import { english } from "../words/account/english";

/** Roles as the reviewer's side calls them. */
export const roleNames = english.roles;

export const accountRefusals: Readonly<Record<AccountRefusal, string>> = {
  "sites-of-role": "Only reviewers and auditors can be limited to sites; the others see what is theirs in any case.",
  "no-site": "The register has no such site.",
  "name-taken": "There is an account of this sign-in name already.",
  "cardholder-taken": "This cardholder has an account already; one cardholder has one.",
  "no-cardholder": "The register has no cardholder of this id.",
  "needs-cardholder": "Managers and area owners certify: say which cardholder they are.",
  yourself: "Somebody else has to do this to your own account.",
  "last-administrator": "This is the only administrator. Make another one first.",
  "not-there": "There is no such account any more, or it is so already.",
};

/** How an account stands, in a few words. */
export function stateOfAccount({ endedAt, hasPassword, hasSecondFactor, sessions }: AccountDetails, isFactorAsked: boolean): string {
  if (endedAt !== undefined) return "ended";
  return [
    hasPassword ? "signs in" : "has no password yet",
    ...(hasSecondFactor ? ["second factor"] : isFactorAsked ? ["second factor not set up"] : []),
    ...(sessions > 0 ? [sessions === 1 ? "one session" : `${sessions} sessions`] : []),
  ].join(", ");
}

import { concernsCredential } from "@/core/findings/about";
import { groupBy } from "@/core/kernel/compare";
import type { NamedHolder } from "../inquiry/inquiry";
import type { OpenRegister } from "../register/open-register";
import type { StoredFinding } from "../ports/findings";
import type { Services } from "../services";
import { todayOf } from "./today";

/** Far above what speaks against as many holders as a page shows. */
const findingsRead = 20_000;

type OneHolder = Pick<NamedHolder, "kind" | "id">;

export type FindingsAgainst = (holder: OneHolder) => readonly StoredFinding[];

/** What speaks against some holders, by whom: against a cardholder whatever is about them or a card of theirs, of a credential what is about it. */
export async function findingsOf(services: Services, { snapshot, compiled, sites }: OpenRegister, holders: readonly OneHolder[]): Promise<FindingsAgainst> {
  const credentials = holders.filter(({ kind }) => kind === "credential").map(({ id }) => id);
  const cardholderOf = (credential: string): string | undefined => compiled.facility.credentials[compiled.credentialById.get(credential) ?? -1]?.cardholder;
  // What is about somebody may be about one of their cards.
  const cardholders = [...holders.filter(({ kind }) => kind === "cardholder").map(({ id }) => id), ...credentials.flatMap((id) => cardholderOf(id) ?? [])];
  const found =
    // What speaks against somebody may be about any site.
    holders.length === 0 || sites !== undefined
      ? []
      : await services.findings.page(
          snapshot.id,
          { cardholders: [...new Set(cardholders)], credentials: [...new Set(credentials)] },
          todayOf(services),
          findingsRead,
        );
  const byCardholder = groupBy(found, ({ cardholder }) => cardholder);
  return ({ kind, id }) =>
    kind === "cardholder" ? (byCardholder.get(id) ?? []) : (byCardholder.get(cardholderOf(id)) ?? []).filter((finding) => concernsCredential(finding, id));
}

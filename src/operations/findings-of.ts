import type { NamedHolder } from "./inquiry";
import type { StoredFinding } from "./ports";
import type { Services } from "./services";

/** Far above what speaks against as many holders as a page shows. */
const findingsRead = 20_000;

type OneHolder = Pick<NamedHolder, "kind" | "id">;

/** What speaks against some holders, by whom: against a cardholder whatever is about them or a card of theirs, of a credential what is about it. */
export async function findingsOf(services: Services, snapshot: number, holders: readonly OneHolder[]): Promise<(holder: OneHolder) => readonly StoredFinding[]> {
  const ids = (kind: OneHolder["kind"]): string[] => [...new Set(holders.filter((holder) => holder.kind === kind).map(({ id }) => id))];
  const found = holders.length === 0 ? [] : await services.findings.page(snapshot, { cardholders: ids("cardholder"), credentials: ids("credential") }, findingsRead);
  const byHolder = new Map<string, StoredFinding[]>();
  const add = (key: string, finding: StoredFinding): void => {
    const list = byHolder.get(key);
    if (list) list.push(finding);
    else byHolder.set(key, [finding]);
  };
  for (const finding of found) {
    if (finding.cardholder !== undefined) add(`cardholder ${finding.cardholder}`, finding);
    if (finding.subject.kind === "credential") add(`credential ${finding.subject.id}`, finding);
  }
  return ({ kind, id }) => byHolder.get(`${kind} ${id}`) ?? [];
}

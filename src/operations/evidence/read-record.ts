import type { Account } from "../ports/accounts";
import type { RecordVerification, StoredEntry } from "../ports/record";
import { demand } from "../rights";
import type { Services } from "../services";

const entriesAPage = 60;

/** A page of the record, the latest entries first: those before an entry, or the last. */
export async function readRecord(services: Services, account: Account, before: number | undefined): Promise<StoredEntry[]> {
  demand(account, "read-record");
  return services.record.page(before, entriesAPage);
}

export async function verifyRecord(services: Services, account: Account): Promise<RecordVerification> {
  demand(account, "read-record");
  return services.record.verify();
}

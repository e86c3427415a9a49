import type { Account } from "../ports/accounts";
import type { AskedEntries, RecordVerification, StoredEntry } from "../ports/record";
import { demand } from "../rights";
import type { Services } from "../services";

const entriesAPage = 60;

/** A page of the record, the latest entries first, of those that fit what is asked. */
export async function readRecord(services: Services, account: Account, asked: AskedEntries): Promise<StoredEntry[]> {
  demand(account, "read-record");
  return services.record.page(asked, entriesAPage);
}

/** Everybody who has an entry, to choose from. */
export async function peopleOfRecord(services: Services, account: Account): Promise<string[]> {
  demand(account, "read-record");
  return services.record.people();
}

export async function verifyRecord(services: Services, account: Account): Promise<RecordVerification> {
  demand(account, "read-record");
  return services.record.verify();
}

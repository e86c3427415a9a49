import type { Account } from "../ports/accounts";
import { demand } from "../rights";
import type { Services } from "../services";

/** A table that is handed out: of what, and by which question, the query of its address. */
export interface ExportedTable {
  readonly what: "findings" | "answer" | "list" | "calendar";
  /** Such as `snapshot 3`. */
  readonly on: string;
  readonly query: string;
}

/** Enters into the record that somebody takes a table away, before it is handed out. */
export async function noteExport(services: Services, account: Account, { what, on, query }: ExportedTable): Promise<void> {
  demand(account, "ask");
  await services.record.append(account, services.now(), { what: `${what}.exported`, on, after: { asked: query } });
}

import { templateWorkbook, templateZip } from "@/intake/formats/tables/templates";
import type { Account } from "../ports/accounts";
import { demand } from "../rights";
import type { Services } from "../services";

/** Empty tables to be filled in, each with its header and one made-up row. */
export function handOutTemplates(_services: Services, account: Account, form: "xlsx" | "csv"): Uint8Array {
  demand(account, "take-in");
  return form === "xlsx" ? templateWorkbook() : templateZip();
}

import type { Account } from "../ports/accounts";
import type { OpenRegister } from "../register/open-register";
import { demand } from "../rights";
import type { Services } from "../services";
import type { AskedFindings, NamedFinding } from "./list-findings";
import { filterOf, groupName, namer } from "./list-findings";
import { todayOf } from "./today";

/** More findings than this are not handed out at once. */
export const mostExported = 50_000;

export type ExportedFindings =
  { readonly outcome: "exported"; readonly findings: readonly NamedFinding[] } | { readonly outcome: "too-many"; readonly total: number };

/** All findings that are asked for, the riskiest first; none of them where there are too many to be handed out at once. */
export async function exportFindings(services: Services, account: Account, register: OpenRegister, asked: AskedFindings): Promise<ExportedFindings> {
  demand(account, "read-findings");
  const { id } = register.snapshot;
  const named = namer(register);
  if (asked.fingerprint !== undefined) {
    const finding = await services.findings.byFingerprint(id, asked.fingerprint);
    return { outcome: "exported", findings: finding ? [named(finding)] : [] };
  }
  if (asked.life === "gone") return { outcome: "exported", findings: (await services.findings.gone(id, mostExported)).map(named) };
  const [filter, today] = [filterOf(account, asked), todayOf(services)];
  const total = await services.findings.count(id, filter, today);
  if (total > mostExported) return { outcome: "too-many", total };
  return { outcome: "exported", findings: (await services.findings.page(id, filter, today, mostExported)).map(named) };
}

/** The findings about a manager's people, on one sheet. */
export interface ManagerSheet {
  /** Id of the manager; empty for people whom nobody certifies, and for what is about nobody. */
  readonly manager: string;
  readonly name: string;
  readonly total: number;
  readonly findings: readonly NamedFinding[];
}

const onASheet = 250;

/** The findings that are asked for, a sheet a manager; of each the riskiest. */
export async function printFindings(services: Services, account: Account, register: OpenRegister, asked: AskedFindings): Promise<readonly ManagerSheet[]> {
  demand(account, "read-findings");
  const { id } = register.snapshot;
  const [filter, today] = [filterOf(account, asked), todayOf(services)];
  const named = namer(register);
  const sheets: ManagerSheet[] = [];
  for (const { key, findings } of await services.findings.groups(id, filter, today, "manager")) {
    if (asked.by === "manager" && asked.key !== undefined && asked.key !== key) continue;
    const page = await services.findings.page(id, { ...filter, group: { by: "manager", key } }, today, onASheet);
    sheets.push({ manager: key, name: groupName(register, "manager", key), total: findings, findings: page.map(named) });
  }
  return sheets;
}

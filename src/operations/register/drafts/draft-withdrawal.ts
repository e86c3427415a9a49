import { withdraw } from "@/core/certification/remedy";
import { withdrawableOf } from "@/core/certification/what-ends";
import type { Withdrawable } from "@/core/certification/what-ends";
import type { HolderId } from "@/core/facility/holder-id";
import { directoryOf } from "@/core/register/directory";
import { horizonOf } from "@/core/table/horizon";
import type { PlannedWithdrawal } from "@/core/certification/line-withdrawal";
import { otherWay } from "@/core/certification/line-withdrawal";
import type { Horizon } from "@/core/table/horizon";
import { changeDraft, wantedOf } from "./change-draft";
import { beginDraft, dropDraft } from "./open-draft";
import type { OpenRegister } from "../open-register";
import { openRegister } from "../open-register";
import type { Account } from "../../ports/accounts";
import { demand } from "../../rights";
import type { Services } from "../../services";
import type { ShownWithdrawal } from "../../certification/withdrawals";
import { planningTerms } from "../../certification/orders-of-lines";
import { shownWithdrawal } from "../../certification/withdrawals";

/** What is to be withdrawn: what a finding is about, or a door from somebody, in the best way or in that with fewer blocks. */
export type AskedWithdrawal =
  | { readonly finding: string }
  | { readonly holder: HolderId; readonly door: string; readonly withFewerBlocks?: true | undefined };

/** A withdrawal that could be put into a draft: what it is called, and what it does. */
export interface OfferedWithdrawal {
  readonly title: string;
  readonly withdrawal: ShownWithdrawal;
}

async function askedOf(services: Services, register: OpenRegister, asked: AskedWithdrawal): Promise<Withdrawable | undefined> {
  const { compiled, snapshot } = register;
  if ("door" in asked) {
    const isThere = (asked.holder.kind === "cardholder" ? compiled.cardholderById : compiled.credentialById).has(asked.holder.id);
    return isThere && compiled.doorById.has(asked.door) ? { holder: asked.holder, doors: [asked.door] } : undefined;
  }
  const finding = await services.findings.byFingerprint(snapshot.id, asked.finding);
  return finding && withdrawableOf(finding);
}

const namesShown = 3;

function titleOf({ compiled }: OpenRegister, what: Withdrawable): string {
  const directory = directoryOf(compiled);
  const name = ({ kind, id }: HolderId): string => (kind === "credential" ? directory.credentialName(id) : directory.name("cardholder", id));
  const some = (names: readonly string[]): string =>
    `${names.slice(0, namesShown).join(", ")}${names.length > namesShown ? ` and ${names.length - namesShown} more` : ""}`;
  if ("areas" in what) return `Withdraw ${some(what.areas.map((area) => directory.name("area", area)))} from ${name(what.holder)}`;
  return "doors" in what
    ? `Withdraw ${some(what.doors.map((door) => directory.name("door", door)))} from ${name(what.holder)}`
    : `${what.status === "suspended" ? "Suspend" : "Return"} ${some(what.credentials.map((id) => directory.credentialName(id)))} of ${name(what.holder)}`;
}

/** What taking it away would come to in the present register; undefined where there is no such finding, holder or door. */
export async function offerWithdrawal(services: Services, account: Account, asked: AskedWithdrawal): Promise<OfferedWithdrawal | undefined> {
  demand(account, "edit-drafts");
  const register = await openRegister(services);
  const what = register && (await askedOf(services, register, asked));
  if (!what) return undefined;
  const horizon = horizonOf(register.compiled);
  const planned = inTheWay(horizon, asked, withdraw(horizon, what, await planningTerms(services)));
  return { title: titleOf(register, what), withdrawal: shownWithdrawal(register.compiled, planned) };
}

/** A plan in the way that is asked for: its best one, or that with fewer blocks where there is one. */
const inTheWay = (horizon: Horizon, asked: AskedWithdrawal, plan: PlannedWithdrawal): PlannedWithdrawal =>
  ("door" in asked && asked.withFewerBlocks ? otherWay(horizon, plan, asked.holder, [asked.door]) : undefined) ?? plan;

const longestName = 255;

/** Begins a draft that takes it away as it was offered, to be looked at and closed like any other; gives its number. */
export async function draftWithdrawal(services: Services, account: Account, asked: AskedWithdrawal): Promise<number | undefined> {
  demand(account, "edit-drafts");
  const register = await openRegister(services);
  const what = register && (await askedOf(services, register, asked));
  const horizon = register && horizonOf(register.compiled);
  const changes = what && horizon ? inTheWay(horizon, asked, withdraw(horizon, what, await planningTerms(services))).changes : [];
  if (!what || changes.length === 0) return undefined;
  const draft = await beginDraft(services, account, titleOf(register, what).slice(0, longestName));
  const { outcome } = await changeDraft(services, account, draft, changes.map(wantedOf), true);
  if (outcome === "written") return draft;
  await dropDraft(services, account, draft);
  return undefined;
}

import { otherWay, withdrawDoors } from "@/core/certification/line-withdrawal";
import type { HolderId } from "@/core/facility/holder-id";
import { required } from "@/core/kernel/invariant";
import { askedDoors } from "@/core/questions/asked-doors";
import { askedPeople } from "@/core/questions/asked-people";
import { directoryOf } from "@/core/register/directory";
import { groupRemovals } from "@/core/table/group-removals";
import { horizonOf } from "@/core/table/horizon";
import { shownWithdrawal } from "../certification/withdrawals";
import type { Account } from "../ports/accounts";
import type { OpenRegister } from "../register/open-register";
import { demand, may } from "../rights";
import type { Services } from "../services";
import { asPair, registerOf } from "./inquiry";
import type { Inquiry, ShutPlan } from "./inquiry";
import { credentialsOf } from "./inquiry-context";

/** What must go before a door no longer opens for a holder; undefined where the question is not of one of each, or nothing opens. */
export function shutInquiry(_services: Services, account: Account, { compiled }: OpenRegister, asked: Inquiry): ShutPlan | undefined {
  demand(account, "ask");
  // What shuts a door is planned over all sites.
  demand(account, "read-whole");
  const inquiry = asPair(asked);
  if (!inquiry?.where) return undefined;
  const horizon = horizonOf(compiled);
  const [own] = askedPeople(compiled, inquiry.who, horizon.asOf);
  const [door] = askedDoors(compiled, inquiry.where) ?? [];
  const credentials = own === undefined ? [] : credentialsOf(compiled, own);
  if (door === undefined || credentials.length === 0) return undefined;
  const { id } = required(compiled.facility.doors[door], "positions are valid");
  // Of a card that somebody carries it is the person that is planned for: their other cards would open the door as well.
  const carrier = credentials[0]?.holder?.cardholder.id;
  const holder: HolderId = carrier === undefined ? { kind: "credential", id: inquiry.who.id } : { kind: "cardholder", id: carrier };
  const plan = withdrawDoors(horizon, holder, [id]);
  const blocks = plan.changes.some((change) => change.do === "add" && change.object.effect === "block");
  const withoutBlock = blocks ? groupRemovals(compiled, horizon.timeframe({ lockdown: inquiry.lockdown, asIfLive: false }), credentials, door) : [];
  const directory = directoryOf(compiled);
  const grants = compiled.indexes.of("grants");
  const names = withoutBlock.flatMap(({ grant, group }) => {
    const given = compiled.facility.grants[grants.get(grant) ?? -1];
    return [[`group ${group}`, directory.name("group", group)], ...(given ? [[`grant ${grant}`, directory.target(given)]] : [])];
  });
  const other = otherWay(horizon, plan, holder, [id]);
  return {
    withdrawal: shownWithdrawal(compiled, plan),
    otherWay: other && shownWithdrawal(compiled, other),
    // A draft is of the present register.
    toWithdraw: plan.changes.length > 0 && registerOf(inquiry) === undefined && may(account, "edit-drafts") ? { holder, door: id } : undefined,
    withoutBlock,
    names: Object.fromEntries(names) as Record<string, string>,
  };
}

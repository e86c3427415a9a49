import { required } from "@/core/kernel/invariant";
import { calendarAt } from "@/core/paths/paths";
import { askedPeople } from "@/core/questions/asked-people";
import type { YearOfAccess } from "@/core/questions/year-of-access";
import { yearOfAccess } from "@/core/questions/year-of-access";
import { openDuring } from "@/core/time/schedule";
import type { OpenRegister } from "../register/open-register";
import type { Account } from "../ports/accounts";
import { demand } from "../rights";
import type { Services } from "../services";
import { asPair } from "./inquiry";
import type { Inquiry } from "./inquiry";
import { contextOf, credentialsOf } from "./inquiry-context";

/** When a holder opens a door, date by date over the 13 months from the export; undefined where the question is not of one of each. */
export async function yearOfPair(services: Services, account: Account, register: OpenRegister, asked: Inquiry): Promise<YearOfAccess | undefined> {
  demand(account, "ask");
  const { compiled } = register;
  const inquiry = asPair(asked);
  if (!inquiry) return undefined;
  const context = await contextOf(services, compiled, inquiry);
  const [door] = (inquiry.where && context.doors) ?? [];
  const [holder] = askedPeople(compiled, inquiry.who, context.since);
  if (door === undefined || holder === undefined) return undefined;
  const {
    zone,
    calendar: ofSite,
    door: { site },
  } = required(compiled.doors[door], "positions are valid");
  const own = credentialsOf(compiled, holder)[0]?.holder?.calendar;
  const { asOf, until } = context;
  const business = openDuring(context.businessOf(site), calendarAt(compiled, ofSite), zone, asOf, until);
  const open = context.timetable([holder], [door], inquiry.asIfLive === true);
  return yearOfAccess(open, { zone, calendar: calendarAt(compiled, own ?? ofSite), business }, asOf, until);
}

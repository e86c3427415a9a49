import { required, unreachable } from "../kernel/invariant";
import type { CompiledCredential, CompiledDoor, CompiledFacility } from "../compile/compiled-facility";
import type { EntryRule } from "../facility/document";
import type { EpochMinute } from "../time/instant";
import { openAt } from "../time/schedule";
import { calendarAt } from "./paths";

/** Whether a credential can do what an entry rule asks for. */
export function meetsEntry(credential: CompiledCredential, rule: EntryRule): boolean {
  const isPin = credential.credential.kind === "pin";
  switch (rule) {
    case "card":
      return !isPin;
    case "pin":
      return credential.hasPin;
    case "card+pin":
      return !isPin && (credential.hasPin || !!credential.holder?.cardholder.pinExempt);
    case "card-or-pin":
      return true;
    default:
      return unreachable(rule);
  }
}

/** The entry rule of a door at a minute: of the first row whose schedule is open, else the door's own. */
export function entryRuleAt(compiled: CompiledFacility, door: CompiledDoor, minute: EpochMinute): EntryRule {
  const calendar = calendarAt(compiled, door.calendar);
  const row = door.entryRows.find(({ schedule }) =>
    openAt(required(compiled.schedules[schedule], "positions are valid"), calendar, door.zone, minute),
  );
  return row?.entry ?? door.entry;
}

import type { CompiledFacility } from "@/core/compile/compiled-facility";
import { instantOf } from "@/core/facility/time-rules";
import type { AccessTable } from "@/core/resolve/access-table";
import { accessTable } from "@/core/resolve/access-table";
import type { AskingMode } from "@/core/resolve/paths";
import { exactReading } from "@/core/resolve/reading";
import { monthsAhead } from "@/core/time/horizon";
import { minuteDown } from "@/core/time/instant";

const tables = new WeakMap<CompiledFacility, Map<string, AccessTable>>();

/** Who opens what in the 13 months from the export, laid out once for each register and way of asking, and kept with the register. */
export function horizonTable(compiled: CompiledFacility, mode: AskingMode): AccessTable {
  const ofRegister = tables.get(compiled) ?? new Map<string, AccessTable>();
  tables.set(compiled, ofRegister);
  const key = `${mode.lockdown} ${mode.asIfLive}`;
  let table = ofRegister.get(key);
  if (!table) {
    const asOf = minuteDown(instantOf(compiled.facility.asOf));
    table = accessTable(compiled, exactReading(compiled, asOf, monthsAhead(asOf), mode));
    ofRegister.set(key, table);
  }
  return table;
}

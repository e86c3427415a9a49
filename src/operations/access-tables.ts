import type { CompiledFacility } from "@/core/compile/compiled-facility";
import type { AccessTable } from "@/core/resolve/access-table";
import { accessTable } from "@/core/resolve/access-table";
import type { AskingMode } from "@/core/resolve/paths";
import { exactReading } from "@/core/resolve/reading";
import { aheadOf } from "@/core/facility/ahead";

const tables = new WeakMap<CompiledFacility, Map<string, AccessTable>>();

/** Who opens what in the 13 months from the export, laid out once for each register and way of asking, and kept with the register. */
export function horizonTable(compiled: CompiledFacility, mode: AskingMode): AccessTable {
  const ofRegister = tables.get(compiled) ?? new Map<string, AccessTable>();
  tables.set(compiled, ofRegister);
  const key = `${mode.lockdown} ${mode.asIfLive}`;
  let table = ofRegister.get(key);
  if (!table) {
    const { from, to } = aheadOf(compiled.facility);
    table = accessTable(compiled, exactReading(compiled, from, to, mode));
    ofRegister.set(key, table);
  }
  return table;
}

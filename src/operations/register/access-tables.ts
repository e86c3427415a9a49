import type { CompiledFacility } from "@/core/compile/compiled-facility";
import { layOut } from "@/core/certification/withdrawal/withdrawal-effects";
import type { LaidOut } from "@/core/certification/withdrawal/withdrawal-effects";
import type { AccessTable } from "@/core/table/access-table";
import { accessTable } from "@/core/table/access-table";
import type { AskingMode } from "@/core/paths/paths";
import { exactTimeframe } from "@/core/paths/timeframe";
import type { EpochMinute } from "@/core/time/instant";
import { aheadOf } from "@/core/facility/ahead";

const laidOut = new WeakMap<CompiledFacility, { readonly of: LaidOut; uses: number }>();

/** After so many changed registers beside it a world is begun anew: it holds on to the rows and timelines of all of them. */
const usesOfAWorld = 500;

/** A register in a world in which changed ones are laid out beside it; kept with the register. */
export function laidOutOf(compiled: CompiledFacility): LaidOut {
  let known = laidOut.get(compiled);
  if (!known || known.uses >= usesOfAWorld) laidOut.set(compiled, (known = { of: layOut(compiled, aheadOf(compiled.facility)), uses: 0 }));
  known.uses++;
  return known.of;
}

const tables = new WeakMap<CompiledFacility, Map<string, AccessTable>>();

const spanTables = new WeakMap<CompiledFacility, Map<string, AccessTable>>();
const spanTablesKept = 4;

/** Who opens what from one minute to another, beyond the 13 months from the export; the last few are kept with the register. */
export function spanTable(compiled: CompiledFacility, from: EpochMinute, to: EpochMinute, mode: AskingMode): AccessTable {
  const kept = spanTables.get(compiled) ?? new Map<string, AccessTable>();
  spanTables.set(compiled, kept);
  const key = `${from} ${to} ${mode.lockdown} ${mode.asIfLive}`;
  const table = kept.get(key) ?? accessTable(compiled, exactTimeframe(compiled, from, to, mode));
  kept.delete(key);
  kept.set(key, table);
  for (const oldest of kept.keys()) {
    if (kept.size <= spanTablesKept) break;
    kept.delete(oldest);
  }
  return table;
}

/** Who opens what in the 13 months from the export, laid out once for each register and way of asking, and kept with the register. */
export function horizonTable(compiled: CompiledFacility, mode: AskingMode): AccessTable {
  const ofRegister = tables.get(compiled) ?? new Map<string, AccessTable>();
  tables.set(compiled, ofRegister);
  const key = `${mode.lockdown} ${mode.asIfLive}`;
  let table = ofRegister.get(key);
  if (!table) {
    const { from, to } = aheadOf(compiled.facility);
    table = accessTable(compiled, exactTimeframe(compiled, from, to, mode));
    ofRegister.set(key, table);
  }
  return table;
}

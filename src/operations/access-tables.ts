import type { CompiledFacility } from "@/core/compile/compiled-facility";
import { layOut } from "@/core/certification/withdrawal/withdrawal-effects";
import type { LaidOut } from "@/core/certification/withdrawal/withdrawal-effects";
import type { AccessTable } from "@/core/resolve/access-table";
import { accessTable } from "@/core/resolve/access-table";
import type { AskingMode } from "@/core/resolve/paths";
import { exactReading } from "@/core/resolve/reading";
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

import { compileFacility } from "@/core/compile/compile-facility";
import type { CompiledCredential, CompiledFacility } from "@/core/compile/compiled-facility";
import type { FacilityDocument } from "@/core/facility/document";
import { required } from "@/core/kernel/invariant";
import type { Position } from "@/core/compile/position-index";
import { minuteDown, parseInstant } from "@/core/time/instant";
import type { EpochMinute } from "@/core/time/instant";
import { readFacility } from "@/intake/formats/facility/read-facility";

/** A document with one site, one door, one schedule and one cardholder with a card; lists given replace the usual ones. */
export const facilityDraft = (given: Partial<FacilityDocument> = {}): FacilityDocument => ({
  format: "nomade.facility/1",
  name: "Test institute",
  timeZone: "Europe/Vienna",
  asOf: "2026-03-01T00:00:00Z",
  sites: [{ id: "garden", name: "Garden", timeZone: "Europe/Vienna" }],
  schedules: [
    { id: "always", name: "Always", always: true },
    {
      id: "office",
      name: "Office",
      week: { mon: [["08:00", "18:00"]], tue: [["08:00", "18:00"]], wed: [["08:00", "18:00"]], thu: [["08:00", "18:00"]], fri: [["08:00", "18:00"]] },
    },
  ],
  doors: [{ id: "gate", name: "Gate", site: "garden" }],
  cardholders: [{ id: "iris", name: "Iris Almond", status: "active" }],
  credentials: [{ id: "c1", cardholder: "iris", kind: "card", status: "active" }],
  ...given,
});

/** Reads and compiles a document through the real intake; fails the test with its errors if it is refused. */
export function compiledFrom(given: Partial<FacilityDocument> = {}): CompiledFacility {
  const checked = readFacility(JSON.stringify(facilityDraft(given)));
  if (!checked.ok) throw new Error(JSON.stringify(checked.error));
  return compileFacility(checked.value.facility);
}

export const minute = (text: string): EpochMinute => minuteDown(required(parseInstant(text), `${text} is an instant`));

export const credentialOf = (compiled: CompiledFacility, id: string): CompiledCredential =>
  required(compiled.credentials.at(compiled.credentialById.get(id) ?? -1), `there is a credential ${id}`);

export const doorOf = (compiled: CompiledFacility, id: string): Position => required(compiled.doorById.get(id), `there is a door ${id}`);

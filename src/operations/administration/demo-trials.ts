import { runTrial } from "@/core/evidence/trials";
import type { Trial } from "@/core/evidence/trials";
import type { Services } from "../services";

/** Doors that are tried in the demo, and when: by day, at night, and on a public holiday; all lie after its export. */
const doors = ["v-outer", "g-pesticide", "g-data", "g-lab-main"];
const moments = [
  ["2026-12-07T09:00Z", "a weekday morning"],
  ["2026-12-08T09:00Z", "a public holiday"],
  ["2026-12-12T20:30Z", "Saturday night"],
  ["2026-12-31T21:30Z", "the night of the year’s end"],
] as const;
const trials = 28;

/** Writes the trials of the demo down: what the doors did when somebody tried them on the present register. */
export async function addDemoTrials(services: Services): Promise<void> {
  const snapshot = await services.snapshots.latest();
  if (!snapshot) return;
  const compiled = await services.compiled(snapshot);
  const { credentials } = compiled.facility;
  for (let i = 0; i < trials; i++) {
    const [at, note] = moments[i % moments.length] ?? moments[0];
    const door = doors[Math.floor(i / 7) % doors.length] ?? "";
    const asked = (credential: string): Trial => ({ credential, door, at, lockdown: false, expected: "open", note });
    // Every other trial is of somebody who comes in, where anybody does.
    const opening = i % 2 === 0 ? credentials.filter(({ id }) => runTrial(compiled, asked(id)).isAsExpected) : [];
    const one = opening[(i * 5) % Math.max(1, opening.length)] ?? credentials[(i * 17) % credentials.length];
    const trial = asked(one?.id ?? "");
    await services.trials.add({ ...trial, expected: runTrial(compiled, trial).verdict }, { signIn: "reviewer" }, services.now());
  }
}

import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { exactTimeframe } from "@/core/paths/timeframe";
import { freeIn, openIn } from "@/core/paths/timetable";
import { reasonAt } from "@/core/paths/verdict";
import { contains } from "@/core/time/intervals";
import type { EpochMinute } from "@/core/time/instant";
import { required } from "@/core/kernel/invariant";
import { compiledFrom, credentialOf, doorOf, minute } from "../builders";
import { arbitraryFacility, arbitraryQuestion } from "./arbitrary-facility";
import { Judge } from "./judge";

describe("the resolver against the point-wise judge", () => {
  it("gives the same reason for every verdict", () => {
    fc.assert(
      fc.property(arbitraryFacility, fc.array(arbitraryQuestion, { minLength: 6, maxLength: 6 }), (draft, questions) => {
        const compiled = compiledFrom(draft);
        const judge = new Judge(draft);
        for (const { credential, door, day, minuteOfDay, lockdown, asIfLive } of questions) {
          const at = (minute(`${day}T00:00:00Z`) + minuteOfDay) as EpochMinute;
          const reason = reasonAt(compiled, credentialOf(compiled, credential), doorOf(compiled, door), at, { lockdown, asIfLive });
          expect({ credential, door, at, reason }).toEqual({
            credential,
            door,
            at,
            reason: judge.reason(credential, door, BigInt(at), { lockdown, asIfLive }),
          });
        }
      }),
      { numRuns: 250 },
    );
  }, 120_000);

  it("lays out timetables that hold just the minutes at which the verdict is open, at every bound and between", () => {
    fc.assert(
      fc.property(arbitraryFacility, arbitraryQuestion, (draft, { credential, door, day, lockdown, asIfLive }) => {
        const compiled = compiledFrom(draft);
        const judge = new Judge(draft);
        const mode = { lockdown, asIfLive };
        const from = minute(`${day}T00:00:00Z`);
        const to = (from + 2 * 1440) as EpochMinute;
        const timeframe = exactTimeframe(compiled, from, to, mode);
        const open = openIn(compiled, timeframe, credentialOf(compiled, credential), doorOf(compiled, door));
        const free = freeIn(timeframe, required(compiled.doors[doorOf(compiled, door)], "positions are valid"));
        const bounds = [...open, ...free].flatMap((bound) => [bound - 1, bound]).filter((at) => at >= from && at < to);
        const between = Array.from({ length: 24 }, (_, i) => from + i * 120 + 7);
        for (const at of [...bounds, ...between]) {
          expect({ at, open: contains(open, at) }).toEqual({ at, open: judge.reason(credential, door, BigInt(at), mode) === "open" });
          const judged = judge.f.doors?.find(({ id }) => id === door);
          expect({ at, free: contains(free, at) }).toEqual({ at, free: !!judged && judge.free(judged, BigInt(at), mode) });
        }
      }),
      { numRuns: 120 },
    );
  }, 120_000);
});

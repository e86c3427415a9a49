import { readdirSync, readFileSync } from "node:fs";
import { describe, expect, it } from "@jest/globals";
import { compileFacility } from "@/core/compile/compile-facility";
import { required } from "@/core/kernel/invariant";
import { exactTimeframe } from "@/core/paths/timeframe";
import { openIn } from "@/core/paths/timetable";
import { askVerdict } from "@/core/paths/trace";
import { formatMinute, minuteDown, minuteUp, parseInstant } from "@/core/time/instant";
import type { EpochMinute } from "@/core/time/instant";
import { readFacility } from "@/intake/formats/facility/read-facility";

/** Worked by hand from the text of the semantics; each file names the public facts that it rests on. */
interface ConformanceCase {
  readonly about: string;
  readonly facility: unknown;
  readonly questions?: readonly {
    readonly credential: string;
    readonly door: string;
    readonly at: string;
    readonly lockdown?: boolean;
    readonly asIfLive?: boolean;
    readonly verdict: string;
    readonly reason: string;
  }[];
  readonly timetables?: readonly {
    readonly credential: string;
    readonly door: string;
    readonly from: string;
    readonly to: string;
    readonly lockdown?: boolean;
    readonly open: readonly (readonly [string, string])[];
  }[];
}

const folder = new URL("../cases/", import.meta.url);
const instant = (text: string) => required(parseInstant(text), `${text} is an instant`);

describe.each(readdirSync(folder).filter((name) => name.endsWith(".json")))("%s", (name) => {
  const example = JSON.parse(readFileSync(new URL(name, folder), "utf8")) as ConformanceCase;
  const checked = readFacility(JSON.stringify(example.facility));
  if (!checked.ok) throw new Error(`${name}: ${JSON.stringify(checked.error)}`);
  const compiled = compileFacility(checked.value.facility);

  it(`answers every question: ${example.about}`, () => {
    const asked = (example.questions ?? []).map(({ credential, door, at, lockdown, asIfLive }) => {
      const mode = { lockdown: !!lockdown, asIfLive: !!asIfLive };
      const { verdict, reason } = askVerdict(compiled, { credential, door, at: minuteDown(instant(at)), mode });
      return { credential, door, at, verdict, reason };
    });
    const expected = (example.questions ?? []).map(({ credential, door, at, verdict, reason }) => ({ credential, door, at, verdict, reason }));
    expect(asked).toEqual(expected);
  });

  it("lays out every timetable", () => {
    const laidOut = (example.timetables ?? []).map(({ credential, door, from, to, lockdown }) => {
      const mode = { lockdown: !!lockdown, asIfLive: false };
      const reading = exactTimeframe(compiled, minuteDown(instant(from)), minuteUp(instant(to)), mode);
      const asked = required(compiled.credentials.at(compiled.credentialById.get(credential) ?? -1), credential);
      const set = openIn(compiled, reading, asked, required(compiled.doorById.get(door), door));
      return set.map((minute) => formatMinute(minute as EpochMinute));
    });
    expect(laidOut).toEqual((example.timetables ?? []).map(({ open }) => open.flat()));
  });
});

import { describe, expect, it } from "@jest/globals";
import { signInTries } from "./sign-in-tries";

const minute = 60_000;

describe("tries to sign in", () => {
  it("are limited by name, by source and for the whole server, each for a window", () => {
    const tries = signInTries({ perName: 2, perSource: 3, perServer: 5, windowMinutes: 15 });
    const begins = (name: string, source: string, now: number) => tries.begin(name, source, now) !== undefined;
    expect([begins("a", "x", 0), begins("a", "y", 0), begins("a", "z", 0)]).toEqual([true, true, false]);
    expect([begins("b", "x", 0), begins("c", "x", 0), begins("d", "x", 0)]).toEqual([true, true, false]);
    expect([begins("e", "v", 0), begins("f", "w", 0)]).toEqual([true, false]);
    expect(begins("a", "x", 15 * minute)).toBe(true);
  });

  it("count from their beginning, and no longer once one is right", () => {
    const tries = signInTries({ perName: 2, perSource: 9, perServer: 9, windowMinutes: 15 });
    const [first, second] = [tries.begin("a", "x", 0), tries.begin("a", "x", 0)];
    expect(tries.begin("a", "x", 0)).toBeUndefined();
    second?.succeeded();
    expect(first).toBeDefined();
    expect(tries.begin("a", "x", 1)).toBeDefined();
  });
});

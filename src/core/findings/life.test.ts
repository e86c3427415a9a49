import { describe, expect, it } from "@jest/globals";
import { lifeOf } from "./life";

const looks = (...tells: readonly boolean[]) => tells.map((couldTell, i) => ({ snapshot: tells.length - i, couldTell }));

describe("the life of a finding over snapshots, of which the latest is the highest number", () => {
  it("is new where none before has it, and where there is none before", () => {
    expect(lifeOf(looks(true, true), new Set())).toBe("new");
    expect(lifeOf([], new Set())).toBe("new");
  });

  it("is still there where the one before has it, and back where only an earlier one has", () => {
    expect(lifeOf(looks(true, true, true), new Set([3]))).toBe("still");
    expect(lifeOf(looks(true, true, true), new Set([2]))).toBe("back");
    expect(lifeOf(looks(true, true, true), new Set([1]))).toBe("back");
  });

  it("passes over a snapshot in which its rule could not tell, also where that has it from elsewhere", () => {
    expect(lifeOf(looks(false, true, true), new Set([2]))).toBe("still");
    expect(lifeOf(looks(false, false, true), new Set([1]))).toBe("still");
    expect(lifeOf(looks(false, true, true), new Set([1]))).toBe("back");
    expect(lifeOf(looks(false, false), new Set())).toBe("new");
    expect(lifeOf(looks(true, false), new Set([1]))).toBe("new");
  });
});

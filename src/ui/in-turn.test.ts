import { describe, expect, test } from "@jest/globals";
import { inTurn } from "./in-turn";

describe("work in turn", () => {
  test("is done one after the other, each in a task of its own; what is called off is not, and keeps nobody waiting", async () => {
    const done: string[] = [];
    inTurn(() => {
      done.push("first");
      // What follows in the same task comes before the next in turn.
      queueMicrotask(() => done.push("after the first"));
    });
    const callOff = inTurn(() => done.push("called off"));
    const lastIsDone = new Promise<void>((resolve) => {
      inTurn(() => {
        done.push("last");
        resolve();
      });
    });
    expect(done).toEqual([]);
    callOff();
    await lastIsDone;
    expect(done).toEqual(["first", "after the first", "last"]);
  });
});

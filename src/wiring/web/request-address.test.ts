import { describe, expect, it } from "@jest/globals";
import { isLoopback, sourceOf } from "./request-address";

describe("the address of a request", () => {
  it("is loopback only where it is this machine, so that any other gets cookies that are never sent in the open", () => {
    for (const host of ["localhost", "localhost:3170", "127.0.0.1:3170", "127.8.0.1", "[::1]:3170", "LOCALHOST"])
      expect([host, isLoopback(host)]).toEqual([host, true]);
    for (const host of ["", "nomade.example", "localhost.example", "127.0.0.1.example:80", "10.0.0.1", "[::2]:3170", "example:127"])
      expect([host, isLoopback(host)]).toEqual([host, false]);
  });

  it("names as source who the nearest of those that passed it on was asked by", () => {
    expect(sourceOf(new Headers({ "x-forwarded-for": "1.2.3.4, 10.0.0.9" }))).toBe("10.0.0.9");
    expect(sourceOf(new Headers())).toBe("unknown");
  });
});

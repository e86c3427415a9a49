import { describe, expect, it } from "@jest/globals";
import { compiledFrom, credentialOf, doorOf, minute } from "~/tests/builders";
import type { FacilityDocument } from "../facility/document";
import { ordinary } from "./paths";
import { askVerdict } from "./trace";
import { reasonAt } from "./verdict";

const wednesday = "2026-03-04T10:00:00Z";
const granted = { grants: [{ id: "g", to: { cardholder: "iris" }, open: { door: "gate" }, schedule: "office" }] };
const reason = (given: Partial<FacilityDocument>, at = wednesday, mode = ordinary, door = "gate") => {
  const compiled = compiledFrom({ ...granted, ...given });
  return reasonAt(compiled, credentialOf(compiled, "c1"), doorOf(compiled, door), minute(at), mode);
};
const iris = (more: object) => ({ cardholders: [{ id: "iris", name: "Iris", status: "active" as const, ...more }] });
const card = (more: object) => ({ credentials: [{ id: "c1", cardholder: "iris", kind: "card" as const, status: "active" as const, ...more }] });

describe("the verdict", () => {
  it("is open while a grant's schedule is, and shut at the minute at which it ends", () => {
    expect(reason({}, "2026-03-04T07:00:00Z")).toBe("open");
    expect(reason({}, "2026-03-04T16:59:59Z")).toBe("open");
    expect(reason({}, "2026-03-04T17:00:00Z")).toBe("closed-schedule");
  });

  it("denies a suspended card and a suspended cardholder even while a grant is open", () => {
    expect(reason(card({ status: "suspended" }))).toBe("credential-inactive");
    expect(reason(iris({ status: "suspended" }))).toBe("cardholder-inactive");
    expect(reason(card({ status: "lost", statusSince: "2026-03-04T10:00:30Z" }))).toBe("open");
    expect(reason(card({ status: "lost", statusSince: "2026-03-04T10:00:00Z" }))).toBe("credential-inactive");
  });

  it("denies before the beginning and after the end of either, and after the end by use", () => {
    expect(reason(card({ from: "2026-03-05" }))).toBe("not-yet-valid");
    expect(reason(iris({ until: "2026-03-03" }))).toBe("expired");
    expect(reason(card({ expiry: { after: "last-use", days: 2 }, lastUse: "2026-03-02T09:59:30Z" }))).toBe("expired");
    expect(reason(card({ expiry: { after: "last-use", days: 2 }, lastUse: "2026-03-02T10:00:30Z" }))).toBe("open");
    expect(reason(card({ expiry: { after: "first-use", days: 1 } }))).toBe("open");
  });

  it("passes over life where it is asked as if live", () => {
    expect(reason(card({ status: "lost", until: "2020-01-01" }), wednesday, { lockdown: false, asIfLive: true })).toBe("open");
  });

  it("denies at a site at which the cardholder is not known, an override notwithstanding", () => {
    expect(reason(iris({ sites: [], override: true }))).toBe("site-excluded");
    expect(reason(iris({ sites: ["garden"] }))).toBe("open");
  });

  it("denies what is blocked, whatever else allows it, in a lockdown too", () => {
    const blocked = { grants: [...granted.grants, { id: "b", to: { cardholder: "iris" }, open: { door: "gate" }, effect: "block" as const }] };
    expect(reason({ ...blocked, ...iris({ override: true, lockdownPass: true }) })).toBe("blocked");
    expect(reason({ ...blocked, ...iris({ override: true }) }, wednesday, { lockdown: true, asIfLive: false })).toBe("blocked");
  });

  it("tells that there is no grant from that none is in force", () => {
    expect(reason({ grants: [] })).toBe("no-grant");
    expect(reason({ grants: [{ id: "g", to: { cardholder: "iris" }, open: { door: "gate" }, schedule: "always", until: "2026-02-01" }] })).toBe(
      "grant-not-in-force",
    );
  });

  it("tells a holiday from hours", () => {
    const calendar = {
      sites: [{ id: "garden", name: "Garden", timeZone: "Europe/Vienna", calendar: "k" }],
      calendars: [{ id: "k", name: "K", days: [{ name: "Fair", dayType: "public", on: "2026-03-04" }] }],
    };
    expect(reason(calendar)).toBe("closed-holiday");
    expect(reason(calendar, "2026-03-04T20:00:00Z")).toBe("closed-schedule");
    // Somebody with a calendar of their own is not shut out by the site's.
    expect(reason({ ...calendar, calendars: [...calendar.calendars, { id: "own", name: "Own" }], ...iris({ calendar: "own" }) })).toBe("open");
  });

  it("needs the person's own hours to be open as well, but not with an override", () => {
    const nights = {
      schedules: [
        { id: "office", name: "Office", week: { wed: [["08:00", "18:00"]] } },
        { id: "night", name: "Night", week: { wed: [["20:00", "22:00"]] } },
        { id: "always", name: "A", always: true },
      ],
    } as unknown as Partial<FacilityDocument>;
    expect(reason({ ...nights, ...iris({ hours: "night" }) })).toBe("cardholder-hours");
    expect(reason({ ...nights, ...iris({ hours: "night", override: ["garden"] }) })).toBe("open");
  });

  it("counts in a lockdown only what is meant for one", () => {
    const locked = { lockdown: true, asIfLive: false };
    expect(reason({}, wednesday, locked)).toBe("lockdown");
    expect(reason({ grants: [{ ...(granted.grants[0] as object), inLockdown: true } as never] }, wednesday, locked)).toBe("open");
    expect(reason(iris({ lockdownPass: true }), wednesday, locked)).toBe("open");
  });

  it("asks for a PIN where the door does, by its rows first", () => {
    const door = (more: object) => ({ doors: [{ id: "gate", name: "Gate", site: "garden", ...more }] });
    expect(reason(door({ entry: "card+pin" }))).toBe("entry-unmet");
    expect(reason({ ...door({ entry: "card+pin" }), ...card({ pinTag: "x" }) })).toBe("open");
    expect(reason({ ...door({ entry: "card+pin" }), ...iris({ pinExempt: true }) })).toBe("open");
    expect(reason({ ...door({ entry: "pin" }), ...iris({ pinExempt: true }) })).toBe("entry-unmet");
    expect(reason(door({ entry: "pin", entryRows: [{ schedule: "office", entry: "card" }] }))).toBe("open");
  });

  it("needs the door before it to open or to stand free", () => {
    const floors = (unlock: object) => ({
      doors: [
        { id: "lift", name: "Lift", site: "garden", ...unlock },
        { id: "gate", name: "Gate", site: "garden", via: "lift" },
      ],
    });
    expect(reason(floors({}))).toBe("via-closed");
    expect(reason(floors({ unlock: "office" }))).toBe("open");
    expect(reason(floors({ unlock: "office" }), wednesday, { lockdown: true, asIfLive: false })).toBe("lockdown");
  });

  it("names what the register does not know, the credential first", () => {
    const compiled = compiledFrom(granted);
    const ask = (credential: string, door: string) => askVerdict(compiled, { credential, door, at: minute(wednesday), mode: ordinary }).reason;
    expect([ask("x", "y"), ask("c1", "y"), ask("c1", "gate")]).toEqual(["unknown-credential", "unknown-door", "open"]);
  });
});

describe("the trace", () => {
  it("holds every path with its state and its next change", () => {
    const compiled = compiledFrom({
      groups: [
        { id: "above", name: "Above" },
        { id: "below", name: "Below", parent: "above" },
      ],
      levels: [{ id: "l", name: "L", rows: [{ door: "gate", schedule: "always" }] }],
      bundles: [{ id: "b", name: "B", levels: ["l"] }],
      memberships: [{ group: "below", cardholder: "iris", until: "2026-03-10" }],
      grants: [
        ...granted.grants,
        { id: "through", to: { group: "above" }, open: { bundle: "b" }, schedule: "office" },
        { id: "later", to: { credential: "c1" }, open: { door: "gate" }, schedule: "always", from: "2026-04-01" },
        { id: "shut", to: { cardholder: "iris" }, open: { door: "gate" }, effect: "block", until: "2026-03-01" },
      ],
    });
    const { reason: told, paths } = askVerdict(compiled, { credential: "c1", door: "gate", at: minute(wednesday), mode: ordinary });
    expect(told).toBe("open");
    expect(paths).toEqual([
      { effect: "allow", state: "not-yet-in-force", grant: "later", by: "credential", schedules: ["always"], changesAt: "2026-03-31T22:00Z" },
      { effect: "allow", state: "open", grant: "g", by: "cardholder", schedules: ["office"], changesAt: "2026-03-04T17:00Z" },
      { effect: "block", state: "no-longer-in-force", grant: "shut", by: "cardholder", schedules: [] },
      {
        effect: "allow",
        state: "open",
        grant: "through",
        by: "membership",
        groups: ["below", "above"],
        membership: { until: "2026-03-10" },
        bundle: "b",
        level: "l",
        row: 0,
        schedules: ["always", "office"],
        changesAt: "2026-03-04T17:00Z",
      },
    ]);
  });

  it("looks for the next change as far as the holidays of the year need", () => {
    const compiled = compiledFrom({
      ...granted,
      schedules: [
        { id: "office", name: "Season", week: {}, holidays: { season: [["09:00", "17:00"]] } },
        { id: "always", name: "A", always: true },
      ],
      sites: [{ id: "garden", name: "Garden", timeZone: "Europe/Vienna", calendar: "k" }],
      calendars: [{ id: "k", name: "K", days: [{ name: "Season", dayType: "season", yearly: "02-10" }] }],
    });
    const { paths } = askVerdict(compiled, { credential: "c1", door: "gate", at: minute(wednesday), mode: ordinary });
    expect(paths[0]).toMatchObject({ state: "closed-schedule", changesAt: "2027-02-10T08:00Z" });
  });
});

import { describe, expect, it } from "@jest/globals";
import { StringAdapter, newEnforcer, newModelFromString } from "casbin";
import fc from "fast-check";
import type { FacilityDocument, Grant } from "@/core/facility/document";
import { pathsBetween } from "@/core/paths/paths";
import { accessTable, pairsOfCardholder, pairsOfCredential } from "@/core/table/access-table";
import { exactTimeframe } from "@/core/paths/timeframe";
import { openIn } from "@/core/paths/timetable";
import { clip, subtract, union } from "@/core/time/intervals";
import type { EpochMinute } from "@/core/time/instant";
import { compiledFrom, credentialOf, doorOf, minute } from "../builders";
import { arbitraryFacility, arbitraryGrant, askedDays } from "./arbitrary-facility";

const mode = fc.record({ lockdown: fc.boolean(), asIfLive: fc.boolean() });
const day = fc.constantFrom(...askedDays);
const doors = ["d1", "d2", "d3"];
const credentials = ["c1", "c2", "c3"];
const days = 30;

type Times = ReadonlyMap<string, readonly number[]>;

/** Every credential's times at every door over a month, by id. */
function timesOf(draft: FacilityDocument, from: EpochMinute, asked: { lockdown: boolean; asIfLive: boolean }, length = days * 1440): Times {
  const compiled = compiledFrom(draft);
  const table = accessTable(compiled, exactTimeframe(compiled, from, (from + length) as EpochMinute, asked));
  const times = new Map<string, readonly number[]>();
  for (const { position, credential } of compiled.credentials)
    for (const [door, open] of pairsOfCredential(table, position)) times.set(`${credential.id} ${compiled.facility.doors[door]?.id}`, open);
  return times;
}
const at = (times: Times, credential: string, door: string): readonly number[] => times.get(`${credential} ${door}`) ?? [];
const withGrant = (draft: FacilityDocument, grant: Grant): FacilityDocument => ({ ...draft, grants: [...(draft.grants ?? []), grant] });

/** A via door shuts with the door before it, so that a block there counts too; that is just what the properties say. */
describe("access", () => {
  it("is never taken away by a further allow", () => {
    fc.assert(
      fc.property(arbitraryFacility, arbitraryGrant("extra"), mode, day, (draft, grant, asked, start) => {
        const from = minute(`${start}T00:00:00Z`);
        const straight = "door" in grant.open || "doorGroup" in grant.open || "area" in grant.open;
        const allow: Grant = { ...grant, effect: "allow", ...(straight && { schedule: grant.schedule ?? "always" }) };
        const [before, after] = [timesOf(draft, from, asked), timesOf(withGrant(draft, allow), from, asked)];
        for (const credential of credentials)
          for (const door of doors)
            expect([credential, door, subtract(at(before, credential, door), at(after, credential, door))]).toEqual([credential, door, []]);
      }),
      { numRuns: 80 },
    );
  });

  it("is never given by a further block", () => {
    fc.assert(
      fc.property(arbitraryFacility, arbitraryGrant("extra"), mode, day, (draft, grant, asked, start) => {
        const from = minute(`${start}T00:00:00Z`);
        const [before, after] = [timesOf(draft, from, asked), timesOf(withGrant(draft, { ...grant, effect: "block" }), from, asked)];
        for (const credential of credentials)
          for (const door of doors)
            expect([credential, door, subtract(at(after, credential, door), at(before, credential, door))]).toEqual([credential, door, []]);
      }),
      { numRuns: 80 },
    );
  });

  it("is the same when the range is split anywhere", () => {
    fc.assert(
      fc.property(arbitraryFacility, mode, day, fc.integer({ min: 1, max: days * 1440 - 1 }), (draft, asked, start, cut) => {
        const from = minute(`${start}T00:00:00Z`);
        const middle = (from + cut) as EpochMinute;
        const [whole, first, second] = [timesOf(draft, from, asked), timesOf(draft, from, asked, cut), timesOf(draft, middle, asked, days * 1440 - cut)];
        for (const credential of credentials)
          for (const door of doors) {
            const open = at(whole, credential, door);
            expect(union(at(first, credential, door), at(second, credential, door))).toEqual(open);
            expect(at(second, credential, door)).toEqual(clip(open, middle, Infinity));
          }
      }),
      { numRuns: 60 },
    );
  });

  it("does not depend on the order of lists, but for a calendar's days and a door's entry rows", () => {
    fc.assert(
      fc.property(arbitraryFacility, mode, day, (draft, asked, start) => {
        const from = minute(`${start}T00:00:00Z`);
        const reversed = Object.fromEntries(
          Object.entries(draft).map(([key, value]) => [key, Array.isArray(value) ? [...(value as unknown[])].reverse() : (value as unknown)]),
        ) as unknown as FacilityDocument;
        const levels = (reversed.levels ?? []).map((level) => ({ ...level, rows: [...(level.rows ?? [])].reverse() }));
        const [before, after] = [timesOf(draft, from, asked), timesOf({ ...reversed, levels }, from, asked)];
        for (const credential of credentials)
          for (const door of doors) expect([credential, door, at(after, credential, door)]).toEqual([credential, door, at(before, credential, door)]);
      }),
      { numRuns: 60 },
    );
  });

  it("awake is never more than asleep, and in a lockdown never more than without", () => {
    fc.assert(
      fc.property(arbitraryFacility, day, fc.boolean(), (draft, start, flag) => {
        const from = minute(`${start}T00:00:00Z`);
        const [awake, asleep] = [timesOf(draft, from, { lockdown: flag, asIfLive: false }), timesOf(draft, from, { lockdown: flag, asIfLive: true })];
        const [open, locked] = [timesOf(draft, from, { lockdown: false, asIfLive: flag }), timesOf(draft, from, { lockdown: true, asIfLive: flag })];
        for (const credential of credentials)
          for (const door of doors) {
            expect(subtract(at(awake, credential, door), at(asleep, credential, door))).toEqual([]);
            expect(subtract(at(locked, credential, door), at(open, credential, door))).toEqual([]);
          }
      }),
      { numRuns: 60 },
    );
  });
});

describe("role-based access as ANSI/INCITS 359-2012 defines it (from memory)", () => {
  /** Groups as roles, levels as permission sets, everything always open: what is left is the standard's core and general hierarchy. */
  const roles = fc
    .record({
      parents: fc.array(fc.option(fc.integer({ min: 0, max: 5 })), { minLength: 6, maxLength: 6 }),
      users: fc.uniqueArray(fc.tuple(fc.integer({ min: 0, max: 3 }), fc.integer({ min: 0, max: 5 })), { maxLength: 8, selector: String }),
      permissions: fc.uniqueArray(fc.tuple(fc.integer({ min: 0, max: 5 }), fc.integer({ min: 0, max: 3 })), { maxLength: 10, selector: String }),
    })
    .map(({ parents, users, permissions }) => {
      // A parent before its child in the list: no loops.
      const parentOf = parents.map((parent, i) => (parent !== null && parent < i ? parent : undefined));
      const draft: Partial<FacilityDocument> = {
        doors: [0, 1, 2, 3].map((n) => ({ id: `o${n}`, name: `O ${n}`, site: "garden" })),
        groups: parentOf.map((parent, i) => ({ id: `r${i}`, name: `R ${i}`, ...(parent !== undefined && { parent: `r${parent}` }) })),
        cardholders: [0, 1, 2, 3].map((n) => ({ id: `u${n}`, name: `U ${n}`, status: "active" as const })),
        credentials: [0, 1, 2, 3].map((n) => ({ id: `c${n}`, cardholder: `u${n}`, kind: "card" as const, status: "active" as const })),
        memberships: users.map(([user, role]) => ({ group: `r${role}`, cardholder: `u${user}` })),
        grants: permissions.map(([role, object], i) => ({ id: `g${i}`, to: { group: `r${role}` }, open: { door: `o${object}` }, schedule: "always" })),
      };
      return { parentOf, users, permissions, draft };
    });
  const instant = minute("2026-03-03T12:00:00Z");
  const opened = (draft: Partial<FacilityDocument>): Set<string> => {
    const compiled = compiledFrom(draft);
    const table = accessTable(compiled, exactTimeframe(compiled, instant, (instant + 1) as EpochMinute, { lockdown: false, asIfLive: false }));
    const pairs = compiled.cardholders
      .all()
      .flatMap(({ position, cardholder }) => [...pairsOfCardholder(table, position)].map(([door]) => `${cardholder.id} ${compiled.facility.doors[door]?.id}`));
    return new Set(pairs);
  };

  it("gives a user the permissions of all roles that their roles inherit from, and no other", () => {
    fc.assert(
      fc.property(roles, ({ parentOf, users, permissions, draft }) => {
        // authorized_permissions: { (u, p) | exists r assigned to u and r' with r inherits r' and p assigned to r' }.
        const expected = new Set<string>();
        for (const [user, role] of users)
          for (let r: number | undefined = role; r !== undefined; r = parentOf[r])
            for (const [to, object] of permissions) if (to === r) expected.add(`u${user} o${object}`);
        expect([...opened(draft)].sort()).toEqual([...expected].sort());
      }),
      { numRuns: 80 },
    );
  });

  it("agrees with a general authorization library (npm casbin) on who may what", async () => {
    const model =
      "[request_definition]\nr = sub, obj\n[policy_definition]\np = sub, obj\n[role_definition]\ng = _, _\n[policy_effect]\ne = some(where (p.eft == allow))\n[matchers]\nm = g(r.sub, p.sub) && r.obj == p.obj";
    await fc.assert(
      fc.asyncProperty(roles, async ({ parentOf, users, permissions, draft }) => {
        const lines = [
          ...permissions.map(([role, object]) => `p, r${role}, o${object}`),
          ...users.map(([user, role]) => `g, u${user}, r${role}`),
          ...parentOf.flatMap((parent, i) => (parent === undefined ? [] : [`g, r${i}, r${parent}`])),
        ];
        const enforcer =
          lines.length === 0 ? await newEnforcer(newModelFromString(model)) : await newEnforcer(newModelFromString(model), new StringAdapter(lines.join("\n")));
        const found = opened(draft);
        for (const user of ["u0", "u1", "u2", "u3"])
          for (const object of ["o0", "o1", "o2", "o3"])
            expect([user, object, found.has(`${user} ${object}`)]).toEqual([user, object, await enforcer.enforce(user, object)]);
      }),
      { numRuns: 60 },
    );
  });

  it("lists for each permission every role by which a user has it", () => {
    fc.assert(
      fc.property(roles, ({ parentOf, users, permissions, draft }) => {
        const compiled = compiledFrom(draft);
        for (const user of [0, 1, 2, 3])
          for (const object of [0, 1, 2, 3]) {
            const ways = pathsBetween(compiled, credentialOf(compiled, `c${user}`), doorOf(compiled, `o${object}`)).map(({ route }) =>
              route.groups.map((group) => compiled.facility.groups[group]?.id).join(" "),
            );
            const expected: string[] = [];
            for (const [who, role] of users)
              if (who === user) {
                const chain: string[] = [];
                for (let r: number | undefined = role; r !== undefined; r = parentOf[r]) {
                  chain.push(`r${r}`);
                  for (const [to, what] of permissions) if (to === r && what === object) expected.push(chain.join(" "));
                }
              }
            expect(ways.sort()).toEqual(expected.sort());
            expect(
              openIn(
                compiled,
                exactTimeframe(compiled, instant, (instant + 1) as EpochMinute, { lockdown: false, asIfLive: false }),
                credentialOf(compiled, `c${user}`),
                doorOf(compiled, `o${object}`),
              ).length > 0,
            ).toBe(expected.length > 0);
          }
      }),
      { numRuns: 60 },
    );
  });
});

import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { compiledFrom } from "~/tests/builders";
import type { Cardholder, Group } from "../facility/document";
import { departmentTree } from "./department-tree";

const size = 7;
/** Groups of which each may be below one with a smaller number, so that there is no loop; and people in some of them. */
const documents = fc
  .tuple(
    fc.array(fc.tuple(fc.boolean(), fc.option(fc.nat(size), { nil: undefined }), fc.constantFrom("A", "B", "__proto__")), { minLength: size, maxLength: size }),
    fc.array(fc.tuple(fc.option(fc.nat(size - 1), { nil: undefined }), fc.boolean()), { maxLength: 12 }),
  )
  .map(([groups, people]) => ({
    groups: groups.map(([isDepartment, parent, name], i): Group => ({
      id: `g${i}`,
      name,
      ...(isDepartment && { kind: "department" as const }),
      ...(parent !== undefined && parent < i && { parent: `g${parent}` }),
    })),
    cardholders: people.map(([department, isActive], i): Cardholder => ({
      id: `p${i}`,
      name: `Person ${i}`,
      status: isActive ? "active" : "suspended",
      ...(department !== undefined && { department: `g${department}` }),
    })),
    credentials: [],
  }));

describe("the tree of departments", () => {
  it("has each department once, below the nearest that is above it, with the people of it and of all below", () => {
    fc.assert(
      fc.property(documents, (document) => {
        const compiled = compiledFrom(document);
        const { groups, cardholders } = compiled.facility;
        const parentOf = (id: string | undefined): string | undefined => groups.find((group) => group.id === id)?.parent;
        const isAbove = (above: string, id: string | undefined): boolean => id !== undefined && (id === above || isAbove(above, parentOf(id)));
        const expected = groups.filter(({ id, kind }) => kind === "department" || cardholders.some(({ department }) => department === id)).map(({ id }) => id);
        const tree = departmentTree(compiled).map((node) => ({ ...node, id: groups[node.position]?.id ?? "" }));
        expect(tree.map(({ id }) => id).sort()).toEqual([...expected].sort());
        tree.forEach(({ id, depth, below, own, active, all }, place) => {
          const ofIt = cardholders.filter(({ department }) => department === id);
          expect([own, active]).toEqual([ofIt.length, ofIt.filter(({ status }) => status === "active").length]);
          expect(all).toBe(cardholders.filter(({ department }) => isAbove(id, department)).length);
          expect(depth).toBe(expected.filter((other) => other !== id && isAbove(other, id)).length);
          // Those below follow it, and only those.
          const following = tree.slice(place + 1, place + 1 + below).map((node) => node.id);
          expect([...following].sort()).toEqual(expected.filter((other) => other !== id && isAbove(id, other)).sort());
        });
      }),
      { numRuns: 200 },
    );
  });

  it("is walked to any depth, and empty where there is none", () => {
    const groups = Array.from({ length: 3000 }, (_, i) => ({ id: `g${i}`, name: `G${i}`, kind: "department" as const, ...(i > 0 && { parent: `g${i - 1}` }) }));
    const deep = departmentTree(compiledFrom({ groups }));
    expect([deep.length, deep[0]?.below, deep[2999]?.depth]).toEqual([3000, 2999, 2999]);
    expect(departmentTree(compiledFrom({ groups: [], cardholders: [], credentials: [] }))).toEqual([]);
  });
});

import { describe, expect, it } from "@jest/globals";
import type { ProfileTarget, SourceProfile } from "@/operations/intake/try-profile";
import { profileTargets } from "@/operations/intake/try-profile";
import {
  cellColumn,
  changeField,
  headingColumn,
  leaveTableAside,
  leftAside,
  makeFromNames,
  readColumnAs,
  readRowsBy,
  readUnfoldedAs,
  setConstant,
  setMarks,
  setMissing,
  toRows,
  usesOf,
} from "./edit-profile";

const targets: readonly ProfileTarget[] = profileTargets;
const empty: SourceProfile = { format: "nomade.profile/1", tables: [] };
const as = (profile: SourceProfile, column: string, use: string | null): SourceProfile => readColumnAs(profile, "people", column, use, targets);
const table = (profile: SourceProfile) => {
  const [first] = profile.tables;
  if (!first) throw new Error("There is a table.");
  return first;
};

describe("a change of a profile", () => {
  it("reads a column as a field, and a second one with it", () => {
    const named = as(as(empty, "First", "cardholders.name"), "Last", "cardholders.name");
    expect(table(named).makes).toEqual([{ table: "cardholders", fields: { name: { columns: ["First", "Last"] } } }]);
    expect(usesOf(table(named), "Last")).toEqual(["cardholders.name"]);
    const without = as(named, "First", null);
    expect(table(without).makes[0]?.fields.name).toEqual({ columns: ["Last"] });
    expect(table(as(without, "Last", null)).makes).toEqual([]);
  });

  it("begins a moment without a form, which is asked for, and keeps how a field is written when its column is chosen again", () => {
    const ends = as(empty, "Ends", "credentials.until");
    expect(table(ends).makes[0]?.fields.until).toEqual({ columns: ["Ends"], moment: { forms: [], never: [""] } });
    const said = changeField(ends, "people", "credentials.until", (source) => ({ ...source, moment: { forms: ["dmy"] } }));
    expect(table(said).makes[0]?.fields.until?.moment?.forms).toEqual(["dmy"]);
  });

  it("leaves a column aside, turns it into rows, or takes it out of both", () => {
    const aside = as(empty, "Shoe size", leftAside);
    expect([table(aside).aside, usesOf(table(aside), "Shoe size")]).toEqual([["Shoe size"], [leftAside]]);
    const rows = as(aside, "Shoe size", toRows);
    expect([table(rows).aside, table(rows).unfold]).toEqual([[], [{ heading: "Shoe size", columns: ["Shoe size"] }]]);
    const groups = readUnfoldedAs(rows, "people", headingColumn, "memberships.group", targets);
    expect(table(groups).makes).toEqual([{ table: "memberships", fields: { group: { columns: [headingColumn] } } }]);
    const marked = setMarks(groups, "people", "memberships", cellColumn, { x: true, "": false });
    expect(table(marked).makes[0]?.when).toEqual({ column: cellColumn, values: { x: true, "": false } });
    expect(table(as(marked, "Shoe size", null)).unfold).toEqual([]);
  });

  it("says the same for every row, for whole tables, and for what is missing or only named", () => {
    const constant = setConstant(empty, "people", "cardholders.status", "active");
    expect(table(constant).makes).toEqual([{ table: "cardholders", fields: { status: { constant: "active" } } }]);
    expect(table(setConstant(constant, "people", "cardholders.status", "")).makes).toEqual([]);
    expect(table(leaveTableAside(constant, "people", ["a", "b"], true))).toMatchObject({ makes: [], aside: ["a", "b"] });
    expect(table(leaveTableAside(constant, "people", ["a", "b"], false))).not.toHaveProperty("aside");
    expect(makeFromNames(makeFromNames(empty, "groups", { kind: "department" }), "doors", {}).madeFromNames).toEqual({
      groups: { with: { kind: "department" } },
      doors: {},
    });
    expect(makeFromNames(makeFromNames(empty, "groups", {}), "groups", undefined).madeFromNames).toEqual({});
    expect(setMissing(empty, "cardholders", "left").missing).toEqual({ cardholders: "left" });
    const some = readRowsBy(constant, "people", "Kind", { Staff: true, Visitor: false });
    expect(table(some).only).toEqual({ column: "Kind", values: { Staff: true, Visitor: false } });
    expect(table(readRowsBy(some, "people", null, {}))).not.toHaveProperty("only");
  });
});

import { describe, expect, it } from "@jest/globals";
import { formOf, formsOf } from "./answer-form";
import type { Where, Who } from "./question";

const one = { kind: "cardholder", id: "a" } as const;
const several: Who = { kind: "group", id: "g" };
const door = { kind: "door", id: "d" } as const;
const area: Where = { kind: "area", id: "r" };

describe("as what a question is answered", () => {
  it("follows from whether it is about one or several, on each side", () => {
    expect(formsOf({ who: one, where: door })).toEqual(["verdict"]);
    expect(formsOf({ who: one, where: area })).toEqual(["doors"]);
    expect(formsOf({ who: one, where: undefined })).toEqual(["doors"]);
    expect(formsOf({ who: several, where: door })).toEqual(["people"]);
    expect(formsOf({ who: undefined, where: door })).toEqual(["people"]);
    // What they open is asked of a group; who opens a place, of the place.
    expect(formsOf({ who: several, where: undefined })).toEqual(["doors", "people", "sheet"]);
    expect(formsOf({ who: several, where: { kind: "anywhere" } })).toEqual(["doors", "people", "sheet"]);
    expect(formsOf({ who: several, where: area })).toEqual(["people", "doors", "sheet"]);
    expect(formsOf({ who: undefined, where: undefined })).toEqual(["people", "doors", "sheet"]);
  });

  it("is the first of these unless another of them is chosen", () => {
    expect(formOf({ who: several, where: area, form: "sheet" })).toBe("sheet");
    expect(formOf({ who: several, where: area })).toBe("people");
    expect(formOf({ who: one, where: door, form: "sheet" })).toBe("verdict");
  });
});

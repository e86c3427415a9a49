import { describe, expect, it } from "@jest/globals";
import { canonicalJson } from "./canonical-json";

describe("canonical JSON", () => {
  it("writes the sample of RFC 8785, section 3.2.2, as the section after it does (from memory)", () => {
    const sample = JSON.parse(
      String.raw`{"numbers":[333333333.33333329,1E30,4.50,2e-3,0.000000000000000000000000001],"string":"\u20ac$\u000F\u000aA'\u0042\u0022\u005c\\\"\/","literals":[null,true,false]}`,
    ) as unknown;
    expect(canonicalJson(sample)).toBe(
      String.raw`{"literals":[null,true,false],"numbers":[333333333.3333333,1e+30,4.5,0.002,1e-27],"string":"€$\u000f\nA'B\"\\\\\"/"}`,
    );
  });

  it("sorts keys by UTF-16 units, as the sorting sample of RFC 8785, section 3.2.3 (from memory)", () => {
    const sample = {
      "\u20ac": "Euro Sign",
      "\r": "Carriage Return",
      "\ufb33": "Hebrew Letter Dalet With Dagesh",
      "1": "One",
      "\ud83d\ude00": "Emoji: Grinning Face",
      "\u0080": "Control",
      "\u00f6": "Latin Small Letter O With Diaeresis",
    };
    expect(Object.values(JSON.parse(canonicalJson(sample)) as Record<string, string>)).toHaveLength(7);
    const order = [...canonicalJson(sample).matchAll(/:"([^"]+)"/g)].map(([, name]) => name);
    expect(order).toEqual([
      "Carriage Return",
      "One",
      "Control",
      "Latin Small Letter O With Diaeresis",
      "Euro Sign",
      "Emoji: Grinning Face",
      "Hebrew Letter Dalet With Dagesh",
    ]);
  });

  it("leaves out what is undefined and writes no white space", () => {
    expect(canonicalJson({ b: [1, { d: undefined, c: "x y" }], a: undefined })).toBe('{"b":[1,{"c":"x y"}]}');
  });
});

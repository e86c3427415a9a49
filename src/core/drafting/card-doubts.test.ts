import { describe, expect, it } from "@jest/globals";
import type { Credential } from "../facility/document";
import { doubtsOfCard } from "./card-doubts";

const card = (more: Partial<Credential> = {}): Credential => ({ id: "c", cardholder: "iris", kind: "card", status: "active", ...more });
const told = (one: Credential, ...others: readonly Credential[]) => doubtsOfCard(one, others).map(({ field, isFault }) => `${field}${isFault ? " fault" : ""}`);

describe("what is asked about a card", () => {
  it("is nothing where somebody holds it and its numbers are its own", () => {
    expect(
      told(card({ number: "1", printedNumber: "2" }), card({ number: "1", printedNumber: "2" }), card({ id: "d", number: "3" }), card({ id: "e" })),
    ).toEqual([]);
  });

  it("is who holds it, and whose number it has, whatever zeros stand before", () => {
    expect(told(card({ cardholder: undefined }))).toEqual(["cardholder"]);
    expect(told(card({ facilityCode: "87", number: "00123" }), card({ id: "d", facilityCode: "087", number: "123" }))).toEqual(["number"]);
    expect(told(card({ facilityCode: "87", number: "123" }), card({ id: "d", facilityCode: "88", number: "123" }))).toEqual([]);
    expect(told(card({ printedNumber: "0500" }), card({ id: "d", printedNumber: "500" }))).toEqual(["printedNumber"]);
  });

  it("is a fault where the 26-bit format cannot hold it (8 bits of facility code, 16 of number: common practice, no source)", () => {
    expect(told(card({ bitFormat: "26", facilityCode: "300", number: "70000" }))).toEqual(["facilityCode fault", "number fault"]);
    expect(told(card({ bitFormat: "26", facilityCode: "255", number: "65535" }))).toEqual([]);
    expect(told(card({ bitFormat: "34", facilityCode: "300" }))).toEqual([]);
  });
});

import { describe, expect, it } from "@jest/globals";
import { compiledFrom } from "~/tests/builders";
import { agreementOf } from "./agreement";
import type { ToldEvent } from "./event-book";

const compiled = compiledFrom({
  doors: [
    { id: "gate", name: "Gate", site: "garden" },
    { id: "shop", name: "Shop", site: "garden", unlock: "office" },
  ],
  credentials: [
    { id: "c1", cardholder: "iris", kind: "card", status: "active", number: "4711", facilityCode: "87" },
    { id: "c2", cardholder: "iris", kind: "card", status: "active", number: "4712", facilityCode: "87" },
    { id: "c3", kind: "card", status: "active", number: "4712", facilityCode: "87" },
  ],
  grants: [{ id: "g", to: { cardholder: "iris" }, open: { door: "gate" }, schedule: "office" }],
});
/** A Monday, by day and by night on the garden's clock. */
const [day, night] = ["2026-03-02T09:00:30Z", "2026-03-02T22:00:30Z"].map((text) => Date.parse(text) / 1000) as [number, number];
const told = (event: Partial<ToldEvent>) => {
  const agreement = agreementOf(compiled, { second: day, door: "gate", granted: true, ...event });
  return agreement.agrees === "cannot-tell" ? agreement.why : `${agreement.agrees} ${agreement.says.reason}${agreement.says.free ? " free" : ""}`;
};

describe("an event beside the record of its time", () => {
  it("agrees where the door did as the record says, by id and by number", () => {
    expect([told({ credential: "c1" }), told({ number: "4711", facilityCode: "87" }), told({ credential: "c1", second: night, granted: false })]).toEqual([
      "yes open",
      "yes open",
      "yes closed-schedule",
    ]);
  });

  it("does not where somebody was let in against it, or refused although it opens", () => {
    expect([told({ credential: "c1", second: night }), told({ credential: "c1", granted: false })]).toEqual(["no closed-schedule", "no open"]);
  });

  it("takes a card that nobody has for one that opens nothing, and lets anybody in at a door that is free", () => {
    const stranger = { number: "1", facilityCode: "2" };
    expect([
      told(stranger),
      told({ ...stranger, granted: false }),
      told({ ...stranger, door: "shop" }),
      told({ ...stranger, door: "shop", second: night }),
    ]).toEqual(["no unknown-credential", "yes unknown-credential", "yes unknown-credential free", "no unknown-credential"]);
    // Nobody needs a card there: a refusal of one that opens nothing says nothing against it.
    expect(told({ ...stranger, door: "shop", granted: false })).toBe("yes unknown-credential free");
  });

  it("says nothing of a door that the record does not have, nor of a number of several cards", () => {
    expect([told({ credential: "c1", door: "gone" }), told({ number: "4712", facilityCode: "87" })]).toEqual(["unknown-door", "one-of-several"]);
  });
});

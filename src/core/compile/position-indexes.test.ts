import { describe, expect, it } from "@jest/globals";
import { facilityDraft } from "~/tests/builders";
import { withAllLists } from "../facility/facility";
import { PositionIndexes, sameIds } from "./position-indexes";

const people = (...ids: string[]) => ids.map((id) => ({ id, name: id, status: "active" as const }));
const facilityOf = (...ids: string[]) => withAllLists(facilityDraft({ cardholders: people(...ids), credentials: [] }));

describe("indexes of positions", () => {
  it("are taken from a facility that has the same ids at the same places, whatever else its objects say", () => {
    const before = new PositionIndexes(facilityOf("ada", "bo"));
    const index = before.of("cardholders");
    expect(new PositionIndexes(facilityOf("ada", "bo"), before).of("cardholders")).toBe(index);
    const turned = new PositionIndexes(facilityOf("bo", "ada"), before).of("cardholders");
    expect([turned.get("ada"), turned.get("bo"), index.get("ada"), index.get("bo")]).toEqual([1, 0, 0, 1]);
  });

  it("are built anew where somebody came or went", () => {
    const before = new PositionIndexes(facilityOf("ada", "bo"));
    before.of("cardholders");
    const more = new PositionIndexes(facilityOf("ada", "bo", "cy"), before).of("cardholders");
    const fewer = new PositionIndexes(facilityOf("bo"), before).of("cardholders");
    expect([more.get("cy"), more.get("ada"), fewer.get("bo"), fewer.get("ada")]).toEqual([2, 0, 0, undefined]);
  });
});

describe("lists of objects", () => {
  it("have the same ids where each place has", () => {
    const list = people("ada", "bo");
    expect([
      sameIds(list, list),
      sameIds(list, people("ada", "bo")),
      sameIds(list, people("bo", "ada")),
      sameIds(list, people("ada")),
      sameIds([], []),
    ]).toEqual([true, true, false, false, true]);
  });
});

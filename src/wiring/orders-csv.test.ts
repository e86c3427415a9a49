import { describe, expect, it } from "@jest/globals";
import { parse } from "csv-parse/sync";
import type { NamedOrder } from "@/operations/show-rounds";
import { ordersCsv } from "./orders-csv";

const order = (more: Partial<NamedOrder>): NamedOrder => ({
  id: 1,
  round: 2,
  line: 3,
  change: { kind: "end-grant", grant: "gx-1" },
  alsoLost: [],
  madeAt: "2026-11-25T10:00:00.000Z",
  holderName: "Iris Almondfeld",
  staffNumber: "0123",
  subject: "Seed vault",
  reason: "",
  decidedBy: "Dagmar Holmwold",
  ...more,
});

describe("orders as CSV", () => {
  it("are read back by a reader of RFC 4180 (npm csv-parse) with commas, quotes and line ends in them", () => {
    const reason = 'No longer, she said "on leave",\r\nuntil May';
    const [row] = parse<Record<string, string>>(ordersCsv([order({ reason, alsoLost: ["d1", "d2"] })]), { columns: true });
    expect(row).toMatchObject({ order: "1", round: "2", change: "end-grant", grant: "gx-1", holder: "Iris Almondfeld", staff_number: "0123", reason, also_lost: "d1 d2" });
  });

  it("name what is to be changed in the terms of the source, whatever kind of change it is", () => {
    const changes: readonly NamedOrder["change"][] = [
      { kind: "end-membership", group: "t-rota", cardholder: "p-1" },
      { kind: "end-override", cardholder: "p-1" },
      { kind: "end-credential", credential: "c-1" },
      { kind: "add-block", cardholder: "p-1", doors: ["v-inner", "v-outer"] },
    ];
    const rows = parse<Record<string, string>>(ordersCsv(changes.map((change, id) => order({ id, change }))), { columns: true });
    expect(rows.map(({ change, group, cardholder, credential, doors }) => [change, group, cardholder, credential, doors])).toEqual([
      ["end-membership", "t-rota", "p-1", "", ""],
      ["end-override", "", "p-1", "", ""],
      ["end-credential", "", "", "c-1", ""],
      ["add-block", "", "p-1", "", "v-inner v-outer"],
    ]);
  });

  it("never hold a cell that a spreadsheet would run", () => {
    for (const start of ["=", "+", "-", "@", "\t", "\r"]) {
      const [row] = parse<Record<string, string>>(ordersCsv([order({ holderName: `${start}cmd|' /C calc'!A0` })]), { columns: true });
      expect(row?.holder).toBe(`'${start}cmd|' /C calc'!A0`);
    }
  });
});

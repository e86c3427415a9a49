import { describe, expect, it } from "@jest/globals";
import { parse } from "csv-parse/sync";
import type { FacilityChange } from "@/core/facility/facility-change";
import type { NamedOrder } from "@/operations/ports/orders";
import { ordersCsv } from "./orders-csv";

const order = (more: Partial<NamedOrder>): NamedOrder => ({
  id: 1,
  round: 2,
  line: 3,
  lines: [3],
  source: "controller",
  due: "2026-12-09",
  ticket: undefined,
  sentAt: undefined,
  answer: undefined,
  cancelledAt: undefined,
  described: { change: { do: "remove", list: "grants", id: "gx-1" }, fields: [] },
  alsoLost: [],
  names: { "grant gx-1": "Seed vault by night", "door d1": "Inner door", "group t-rota": "Rota", "door v-inner": "Inner door" },
  madeAt: "2026-11-25T10:00:00.000Z",
  holderName: "Iris Almondfeld",
  staffNumber: "0123",
  subject: { kind: "area", id: "vault", name: "Seed vault" },
  reason: "",
  decidedBy: "Dagmar Holmwold",
  ...more,
});

describe("orders as CSV", () => {
  it("are read back by a reader of RFC 4180 (npm csv-parse) with commas, quotes and line ends in them", () => {
    const reason = 'No longer, she said "on leave",\r\nuntil May';
    const [row] = parse<Record<string, string>>(ordersCsv([order({ reason, alsoLost: ["d1", "d2"] })]), { columns: true });
    expect(row).toMatchObject({
      order: "1",
      round: "2",
      what: "end the grant of Seed vault by night",
      do: "remove",
      list: "grants",
      id: "gx-1",
      holder: "Iris Almondfeld",
      staff_number: "0123",
      reason,
      also_lost: "Inner door, d2",
      also_lost_ids: '["d1","d2"]',
    });
  });

  it("name what is to be changed in words, and in the terms of the source, whatever kind of change it is", () => {
    const changes: readonly FacilityChange[] = [
      { do: "remove", list: "memberships", membership: { group: "t-rota", cardholder: "p-1", until: "2027-01-01" } },
      { do: "alter", list: "cardholders", id: "p-1", object: { id: "p-1" } },
      { do: "alter", list: "credentials", id: "c-1", object: { id: "c-1", until: "2026-11-25T10:00:00Z" } },
      { do: "alter", list: "credentials", id: "c-2", object: { id: "c-2", status: "suspended" } },
      { do: "add", list: "grants", id: "withdrawal-1", object: { id: "withdrawal-1", to: { cardholder: "p-1" }, open: { door: "v-inner" }, effect: "block" } },
    ];
    const rows = parse<Record<string, string>>(ordersCsv(changes.map((change, id) => order({ id, described: { change, fields: [] } }))), { columns: true });
    expect(rows.map((row) => [row.what, row.do, row.list, row.id, row.group, row.cardholder, row.until])).toEqual([
      ["take them out of Rota", "remove", "memberships", "", "t-rota", "p-1", "2027-01-01"],
      ["end the standing override", "alter", "cardholders", "p-1", "", "", ""],
      ["return c-1", "alter", "credentials", "c-1", "", "", ""],
      ["suspend c-2", "alter", "credentials", "c-2", "", "", ""],
      ["block Inner door for them", "add", "grants", "withdrawal-1", "", "", ""],
    ]);
    expect(JSON.parse(rows[4]?.object ?? "")).toEqual((changes[4] as { object: unknown }).object);
  });

  it("never hold a cell that a spreadsheet would run", () => {
    for (const start of ["=", "+", "-", "@", "\t", "\r"]) {
      const [row] = parse<Record<string, string>>(ordersCsv([order({ holderName: `${start}cmd|' /C calc'!A0` })]), { columns: true });
      expect(row?.holder).toBe(`'${start}cmd|' /C calc'!A0`);
    }
  });
});

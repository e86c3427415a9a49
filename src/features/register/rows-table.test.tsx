/** @jest-environment jsdom */
import { describe, expect, it } from "@jest/globals";
import { screen } from "@testing-library/react";
import type { ListedRow, ListPage } from "@/operations/register/list-register";
import { show } from "~/tests/components/show";
import { listOf } from "./list-address";
import { rowsAPage } from "./rows-a-page";
import { RowsTable } from "./rows-table";

const row = (i: number): ListedRow => ({ id: `h${i}`, cells: [`Person ${i}`, i * 2], way: undefined });
const rows = (from: number, count: number): ListedRow[] => Array.from({ length: count }, (_, i) => row(from + i));

const columns = [
  { key: "name", title: "Name", shown: true, choices: undefined },
  { key: "doors", title: "Doors", shown: true, choices: undefined },
  { key: "email", title: "E-mail", shown: false, choices: undefined },
];

const page = (total: number, more: Partial<ListPage> = {}): ListPage => ({
  snapshot: 4,
  total,
  all: total,
  groups: undefined,
  ofName: undefined,
  columns,
  rows: rows(0, Math.min(total, rowsAPage)),
  ...more,
});

const shownTable = (first: ListPage, sort = "name") => {
  const sorts: string[] = [];
  return { ...show(<RowsTable address={listOf("cardholder", { sort })} first={first} onSort={(by) => sorts.push(by)} />), sorts };
};

describe("a list of rows", () => {
  it("says how many rows there are, and holds only those in view, each a way to its object", () => {
    shownTable(page(100_000));
    expect(screen.getByRole("table").getAttribute("aria-rowcount")).toBe("100001");
    expect(screen.getAllByRole("link").length).toBeLessThan(60);
    expect(screen.getByRole("link", { name: "Person 0" }).getAttribute("href")).toContain("h0");
    expect(screen.getAllByRole("columnheader").map(({ textContent }) => textContent)).toEqual(["Name ↑", "Doors"]);
  });

  it("is ordered by a column at one click, and the other way round at a second", async () => {
    const { user, sorts } = shownTable(page(3));
    await user.click(screen.getByRole("button", { name: "Doors" }));
    await user.click(screen.getByRole("button", { name: /Name/ }));
    expect(sorts).toEqual(["doors", "-name"]);
  });

  it("heads each group with its value and count, and one without a value with a word", () => {
    const groups = [
      { value: "", count: 2 },
      { value: "Herbarium", count: 1 },
    ];
    shownTable(page(3, { groups }));
    expect(screen.getAllByRole("row").map(({ textContent }) => textContent)).toEqual([
      "Name ↑Doors",
      "None 2",
      "Person 00",
      "Person 12",
      "Herbarium 1",
      "Person 24",
    ]);
  });

  it("tells by which way a row hangs on what the list is of", () => {
    shownTable(page(1, { ofName: "Seed vault", rows: [{ ...row(0), way: "given straight" }] }));
    screen.getByRole("columnheader", { name: "Way" });
    screen.getByRole("cell", { name: "given straight" });
  });
});

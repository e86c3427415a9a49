/** @jest-environment jsdom */
import { describe, expect, it } from "@jest/globals";
import { screen } from "@testing-library/react";
import { show } from "~/tests/components/show";
import type { ShownDepartment } from "@/operations/register/show-departments";
import { DepartmentsView } from "./departments-view";

const department = (id: string, depth: number, below: number, own: number, all: number): ShownDepartment => ({
  id,
  name: `Department ${id}`,
  manager: id === "a" ? "Ada Tannwald" : undefined,
  depth,
  below,
  own,
  active: own,
  all,
});
const tree = [department("a", 0, 2, 3, 6), department("b", 1, 1, 2, 3), department("c", 2, 0, 1, 1), department("d", 0, 0, 0, 0)];
const named = (): readonly (string | null)[] => screen.getAllByRole("link", { name: /^Department .$/ }).map(({ textContent }) => textContent);

describe("the tree of departments", () => {
  it("folds what is below a department, counts it all the same, and leads to its people and to what they open", async () => {
    const { user } = show(<DepartmentsView shown={{ snapshot: 1, departments: tree, without: 1, people: 7 }} begin={undefined} />);
    screen.getByRole("heading", { name: "7 people in four departments" });
    screen.getByText(/^One person has no department: nobody answers for them/);
    expect(named()).toEqual(["Department a", "Department b", "Department c", "Department d"]);
    await user.click(screen.getByRole("button", { name: "2 below Department a" }));
    expect(named()).toEqual(["Department a", "Department d"]);
    expect(screen.getByRole("link", { name: "6" }).getAttribute("href")).toContain("of=group%3Aa");
    expect(screen.getByRole("link", { name: "What Department a opens" }).getAttribute("href")).toBe("/inquiry?who=group%3Aa");
    await user.click(screen.getByRole("button", { name: "Unfold all" }));
    expect(named()).toHaveLength(4);
    expect(screen.queryByRole("button", { name: /Move people/ })).toBeNull();
  });

  it("begins with those on top alone where there are many, and lets who edits drafts move the people of one", async () => {
    const many = Array.from({ length: 80 }, (_, i) => department(String(i), i === 0 ? 0 : 1, i === 0 ? 79 : 0, 1, i === 0 ? 80 : 1));
    const sent: [string, FormDataEntryValue | null][] = [];
    const { user } = show(
      <DepartmentsView
        shown={{ snapshot: 1, departments: many, without: 0, people: 80 }}
        begin={(_before, form) => {
          for (const key of ["name", "people"]) sent.push([key, form.get(key)]);
          return Promise.resolve("It could not be begun.");
        }}
      />,
    );
    expect(screen.getAllByRole("link", { name: /^Department \d+$/ })).toHaveLength(1);
    await user.click(screen.getByRole("button", { name: "Move people of Department 0, in a draft" }));
    await screen.findByRole("alert");
    expect(sent).toEqual([
      ["name", "People of Department 0"],
      ["people", "0"],
    ]);
  });
});

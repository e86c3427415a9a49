/** @jest-environment jsdom */
import { describe, expect, it } from "@jest/globals";
import { screen } from "@testing-library/react";
import { show } from "~/tests/components/show";
import type { Inquiry } from "@/operations/inquiry/inquiry";
import { AsOf } from "./as-of";

const asked: Inquiry = { who: undefined, where: { kind: "door", id: "vault" }, when: { kind: "any" }, lockdown: false };
const snapshots = [3, 2, 1].map((id) => ({ id, takenAt: `2026-0${id}-01T06:00:00Z` }));
const drafts = [{ id: 7, name: "Vault for curators alone" }];
const choose = async (inquiry: Inquiry, name: RegExp, stood?: number) => {
  const { user, went, unmount } = show(<AsOf words="Inquiry on snapshot 3" inquiry={inquiry} stood={stood} snapshots={snapshots} drafts={drafts} />);
  await user.click(screen.getByRole("combobox", { name: "As it was in, or would be with" }));
  await user.click(await screen.findByRole("option", { name }));
  unmount();
  return went;
};

describe("of which register an answer speaks", () => {
  it("can be chosen: an earlier snapshot, a draft, and the present again; never two of them at once", async () => {
    expect(await choose(asked, /^2, /)).toEqual(["/inquiry?where=door%3Avault&snapshot=2"]);
    expect(await choose({ ...asked, snapshot: 2 }, /Vault for curators/)).toEqual(["/inquiry?where=door%3Avault&draft=7"]);
    expect(await choose({ ...asked, draft: 7 }, /^1, /)).toEqual(["/inquiry?where=door%3Avault&snapshot=1"]);
    expect(await choose({ ...asked, draft: 7 }, /^3, .*now$/)).toEqual(["/inquiry?where=door%3Avault"]);
    // Of a past time the snapshot that stood then is what is asked anyway.
    expect(await choose({ ...asked, snapshot: 1 }, /^2, .*then$/, 2)).toEqual(["/inquiry?where=door%3Avault"]);
  });

  it("is said, and nothing is offered where there is nothing to choose from", () => {
    show(<AsOf words="Inquiry on snapshot 3" inquiry={asked} snapshots={snapshots.slice(0, 1)} drafts={[]} />);
    screen.getByText("Inquiry on snapshot 3");
    expect(screen.queryByRole("combobox")).toBeNull();
  });
});

/** @jest-environment jsdom */
import { describe, expect, it } from "@jest/globals";
import { screen } from "@testing-library/react";
import type { HolderId } from "@/core/facility/holder-id";
import type { RoundPreview } from "@/operations/certification/preview-round";
import { show } from "~/tests/components/show";
import { NewRoundView } from "./new-round-view";

const docket = { id: "dagmar", certifier: "Dagmar Holmwold", lines: 7, flagged: 3, minutes: 2, hasAccount: true };
const choices = { sites: [], areas: [], departments: [], types: [], sensitivity: [], findings: 4, changed: 9, definitions: 5 };
const counts = { all: 9, lines: 9, definitions: 0, flagged: 4, uncertified: 2, withoutMail: 0 };
const preview: RoundPreview = { snapshot: 5, about: undefined, ...counts, dockets: [docket], choices };
const iris: HolderId = { kind: "cardholder", id: "iris" };

function shownPlan(of: Partial<RoundPreview>, about?: HolderId) {
  const opened: unknown[] = [];
  const open = (round: unknown): Promise<string | undefined> => {
    opened.push(round);
    return Promise.resolve("There is such a round.");
  };
  return { ...show(<NewRoundView preview={{ ...preview, ...of }} asked={{ scope: about ? { about } : {}, by: "manager" }} open={open} />), opened };
}

const title = (): string => screen.getByRole("heading", { level: 1 }).textContent;

describe("a round before it opens", () => {
  it("says how many lines there are, in how many dockets, and what nobody certifies", () => {
    shownPlan({});
    expect(title()).toBe("A new round: nine lines in two dockets");
    screen.getByText("Four lines have something against them and come first. Two lines have nobody to certify them and would come to you.");
  });

  it("speaks of one line as of one, and of none with something against it", () => {
    const { unmount } = shownPlan({ lines: 1, flagged: 1, uncertified: 0, dockets: [{ ...docket, lines: 1, flagged: 1, hasAccount: false }] });
    expect(title()).toBe("A new round: one line in one docket");
    screen.getByText("One line has something against it and comes first. One certifier has no account yet.");
    unmount();
    shownPlan({ flagged: 0, uncertified: 0 });
    screen.getByText("Nothing speaks against any of them.");
  });

  it("about one person says whom, proposes a name, and opens just that", async () => {
    const { user, opened } = shownPlan({ about: "Iris Almondfeld" }, iris);
    expect(title()).toBe("A new round about Iris Almondfeld: nine lines in two dockets");
    expect(screen.getByLabelText<HTMLInputElement>(/Name/).value).toBe("About Iris Almondfeld");
    await user.type(screen.getByLabelText(/Due/), "31 Dec 2099");
    await user.tab();
    await user.click(screen.getByRole("button", { name: "Open the round" }));
    expect(opened).toMatchObject([
      { name: "About Iris Almondfeld", due: "2099-12-31", snapshot: 5, terms: { scope: { about: iris }, by: "manager", undecided: "keep", remind: [7, 1] } },
    ]);
    await screen.findByText("There is such a round.");
  });

  it("opens nothing where there is nobody, or nothing to decide, and says which", () => {
    const { unmount } = shownPlan({ lines: 0, flagged: 0, uncertified: 0, dockets: [] }, iris);
    expect(title()).toBe("There is nobody to certify");
    expect(screen.queryByRole("button", { name: "Open the round" })).toBeNull();
    unmount();
    shownPlan({ about: "Iris Almondfeld", lines: 0, flagged: 0, uncertified: 0, dockets: [] }, iris);
    expect(title()).toBe("There is nothing to certify");
    screen.getByText(/Iris Almondfeld opens nothing in the coming 13 months/);
  });
});

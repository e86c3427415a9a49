/** @jest-environment jsdom */
import { describe, expect, it } from "@jest/globals";
import { screen, waitFor, within } from "@testing-library/react";
import type { ToldProposal, ToldUse } from "@/operations/register/put-levels-right";
import { show } from "~/tests/components/show";
import { LevelsView, proposalEffect, proposalSentence, wordsOfUse } from "./levels-view";

const counts = { levels: 10, exceptions: 12, grants: 40 };
const equal = (told: Partial<ToldProposal>): ToldProposal => ({
  key: "k",
  kind: "merge-equal",
  levels: [{ id: "l", name: "Glasshouses" }],
  about: [],
  aboutCount: 0,
  before: counts,
  after: counts,
  holders: 0,
  lost: 0,
  fewerMinutes: 0,
  ...told,
});

const usedLevel = (told: Partial<ToldUse>): ToldUse => ({
  id: "l",
  name: "Glasshouses",
  doors: 5,
  holders: 4,
  isTold: true,
  using: 3,
  usedPairs: 6,
  unused: ["Palm house", "Shed"],
  unusedCount: 2,
  ...told,
});

describe("levels put right", () => {
  it("say what holders use of a level, and where that cannot be told", () => {
    expect([
      wordsOfUse(usedLevel({ using: 4, unused: [], unusedCount: 0 })),
      wordsOfUse(usedLevel({ using: 0, unusedCount: 5 })),
      wordsOfUse(usedLevel({ holders: 1, using: 1, unused: ["Shed"], unusedCount: 1 })),
      wordsOfUse(usedLevel({ holders: 0, using: 0 })),
      wordsOfUse(usedLevel({ doors: 0, unused: [], unusedCount: 0 })),
      wordsOfUse(usedLevel({ isTold: false, unused: ["Shed"], unusedCount: 1 })),
    ]).toEqual([
      "all of its holders use it",
      "none of its 4 holders uses it",
      "its one holder uses it; nobody uses Shed",
      "nobody holds it",
      "it has no door of which use is told",
      "events do not cover its doors for so long; as far as they do, 3 of 4 holders use it; nobody uses Shed",
    ]);
  });

  it("say each step in a sentence, with what it is about", () => {
    const two = [
      { id: "l", name: "Glasshouses" },
      { id: "m", name: "Palm house" },
    ];
    expect([
      proposalSentence(equal({ levels: two })),
      proposalSentence(equal({ kind: "exceptions-to-level", about: ["Ada", "Bo"], aboutCount: 7 })),
      proposalSentence(equal({ kind: "drop-needless", levels: [], about: ["g1"], aboutCount: 1 })),
      proposalSentence(equal({ kind: "drop-needless", levels: two, about: ["g1", "g2"], aboutCount: 2 })),
      proposalSentence(equal({ kind: "drop-needless" })),
      proposalSentence(equal({ kind: "drop-unused", about: ["Key cabinet"], aboutCount: 1 })),
      proposalSentence(equal({ kind: "split-by-use", about: ["North", "South"], aboutCount: 2 })),
    ]).toEqual([
      "“Glasshouses” and “Palm house” open the same doors in the same hours at present: make them one.",
      "Seven people have the same exceptions (Ada, Bo and 5 more): give a level instead of them.",
      "One grant gives exactly what another gives: take it out.",
      "Two grants give exactly what another gives; “Glasshouses” and “Palm house” are given to nobody: take them out.",
      "“Glasshouses” is given to nobody: take it out.",
      "Nobody who holds “Glasshouses” used Key cabinet in 180 days: drop it from the level.",
      "North and South use different doors of “Glasshouses”: give each group a level of its own, with what it uses.",
    ]);
  });

  it("say what a step saves, and what it takes from whom", () => {
    expect(proposalEffect(equal({ after: { ...counts, levels: 9, exceptions: 1 } }))).toBe(
      "10 → 9 levels, 12 → 1 exceptions, 40 grants as before; everybody opens exactly what they do now.",
    );
    expect(proposalEffect(equal({ holders: 1, lost: 1, fewerMinutes: 2 }))).toBe(
      "10 levels as before, 12 exceptions as before, 40 grants as before; one person or card opens less: one door lost, counted for each, two with shorter hours.",
    );
  });

  it("are looked for when somebody asks, and lead to a draft or say why not", async () => {
    const asked: string[] = [];
    const draft = (key: string) => {
      asked.push(key);
      return Promise.resolve("not-any-more" as const);
    };
    const propose = () => Promise.resolve({ snapshot: 3, days: 180, use: [usedLevel({})], proposals: [equal({})], notTried: 12 });
    const { user } = show(<LevelsView snapshot={3} actions={{ propose, draft }} />);
    await user.click(screen.getByRole("button", { name: "Look for steps" }));
    await screen.findByRole("heading", { name: "One step would put levels right" });
    const row = within(screen.getByRole("region", { name: "What holders use of each level" })).getAllByRole("row")[1];
    expect(
      within(row as HTMLElement)
        .getAllByRole("cell")
        .map(({ textContent }) => textContent),
    ).toEqual(["Glasshouses", "4", "5", "30 %", "3 of 4 holders use it; nobody uses Palm house and Shed"]);
    screen.getByText("12 more steps were not tried: look again when these are done.");
    // What was found is shown a moment before the next can be asked for.
    const tryIt = screen.getByRole("button", { name: "Try it as a draft" });
    await waitFor(() => expect(tryIt).toHaveProperty("disabled", false));
    await user.click(tryIt);
    expect((await screen.findByRole("alert")).textContent).toBe("The register has changed meanwhile: look for steps again.");
    expect(asked).toEqual(["k"]);
  });
});

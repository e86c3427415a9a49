/** @jest-environment jsdom */
import { describe, expect, it } from "@jest/globals";
import { screen, within } from "@testing-library/react";
import { show } from "~/tests/components/show";
import type { ChangeOfAnswer, ListedQuestion } from "@/operations/inquiry/kept-questions";
import { KeptQuestions } from "./kept-questions";

const vault: ListedQuestion = {
  id: 4,
  query: "where=door%3Avault&when=nights",
  watched: false,
  keptAt: "2026-03-01T06:00:00Z",
  read: {
    inquiry: { who: undefined, where: { kind: "door", id: "vault" }, when: { kind: "now" }, lockdown: true },
    names: { who: undefined, where: "Vault" },
  },
};
const gone: ListedQuestion = { ...vault, id: 5, query: "who=cardholder%3Agone", read: undefined };

function shown(kept: readonly ListedQuestion[], change?: ChangeOfAnswer) {
  const done: string[] = [];
  const answered = show(
    <KeptQuestions
      kept={kept}
      actions={{
        watch: (id, watched) => Promise.resolve(done.push(`watch ${id} ${watched}`) > 0),
        drop: (id) => Promise.resolve(done.push(`drop ${id}`) > 1),
      }}
    />,
    (address) => (address === "/inquiry/kept?id=4" ? change : undefined),
  );
  return { ...answered, done };
}

describe("kept questions", () => {
  it("stand in the words in which they were typed, and lead to what they ask; one that the register does not hold any more says so", async () => {
    const { user, done } = shown([vault, gone]);
    screen.getByRole("heading", { name: "Two questions that you keep" });
    expect(screen.getByRole("link", { name: "Who opens Vault, nights, in a lockdown?" }).getAttribute("href")).toBe("/inquiry?where=door%3Avault&when=nights");
    screen.getByText("who=cardholder%3Agone: not in the present register");
    // What cannot be asked cannot be watched.
    expect(screen.getAllByRole("button", { name: "Watch" })).toHaveLength(1);
    await user.click(screen.getByRole("button", { name: "Watch" }));
    const [, last] = screen.getAllByRole("listitem");
    await user.click(within(last as HTMLElement).getByRole("button", { name: "Drop" }));
    expect(done).toEqual(["watch 4 true", "drop 5"]);
  });

  it("say, where they are watched, who came and who went with the last intake", async () => {
    const watched = [{ ...vault, watched: true }];
    const compared = (more: Partial<Extract<ChangeOfAnswer, { outcome: "compared" }>>): ChangeOfAnswer => ({
      outcome: "compared",
      before: 6,
      came: { count: 0, names: [] },
      went: { count: 0, names: [] },
      otherwise: 0,
      ...more,
    });
    const said: readonly (readonly [ChangeOfAnswer, string])[] = [
      [compared({}), "The same as in snapshot 6."],
      [
        compared({ came: { count: 6, names: ["Ada", "Bo", "Cy", "Di"] }, went: { count: 2, names: ["Eva", "Flo"] }, otherwise: 1 }),
        "Since snapshot 6: Ada, Bo, Cy, Di and 2 more came; Eva and Flo went; one other is there with more or fewer than before.",
      ],
      [{ outcome: "settled" }, "It asks about the past, or about one snapshot: no intake changes its answer."],
      [{ outcome: "nothing-earlier" }, "There is no earlier snapshot to compare with."],
    ];
    for (const [change, words] of said) {
      const { unmount } = shown(watched, change);
      await screen.findByText(words);
      unmount();
    }
    shown(watched);
    await screen.findByText("How the answer changed could not be had.");
  });
});

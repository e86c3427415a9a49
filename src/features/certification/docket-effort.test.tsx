/** @jest-environment jsdom */
import { describe, expect, it } from "@jest/globals";
import { screen, waitFor, within } from "@testing-library/react";
import { isUnremarkable } from "@/core/certification/decide-line";
import { holderOfLine } from "@/core/certification/holder-of-line";
import { linesOf } from "@/core/certification/lines-of-register";
import type { Cardholder } from "@/core/facility/document";
import { noEvents } from "@/core/findings/use";
import type { ShownDocket, ShownLine } from "@/operations/certification/show-docket";
import { compiledFrom } from "~/tests/builders";
import { show } from "~/tests/components/show";
import type { Pending } from "./decision-queue";
import { DocketView } from "./docket-view";

/**
 * A round of twelve people with 60 lines, nine of them with something against them. A click, or a reason that is typed, takes 1.2 s; a word that is
 * read 0.25 s,
 * which is some 240 words a minute, as adults read silently (from memory, a review of reading rates of 2019). Choices and the way on are looked at once.
 */
const secondsOf = { action: 1.2, word: 0.25 };
const areas = ["Herbarium", "Laboratories", "Library tower", "Offices", "Seed vault"];
const names = ["Ada", "Bruno", "Clara", "Dorian", "Edda", "Falk", "Greta", "Hanno", "Ilse", "Jonas", "Karin", "Lorenz"].map((name) => `${name} Tannwald`);

function docket(): ShownDocket {
  const people = names.map((name, i): Cardholder => ({ id: `p${i}`, name, status: "active", department: "seeds" }));
  const compiled = compiledFrom({
    areas: areas.map((name, i) => ({ id: `a${i}`, name, site: "garden" })),
    doors: areas.map((name, i) => ({ id: `d${i}`, name: `${name} door`, site: "garden", area: `a${i}` })),
    groups: [{ id: "seeds", name: "Seed bank", kind: "department" }],
    cardholders: people,
    credentials: people.map(({ id }) => ({ id: `c-${id}`, cardholder: id, kind: "card", status: "active" })),
    grants: areas.map((_, i) => ({ id: `g${i}`, to: { group: "seeds" }, open: { area: `a${i}` }, schedule: "office" })),
  });
  // Nine of them do what their colleagues do not.
  const findings = people.slice(0, 9).map(({ id }) => ({
    rule: "out-of-hours" as const,
    fingerprint: id,
    risk: 40,
    distinct: ["a4"],
    terms: [],
    proof: { doors: ["d4"], minutes: 1200, week: "2026-03-02" },
    subject: { kind: "cardholder" as const, id },
    cardholder: id,
  }));
  const lines = linesOf(compiled, noEvents, findings).map((line, i): ShownLine => ({
    id: i + 1,
    docket: 1,
    position: i,
    holderName: people.find(({ id }) => id === line.cardholder)?.name ?? "",
    holder: { status: "active", department: "Seed bank" },
    flagged: line.findings.length > 0,
    line,
    decision: undefined,
    reason: "",
    passedFrom: undefined,
    about: holderOfLine(line),
    unremarkable: isUnremarkable(line),
    aboutYourself: false,
    comments: [],
  }));
  return {
    docket: { id: 1, round: 1, certifier: "m", certifierName: "Maja Seed", account: 1, lines: lines.length } as ShownDocket["docket"],
    round: { id: 1, name: "Spring" } as ShownDocket["round"],
    snapshot: { id: 1, asOf: "2026-03-01T00:00:00Z", timeZone: "Europe/Vienna", leftOut: 0 },
    mine: true,
    lines,
    others: [],
  };
}

/** The words of a page that are shown unfolded: who, area, hours, what is unusual, and what is asked. Buttons and folded parts are left out. */
function wordsShown(): number {
  const main = screen.getByRole("main").cloneNode(true) as HTMLElement;
  for (const left of main.querySelectorAll("button, details, svg, [role=status]")) left.remove();
  return (main.textContent.match(/[\p{L}\p{N}]+/gu) ?? []).length;
}

describe("a docket of twelve people with sixty lines", () => {
  it("is kept whole in at most 90 actions and under five minutes, reading included", async () => {
    const shown = docket();
    expect([shown.lines.length, shown.lines.filter(({ flagged }) => flagged).length]).toEqual([60, 9]);
    const saved: Pending[] = [];
    const nothing = () => Promise.resolve(undefined);
    const save = (_: number, pending: Pending) => {
      saved.push(pending);
      return nothing();
    };
    const { user } = show(
      <DocketView shown={shown} account={1} asOf={29_537_280} language="en" load={nothing} save={save} comment={nothing} sign={nothing} speak={() => Promise.resolve()} />,
    );
    let [actions, words] = [0, 0];
    const click = async (button: HTMLElement) => {
      actions++;
      await user.click(button);
    };
    for (let person = 0; person < names.length; person++) {
      words += wordsShown();
      for (const line of screen.queryAllByRole("region").filter((one) => within(one).queryByRole("button", { name: "Keep" }) !== null)) {
        await click(within(line).getByRole("button", { name: "Keep" }));
        const reason = within(line).queryByLabelText("Why is it needed?");
        if (reason) {
          actions++;
          await user.click(reason);
          await user.paste("She is on call for the cold store");
        }
      }
      const all = screen.queryByRole("button", { name: /like most colleagues/ });
      if (all) await click(all);
      await click(await screen.findByRole("button", { name: /^(Next person|To the signature)$/ }));
    }
    words += wordsShown();
    await waitFor(() => expect(screen.getByRole("button", { name: "Sign 60 lines" }).hasAttribute("disabled")).toBe(false));
    await click(screen.getByRole("button", { name: "Sign 60 lines" }));
    const seconds = actions * secondsOf.action + words * secondsOf.word;
    expect(saved.length).toBeGreaterThanOrEqual(21);
    expect(actions).toBeLessThanOrEqual(90);
    expect([actions, words, Math.round(seconds), seconds < 300]).toEqual([actions, words, Math.round(seconds), true]);
  }, 60_000);
});

/** @jest-environment jsdom */
import { describe, expect, it } from "@jest/globals";
import { screen, within } from "@testing-library/react";
import type { Decision } from "@/core/certification/decide-line";
import type { Line } from "@/core/certification/line";
import { parseCivilDay } from "@/core/time/civil-day";
import type { ShownLine } from "@/operations/certification/show-docket";
import { show } from "~/tests/components/show";
import { DocketLineCard } from "./docket-line";

const asOf = Date.parse("2026-11-27T12:00Z") / 60_000;
const day = (text: string) => parseCivilDay(text) as NonNullable<ReturnType<typeof parseCivilDay>>;

function lineWith(line: Partial<Line>, shown: Partial<ShownLine> = {}): ShownLine {
  return {
    id: 7,
    docket: 3,
    position: 0,
    holderName: "Ada Tannwald",
    holder: undefined,
    flagged: false,
    decision: undefined,
    reason: "",
    about: { kind: "cardholder", id: "1001" },
    unremarkable: false,
    ...shown,
    line: {
      cardholder: "1001",
      credential: undefined,
      subject: { kind: "area", id: "vault", name: "Seed vault" },
      sensitivity: 3,
      override: false,
      hours: [{ doors: [{ id: "d1", name: "Vault door" }], words: "Mon–Fri 07:00–19:00", week: [420, 1140] }],
      life: undefined,
      use: { count: 2, last: (asOf - 3 * 1440) as Line["use"]["last"], coveredDays: 90 },
      peers: { same: 1, of: 4 },
      findings: [],
      ...line,
    },
  };
}

type Answer = (line: number, decision: Decision, reason: string) => Promise<string | undefined>;

function shownCard(shown: ShownLine, answer: Answer = () => Promise.resolve(undefined)) {
  const decided: unknown[] = [];
  const decide: Answer = (...args) => {
    decided.push(args);
    return answer(...args);
  };
  const page = show(<DocketLineCard shown={shown} asOf={asOf} timeZone="Europe/Vienna" editable decide={decide} />);
  return { ...page, decided };
}

const button = (name: string) => screen.getByRole<HTMLButtonElement>("button", { name });
const isChosen = (name: string) => button(name).getAttribute("aria-pressed");

describe("a line of a docket", () => {
  it("says where, when, how it was used and who else has it, and takes a decision with one click", async () => {
    const { user, decided } = shownCard(lineWith({}));
    const line = within(screen.getByRole("region", { name: "Ada Tannwald, Seed vault" }));
    line.getByText(/Mon–Fri 07:00–19:00\./);
    line.getByText(/Vault door/);
    line.getByText(/Came in here twice in the events at hand, last 3 days ago\. One of four colleagues in the department can do the same\./);
    await user.click(button("Keep"));
    expect(decided).toEqual([[7, "keep", ""]]);
    expect(isChosen("Keep")).toBe("true");
    line.getByText("Nothing changes.");
  });

  it("says first that somebody passes by a standing override", () => {
    shownCard(lineWith({ override: true }));
    screen.getByText("Passes here by a standing override: no grant is needed.");
  });

  it("cannot tell of use where there are no events, instead of saying that there was none", () => {
    shownCard(lineWith({ use: { count: 0, last: undefined, coveredDays: 0 }, peers: undefined }));
    screen.getByText(/Whether it was used cannot be told: there are no events of this place\. There is nobody in the same department to compare with\./);
  });

  it("sends a flagged line that is to be kept only with a reason", async () => {
    const flagged = lineWith({ findings: [{ fingerprint: "f", risk: 40, sentence: "Opens at all hours." }] }, { flagged: true });
    const { user, decided } = shownCard(flagged);
    screen.getByText("Opens at all hours.");
    await user.click(button("Keep"));
    expect(decided).toEqual([]);
    await user.type(screen.getByLabelText("Why is it needed?"), "Night checks of the cooling");
    await user.tab();
    expect(decided).toEqual([[7, "keep", "Night checks of the cooling"]]);
  });

  it("speaks of a card as of a card: when it ends, and that it is returned or kept", () => {
    const life = { kind: "ends", last: { date: day("2027-02-28") } } as const;
    shownCard(lineWith({ subject: { kind: "credential", id: "c1", name: "Card 87-40116" }, hours: [], life }));
    screen.getByText("In use; ends on 28 Feb 2027.");
    expect([button("Keep the card").disabled, button("Return the card").disabled]).toEqual([false, false]);
  });

  it("stands as it was stored where no answer comes, and can be decided again", async () => {
    const { user, decided } = shownCard(lineWith({}, { decision: "keep" }), () => Promise.reject(new Error("the network is gone")));
    await user.click(button("Withdraw"));
    await screen.findByText("No answer from the server");
    expect([isChosen("Withdraw"), isChosen("Keep")]).toEqual(["false", "true"]);
    await user.click(button("Withdraw"));
    expect(decided).toHaveLength(2);
  });

  it("says why a decision was refused, and does not stand as decided", async () => {
    const { user } = shownCard(lineWith({}), () => Promise.resolve("This docket was signed meanwhile."));
    await user.click(button("Withdraw"));
    expect((await screen.findByRole("alert")).textContent).toBe("This docket was signed meanwhile.");
    expect(isChosen("Withdraw")).toBe("false");
  });
});

/** @jest-environment jsdom */
import { describe, expect, it } from "@jest/globals";
import { screen, within } from "@testing-library/react";
import type { Line } from "@/core/certification/line";
import { parseCivilDay } from "@/core/time/civil-day";
import type { ShownLine } from "@/operations/certification/show-docket";
import { show } from "~/tests/components/show";
import { docketWords } from "../words/docket/in-language";
import type { DocketLineProps } from "./docket-line";
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
    passedFrom: undefined,
    comments: [],
    aboutYourself: false,
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

const others = [{ docket: 9, certifier: "otto", name: "Otto Rushgaard" }];

function shownCard(shown: ShownLine, more: Partial<DocketLineProps> = {}) {
  const chosen: unknown[] = [];
  const props: DocketLineProps = {
    shown,
    asOf,
    timeZone: "Europe/Vienna",
    editable: true,
    words: docketWords("en"),
    others,
    waiting: undefined,
    refused: undefined,
    choose: (...args) => chosen.push(args),
    comment: () => Promise.resolve(undefined),
    ...more,
  };
  return { ...show(<DocketLineCard {...props} />), chosen };
}

const button = (name: string) => screen.getByRole<HTMLButtonElement>("button", { name });
const isChosen = (name: string) => button(name).getAttribute("aria-pressed");

describe("a line of a docket", () => {
  it("says where, when, how it was used and who else has it, and takes a decision with one click", async () => {
    const { user, chosen } = shownCard(lineWith({}));
    const line = within(screen.getByRole("region", { name: "Ada Tannwald, Seed vault" }));
    line.getByText(/Mon–Fri 07:00–19:00\./);
    line.getByText(/Vault door/);
    // What fewer than half of the colleagues have is told at once; that it is used, only to who wants more.
    line.getByText("One of four colleagues can do the same.");
    expect(line.getByText("Came in twice, last 3 days ago.").closest("details")).not.toBeNull();
    await user.click(button("Keep"));
    expect(chosen).toEqual([[7, { decision: "keep", reason: "" }]]);
  });

  it("shows what was chosen while it waits to be saved", () => {
    shownCard(lineWith({}), { waiting: { decision: "keep", reason: "" } });
    expect([isChosen("Keep"), isChosen("Withdraw")]).toEqual(["true", "false"]);
    screen.getByText("Nothing changes.");
  });

  it("says first that somebody passes by a standing override", () => {
    shownCard(lineWith({ override: true }));
    screen.getByText("Passes here by a standing override: no grant is needed.");
  });

  it("cannot tell of use where there are no events, instead of saying that there was none", () => {
    shownCard(lineWith({ use: { count: 0, last: undefined, coveredDays: 0 }, peers: undefined }));
    screen.getByText(/No events of this place: whether it was used cannot be told\. Nobody in the department to compare with\./);
  });

  it("sends a flagged line that is to be kept only with a reason", async () => {
    const flagged = lineWith({ findings: [{ fingerprint: "f", risk: 40, sentence: "Opens at all hours." }] }, { flagged: true });
    const { user, chosen } = shownCard(flagged);
    screen.getByText("Opens at all hours.");
    await user.click(button("Keep"));
    expect(chosen).toEqual([]);
    await user.type(screen.getByLabelText("Why is it needed?"), "Night checks of the cooling");
    await user.tab();
    expect(chosen).toEqual([[7, { decision: "keep", reason: "Night checks of the cooling" }]]);
  });

  it("speaks of a card as of a card: when it ends, and that it is returned or kept", () => {
    const life = { kind: "ends", last: { date: day("2027-02-28") } } as const;
    shownCard(lineWith({ subject: { kind: "credential", id: "c1", name: "Card 87-40116" }, hours: [], life }));
    screen.getByText("In use; ends on 28 Feb 2027.");
    expect([button("Keep the card").disabled, button("Return the card").disabled]).toEqual([false, false]);
  });

  it("says why a decision was refused, and does not stand as decided", () => {
    shownCard(lineWith({}), { refused: "This docket was signed meanwhile." });
    expect(screen.getByRole("alert").textContent).toBe("This docket was signed meanwhile.");
    expect(isChosen("Withdraw")).toBe("false");
  });

  it("lets nobody decide what is about themselves but pass it on, to another certifier of the round", async () => {
    const { user, chosen } = shownCard(lineWith({}, { aboutYourself: true }));
    screen.getByText("This line is about you. Nobody certifies themself: pass it on.");
    expect([button("Keep").disabled, button("Narrow …").disabled, button("Withdraw").disabled]).toEqual([true, true, true]);
    await user.click(button("Pass on …"));
    await user.click(screen.getByLabelText("Who should decide it?", { selector: "input" }));
    await user.click(await screen.findByText("Otto Rushgaard"));
    await user.click(button("Pass it on"));
    expect(chosen).toEqual([[7, { decision: "pass-on", to: 9, reason: "" }]]);
  });

  it("was passed on to somebody once and is not passed on again; what was decided is taken back with one click", async () => {
    const { user, chosen } = shownCard(lineWith({}, { passedFrom: 3, decision: "withdraw" }));
    screen.getByText("Passed on to you.");
    expect(screen.queryByRole("button", { name: "Pass on …" })).toBeNull();
    await user.click(button("Undo"));
    expect(chosen).toEqual([[7, { decision: "undo" }]]);
  });

  it("says of a narrowed line what stays", () => {
    const narrowing = { kind: "hours", schedule: "day", scheduleName: "Day", until: "2027-03-31" } as const;
    shownCard(lineWith({}, { decision: "narrow", narrowing }));
    screen.getByText("Stays in the hours of Day, until 31 Mar 2027.");
    expect(isChosen("Narrow …")).toBe("true");
  });
});

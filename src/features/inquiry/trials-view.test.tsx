/** @jest-environment jsdom */
import { describe, expect, it } from "@jest/globals";
import { screen, within } from "@testing-library/react";
import type { Trial } from "@/core/evidence/trials";
import { required } from "@/core/kernel/invariant";
import { parseCivilDay } from "@/core/time/civil-day";
import type { CivilDay } from "@/core/time/civil-day";
import type { Inquiry } from "@/operations/inquiry/inquiry";
import type { RunTrial } from "@/operations/inquiry/trials";
import { anyTime, shownOrchard, shownRegister } from "~/tests/components/inquiry";
import { show } from "~/tests/components/show";
import { TrialsView } from "./trials-view";

const monday = parseCivilDay("2026-03-02") as CivilDay;
const run = (told: Partial<RunTrial>): RunTrial => ({
  id: 1,
  credential: "c1",
  door: "gate",
  at: "2026-03-02T09:00Z",
  lockdown: false,
  expected: "open",
  note: "",
  madeBy: "tessa",
  madeAt: "2026-03-02T06:00:00Z",
  verdict: "open",
  reason: "open",
  isFree: false,
  isAsExpected: true,
  card: "Card c1",
  holder: "Person 001",
  doorName: "Gate",
  there: { date: monday, minuteOfDay: 600 },
  zone: "Europe/Vienna",
  ...told,
});

/** Somebody's card at the gate on a Monday; the gate stands free to everybody at some hours where that is said. */
async function shown(minuteOfDay: number, unlock?: string) {
  const orchard = shownOrchard(4);
  const register = shownRegister({ ...orchard, doors: orchard.doors?.map((door) => (door.id === "gate" && unlock ? { ...door, unlock } : door)) });
  const inquiry: Inquiry = {
    ...anyTime,
    who: { kind: "credential", id: "c1" },
    where: { kind: "door", id: "gate" },
    when: { kind: "moment", at: { date: monday, minuteOfDay } },
  };
  const added: Trial[] = [];
  const add = (trial: Trial) => {
    added.push(trial);
    return Promise.resolve("written" as const);
  };
  const trace = required(await register.trace(inquiry), "there is such a card");
  const trials = [run({}), run({ id: 2, verdict: "closed", reason: "closed-schedule", isFree: true, isAsExpected: false })];
  const drop = () => Promise.resolve(true);
  const { user } = show(
    <TrialsView asked={register.asked(inquiry)} trace={trace} cards={[]} trials={trials} reference="Trials on snapshot 1" mayWrite actions={{ add, drop }} />,
  );
  return { user, added };
}

describe("a card tried at a door", () => {
  it("says what the door does and why, leads to other moments, and writes down what is expected", async () => {
    const { user, added } = await shown(600);
    screen.getByRole("heading", { name: "The door opens" });
    screen.getByText(/^Card c1, Person 001, at Gate on Mon 2 Mar 2026, 10:00, Europe\/Vienna\.$/);
    const steps = within(screen.getByRole("navigation", { name: "Another moment" })).getAllByRole("link");
    expect(steps.map(({ textContent }) => textContent)).toEqual([
      "An hour before",
      "An hour after",
      "A day after",
      "The change before, Mon 2 Mar 08:00",
      "The change after, Mon 2 Mar 18:00",
    ]);
    expect(steps[0]?.getAttribute("href")).toContain("2026-03-02T09%3A00");
    await user.type(screen.getByRole("textbox", { name: "Note" }), "by day");
    await user.click(screen.getByRole("button", { name: "Write it down" }));
    expect(added).toEqual([{ credential: "c1", door: "gate", at: "2026-03-02T09:00Z", lockdown: false, expected: "open", note: "by day" }]);
  });

  it("never says of a door that stands free that it stays shut", async () => {
    await shown(1200);
    screen.getByRole("heading", { name: "The door stays shut" });
    screen.getByText("It does not open for the card: outside the hours granted.");
  });

  it("tells what stands free to everybody beside what it does for the card", async () => {
    await shown(1230, "night");
    screen.getByRole("heading", { name: "The door stands free to everybody" });
    screen.getByText("It does not open for the card: outside the hours granted. It stands free to everybody then, whatever is presented.");
    screen.getByRole("heading", { name: "Two trials, one as expected" });
    const rows = screen.getAllByRole("row").slice(1);
    expect(rows.map((row) => within(row).getAllByRole("cell")[3]?.textContent)).toEqual([
      "✓ opens for it",
      "✗ does not open for itoutside the hours grantedstands free to everybody then",
    ]);
  });
});

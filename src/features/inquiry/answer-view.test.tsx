/** @jest-environment jsdom */
import { describe, expect, it } from "@jest/globals";
import { screen, waitFor, within } from "@testing-library/react";
import { required } from "@/core/kernel/invariant";
import type { Inquiry } from "@/operations/inquiry/inquiry";
import { AnswerView } from "./answer-view";
import { anyTime, shownOrchard, shownRegister } from "~/tests/components/inquiry";
import { show } from "~/tests/components/show";

const keep = () => Promise.resolve("kept" as const);
const atGate: Inquiry = { ...anyTime, where: { kind: "door", id: "gate" } };

describe("an answer in rows", () => {
  it("says how many can, who would only if a card were made active, and why the selected one does; the arrow keys ask for the next one", async () => {
    const orchard = shownRegister(shownOrchard(4));
    const answer = await orchard.answer(atGate);
    const traceOf = (id: string) => orchard.trace({ ...atGate, who: { kind: "cardholder", id } });
    const traces = new Map(await Promise.all(["p0", "p1", "p2", "p3"].map(async (id) => [id, await traceOf(id)] as const)));
    const { user, asked } = show(
      <AnswerView asked={orchard.asked(atGate)} answer={answer} firstTrace={traces.get("p1")} reference="Snapshot 1" keep={keep} />,
      (address) =>
        address.includes("/trace") ? traces.get(new URLSearchParams(address.split("?")[1]).get("who")?.replace("cardholder:", "") ?? "") : undefined,
    );
    screen.getByRole("heading", { name: "Three can" });
    screen.getByText(/One more would if cards were made active, listed apart below. Never unlocked for everybody./);
    const [awake, asleep] = screen.getAllByRole("table");
    expect(
      within(required(awake, "rows"))
        .getAllByRole("button")
        .map(({ textContent }) => textContent),
    ).toEqual(["Person 001", "Person 002", "Person 003"]);
    expect(
      within(required(asleep, "rows"))
        .getAllByRole("button")
        .map(({ textContent }) => textContent),
    ).toEqual(["Person 000"]);
    // The first one's reason came with the page.
    screen.getByRole("heading", { name: "Person 001 does not open Gate" });
    expect(asked.filter((address) => address.includes("/trace"))).toEqual([]);
    screen.getByRole("button", { name: "Person 001" }).focus();
    await user.keyboard("{ArrowDown}");
    await screen.findByRole("heading", { name: "Person 002 does not open Gate" });
    expect(asked.filter((address) => address.includes("/trace")).map((address) => new URLSearchParams(address.split("?")[1]).get("who"))).toEqual([
      "cardholder:p2",
    ]);
    await user.keyboard("{ArrowDown}{ArrowDown}");
    await screen.findByRole("heading", { name: "Person 000 does not open Gate" });
    screen.getByText(/^Because /);
  });

  it("shows the rest when it is asked for, each row once, and says where it could not be had", async () => {
    const orchard = shownRegister(shownOrchard(9));
    const answer = await orchard.answer(atGate, 0, 3);
    const pages = new Map(await Promise.all([3, 6].map(async (offset) => [String(offset), await orchard.answer(atGate, offset, 3)] as const)));
    let isDown = false;
    const { user } = show(<AnswerView asked={orchard.asked(atGate)} answer={answer} firstTrace={undefined} reference="Snapshot 1" keep={keep} />, (address) =>
      isDown ? undefined : pages.get(new URLSearchParams(address.split("?")[1]).get("offset") ?? ""),
    );
    await user.click(screen.getByRole("button", { name: "Show more; 6 are left" }));
    await user.click(await screen.findByRole("button", { name: "Show more; 3 are left" }));
    await waitFor(() => expect(screen.getAllByRole("button", { name: /^Person/ })).toHaveLength(9));
    expect(new Set(screen.getAllByRole("button", { name: /^Person/ }).map(({ textContent }) => textContent)).size).toBe(9);
    expect(screen.queryByRole("button", { name: /^Show more/ })).toBeNull();
    isDown = true;
  });

  it("says of nobody that nobody can, and offers the same by other forms and in charts", async () => {
    const orchard = shownRegister({ ...shownOrchard(4), grants: [] });
    const asked: Inquiry = { ...anyTime, who: { kind: "group", id: "press" } };
    show(<AnswerView asked={orchard.asked(asked)} answer={await orchard.answer(asked)} firstTrace={undefined} reference="Snapshot 1" keep={keep} />);
    screen.getByRole("heading", { name: "Everybody of Press house: two holders open no door between them" });
    screen.getByText("Nothing is selected, since nothing opens.");
    const forms = screen.getByRole("navigation", { name: "Answer as" });
    expect(
      within(forms)
        .getAllByRole("link")
        .map((one) => [one.textContent, one.getAttribute("href")]),
    ).toEqual([
      ["By door", "/inquiry?who=group%3Apress"],
      ["By person", "/inquiry?who=group%3Apress&form=people"],
      ["People by doors", "/inquiry?who=group%3Apress&form=sheet"],
      ["Charts", "/inquiry/charts?who=group%3Apress"],
      ["Routes", "/inquiry/routes?who=group%3Apress"],
      ["On the plan", "/inquiry/plan?who=group%3Apress"],
      ["CSV", "/inquiry/export?who=group%3Apress&as=csv"],
      ["XLSX", "/inquiry/export?who=group%3Apress&as=xlsx"],
    ]);
  });

  it("asked as if live, tells apart what would open besides", async () => {
    const orchard = shownRegister(shownOrchard(2));
    const asked: Inquiry = { ...atGate, asIfLive: true };
    show(<AnswerView asked={orchard.asked(asked)} answer={await orchard.answer(asked)} firstTrace={undefined} reference="Snapshot 1" keep={keep} />);
    screen.getByText(/One would open more if cards were made active/);
    expect(screen.getAllByRole("table")).toHaveLength(2);
  });
});

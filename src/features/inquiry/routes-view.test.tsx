/** @jest-environment jsdom */
import { describe, expect, it } from "@jest/globals";
import { screen, within } from "@testing-library/react";
import type { FacilityDocument } from "@/core/facility/document";
import { required } from "@/core/kernel/invariant";
import type { Inquiry } from "@/operations/inquiry/inquiry";
import { anyTime, shownRegister } from "~/tests/components/inquiry";
import { show } from "~/tests/components/show";
import { RoutesView } from "./routes-view";

/** A hall with a way in and a way out by day, and a vault behind it; Bo opens the vault and not the hall. */
const house: Partial<FacilityDocument> = {
  areas: [
    { id: "hall", name: "Hall", site: "garden" },
    { id: "vault", name: "Vault", site: "garden", sensitivity: 3 },
  ],
  schedules: [
    { id: "always", name: "Always", always: true },
    { id: "day", name: "Day", week: Object.fromEntries(["mon", "tue", "wed", "thu", "fri", "sat", "sun"].map((day) => [day, [["08:00", "18:00"]]])) },
  ],
  doors: [
    { id: "front", name: "Front door", site: "garden", area: "hall" },
    { id: "out", name: "Way out", site: "garden", from: "hall" },
    { id: "inner", name: "Inner door", site: "garden", from: "hall", area: "vault" },
  ],
  cardholders: ["ada", "bo"].map((id) => ({ id, name: id === "ada" ? "Ada Almond" : "Bo Birch", status: "active" as const })),
  credentials: ["ada", "bo"].map((id) => ({ id: `c-${id}`, cardholder: id, kind: "card" as const, status: "active" as const })),
  grants: [
    { id: "g1", to: { cardholder: "ada" }, open: { door: "front" }, schedule: "always" },
    { id: "g2", to: { cardholder: "ada" }, open: { door: "out" }, schedule: "day" },
    { id: "g3", to: { cardholder: "ada" }, open: { door: "inner" }, schedule: "day" },
    { id: "g4", to: { cardholder: "bo" }, open: { door: "inner" }, schedule: "always" },
  ],
};

const toVault: Inquiry = { ...anyTime, where: { kind: "area", id: "vault" } };

async function shown(asked: Inquiry, outOfUse?: string) {
  const register = shownRegister(house);
  const answer = required(await register.routes(asked, outOfUse), "there is such a door");
  show(<RoutesView asked={register.asked(asked)} answer={answer} reference="Routes on snapshot 1" />);
}

describe("routes on foot", () => {
  it("say who gets there and by how many doors, and who opens a door there and never gets to it", async () => {
    await shown(toVault);
    screen.getByRole("heading", { name: "One gets to Vault on foot" });
    screen.getByText(/^1 through two doors\. 2 people and cards were asked about\./);
    const [people] = screen.getAllByRole("table");
    expect(
      within(required(people, "a list"))
        .getAllByRole("link")
        .map(({ textContent }) => textContent),
    ).toEqual(["Ada Almond"]);
    screen.getByText(/^One person or card: Bo Birch\. Nothing that they open leads them there from outside\.$/);
    // The vault has no way out of its own that anybody wrote down.
    screen.getByText(/^Cannot tell: no door is recorded that leads outside from there\./);
  });

  it("tell one person's ways with their hours, and of who never gets there the way with the fewest doors that stay shut", async () => {
    await shown({ ...toVault, who: { kind: "cardholder", id: "ada" } });
    screen.getByRole("heading", { name: "Ada Almond gets to Vault through two doors" });
    const row = within(required(screen.getAllByRole("table")[0], "ways")).getAllByRole("row")[1];
    expect(row?.textContent).toMatch(/^2Front door → Inner doorIf the last were out of use.*08–18/);
    const drawing = screen.getByRole("img", { name: /^Places and the doors between them/ });
    for (const words of ["Outside", "Hall", "Vault", "Front door", "Inner door"]) expect(drawing.textContent).toContain(words);
    // What leads out again is no way there.
    expect(drawing.textContent).not.toContain("Way out");
  });

  it("say which doors stay shut on the way of who never gets there", async () => {
    await shown({ ...toVault, who: { kind: "cardholder", id: "bo" } });
    screen.getByRole("heading", { name: "Bo Birch never gets to Vault" });
    expect(screen.getAllByRole("listitem").map(({ textContent }) => textContent)).toEqual(["Front door stays shut", "Inner door opens", "Inner door"]);
    screen.getByText(/Opens one door that no way leads them to\./);
  });

  it("say who could be shut in, and from when on", async () => {
    await shown({ ...anyTime, who: { kind: "everybody" } });
    screen.getByRole("heading", { name: "Two places can be walked to" });
    // Ada gets into the hall at any hour, and out of it by day: from 18:00 on she is shut in, who came in the minute before as well.
    screen.getByText(
      (_, element) =>
        element?.tagName === "P" &&
        /^Hall: one person or card gets in and finds no way out the minute after, first at Sun 1 Mar 2026, 01:00: Ada Almond\.$/.test(element.textContent),
    );
  });

  it("say what a door out of use cuts off", async () => {
    await shown({ ...anyTime, who: { kind: "everybody" } }, "front");
    screen.getByRole("heading", { name: "If Front door were out of use" });
    screen.getByText("One would lose a place: Ada Almond.");
    expect(
      screen
        .getAllByRole("listitem")
        .map(({ textContent }) => textContent)
        .sort(),
    ).toEqual(["Hall: one person or card", "Vault: one person or card"]);
  });
});

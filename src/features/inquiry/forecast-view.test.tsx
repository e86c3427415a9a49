/** @jest-environment jsdom */
import { describe, expect, it } from "@jest/globals";
import { screen, within } from "@testing-library/react";
import type { FacilityDocument } from "@/core/facility/document";
import { shownRegister } from "~/tests/components/inquiry";
import { show } from "~/tests/components/show";
import { ForecastView } from "./forecast-view";

/** From the export of 1 March 2026 on: a card that ends in March, one that begins, one that ends unless it is used, and a fair that nobody typed in again. */
const house: Partial<FacilityDocument> = {
  sites: [{ id: "garden", name: "Garden", timeZone: "Europe/Vienna", calendar: "days" }],
  calendars: [
    {
      id: "days",
      name: "Days",
      days: [
        { name: "Fair", dayType: "company", on: "2024-03-20" },
        { name: "Fair", dayType: "company", on: "2025-03-20" },
        { name: "Stocktaking", dayType: "company", on: "2026-03-10" },
      ],
    },
  ],
  cardholders: ["ada", "bo", "cy"].map((id) => ({ id, name: `${id} Almond`, status: "active" as const })),
  credentials: [
    { id: "c-ada", cardholder: "ada", kind: "card", status: "active", until: "2026-03-12" },
    { id: "c-bo", cardholder: "bo", kind: "card", status: "active", from: "2026-03-16" },
    { id: "c-cy", cardholder: "cy", kind: "card", status: "active", expiry: { after: "last-use", days: 30 }, lastUse: "2026-02-20T10:00:00Z" },
  ],
  grants: ["ada", "bo", "cy"].map((id) => ({ id: `g-${id}`, to: { cardholder: id }, open: { door: "gate" }, schedule: "office" })),
};

describe("the forecast", () => {
  it("says by date what ends and begins, what is opened for the last time, and what would come of a date that was not typed in", async () => {
    const register = shownRegister(house);
    show(<ForecastView forecast={await register.forecast(60)} longest={330} reference="Forecast on snapshot 1" />);
    screen.getByRole("heading", { name: "In the coming 60 days two things end and one begins by itself" });
    screen.getByText(/Some cards end by not being used: what is said of them holds if they are not used again\.$/);
    const said = screen.getAllByRole("article").map(({ textContent }) => textContent);
    // The last date is included, and a Thursday; the last working hours of a card that ends on a Sunday lie on the Friday before.
    expect(said).toEqual([
      "Thu 12 Mar 2026One card ends: Card c-ada (ada Almond).One holder opens one door for the last time: ada Almond.",
      "Mon 16 Mar 2026One card begins: Card c-bo (bo Almond).One holder opens one door for the first time: bo Almond.",
      "Fri 20 Mar 2026One holder opens one door for the last time: cy Almond.",
      "Sun 22 Mar 2026One card ends: Card c-cy (cy Almond, if it is not used again).",
    ]);
    const margin = within(screen.getByRole("complementary"));
    const paragraphs = margin.getAllByText((_, element) => element?.tagName === "P").map(({ textContent }) => textContent);
    expect(paragraphs).toEqual([
      "Days: the last date that was typed in singly is Tue 10 Mar 2026. After it only days that recur count, and doors open as on any other day.",
      "Fair, Fri 20 Mar 2026, Garden: typed in for the years before and not for this one (Days). As it is, two holders open one door for more of it than if it were.",
      "Stocktaking (company), Tue 10 Mar 2026, Garden: two holders open one door for less of it.",
    ]);
    expect(screen.getByRole("cell", { name: /^20 access changes Fair missing$/ })).toBeDefined();
    expect(screen.getByRole("cell", { name: /^12 1 end$/ })).toBeDefined();
  });

  it("says so where nothing comes", async () => {
    const register = shownRegister({});
    show(<ForecastView forecast={await register.forecast(30)} longest={330} reference="Forecast on snapshot 1" />);
    screen.getByRole("heading", { name: "In the coming 30 days nothing ends and nothing begins by itself" });
    screen.getByText("None in this time.");
    screen.getByText("No date that was typed in for the years before is missing in this time.");
  });
});

/** @jest-environment jsdom */
import { describe, expect, it } from "@jest/globals";
import { screen, within } from "@testing-library/react";
import type { EventsPage, ShownEvent } from "@/operations/events/list-events";
import { anyEvents } from "~/tests/asked-events";
import { show } from "~/tests/components/show";
import { usualColumns } from "./events-address";
import { EventsView } from "./events-view";
import type { EventsViewProps } from "./events-view";

const at = Date.parse("2026-11-20T02:12:45Z") / 1000;
const event: ShownEvent = {
  second: at,
  file: 1,
  line: 2,
  door: { id: "gate", name: "Gate", isKnown: true },
  zone: "Europe/Vienna",
  card: { words: "Card 87-1", credential: "c1", cardholder: { id: "p1", name: "Ada Tannwald" }, isOneOfSeveral: false },
  granted: false,
  reason: "no such card",
  agreement: { agrees: "yes", says: { reason: "open" } },
  snapshot: 2,
  isLater: false,
} as unknown as ShownEvent;
const page: EventsPage = {
  events: [event],
  next: undefined,
  groups: undefined,
  reasons: ["no such card"],
  span: { from: at - 86_400, to: at },
  unknown: { count: 0, most: [] },
  aboutName: undefined,
  lookedBackTo: undefined,
};

const shownEvents = (of: Partial<EventsPage> = {}, more: Partial<EventsViewProps> = {}) =>
  show(<EventsView page={{ ...page, ...of }} asked={anyEvents} columns={usualColumns} notUnderstood={[]} timeZone="Europe/Vienna" {...more} />);

const title = (): string => screen.getByRole("heading", { level: 1 }).textContent;
const cells = (): string[] => screen.getAllByRole("cell").map(({ textContent }) => textContent);

describe("the events", () => {
  it("stand at the clock of their door, with who, where, what came of it and the reason given", () => {
    shownEvents();
    expect(title()).toBe("Events, the newest first");
    expect(cells().slice(0, 4)).toEqual(["20 Nov 2026, 03:12:45", "Ada TannwaldCard 87-1", "Gate", "refusedno such card"]);
    const margin = within(screen.getByRole("complementary"));
    margin.getByText("20 Nov 2026, 03:12:45 (Europe/Vienna)");
    expect(margin.getByRole("link", { name: "Why the record says so" }).getAttribute("href")).toContain("when=2026-11-20T02%3A12Z");
  });

  it("are told in the columns that are chosen, what has none in small print beside", () => {
    shownEvents({}, { columns: ["person", "card", "reason", "snapshot", "line"] });
    expect(screen.getAllByRole("columnheader").map(({ textContent }) => textContent)).toEqual([
      "When, at the door",
      "Who",
      "Card",
      "Reason given",
      "Held against",
      "File and line",
    ]);
    expect(cells()).toEqual(["20 Nov 2026, 03:12:45", "Ada Tannwald", "Card 87-1", "no such card", "snapshot 2", "file 1, line 2"]);
  });

  it("name zones only where there are several", () => {
    const { unmount } = shownEvents();
    expect(screen.queryByText("Europe/Vienna")).toBeNull();
    unmount();
    shownEvents({ events: [event, { ...event, line: 3, zone: "Asia/Kolkata" }] });
    screen.getByText("Asia/Kolkata");
    expect(cells()).toContain("20 Nov 2026, 07:42:45Asia/Kolkata");
  });

  it("of a card or a door that the register does not have say so, and lead nowhere that is not", () => {
    const stranger = { words: "9-4711", credential: undefined, cardholder: undefined, isOneOfSeveral: false };
    shownEvents({
      events: [{ ...event, card: stranger, door: { id: "old", name: "old", isKnown: false } }],
      unknown: { count: 9, most: [{ card: '["4711","9"]', words: "9-4711", events: 2 }] },
    });
    const margin = within(screen.getByRole("complementary"));
    margin.getByText(/9-4711, not in the register/);
    margin.getByText(/old, not in the register/);
    expect(margin.queryByRole("link", { name: "Why the record says so" })).toBeNull();
    screen.getByText(/Nine cards that nobody here has were seen:/);
    expect(screen.getByRole("link", { name: "9-4711" }).getAttribute("href")).toContain("card=");
  });

  it("put together by the hour are of the hour at the door", () => {
    const group = { name: "3", about: undefined, card: undefined, events: 12, granted: 10, last: at };
    shownEvents({ events: [], groups: [{ ...group, key: "3" }] }, { asked: { ...anyEvents, by: "hour" } });
    expect(title()).toBe("Events, by hour");
    screen.getByRole("columnheader", { name: "Hour of the day, at the door" });
    expect(cells()).toEqual(["03:00", "12", "10", "2", "20 Nov 2026, 02:12:45 UTC"]);
  });

  it("put together by door lead to those of the door", () => {
    const group = { key: "gate", name: "Gate", about: { kind: "door" as const, id: "gate" }, card: undefined, events: 12, granted: 10, last: at };
    shownEvents({ events: [], groups: [group] }, { asked: { ...anyEvents, by: "door", granted: true } });
    expect(screen.getByRole("link", { name: "Gate" }).getAttribute("href")).toBe("/register/events?about=door%3Agate&result=granted");
  });

  it("that fit nothing, are looked for no further, or are none at all are told apart", () => {
    const first = shownEvents({ events: [] });
    expect(title()).toBe("No events like these");
    screen.getByText(/Nothing fits\. Take something of the search away\./);
    first.unmount();
    const second = shownEvents({ events: [], lookedBackTo: at - 3600 });
    screen.getByText(/Looked back to 20 Nov 2026, 02:12:45/);
    second.unmount();
    shownEvents({ events: [], span: undefined });
    expect(title()).toBe("No events yet");
    screen.getByText(/Take a file of events in under Intake/);
  });

  it("say what of their address was not understood", () => {
    shownEvents({}, { notUnderstood: ["card=x", "by=week"] });
    expect(screen.getByRole("alert").textContent).toBe("Not understood in this address, and so left out: card=x and by=week.");
  });
});

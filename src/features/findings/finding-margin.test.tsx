/** @jest-environment jsdom */
import { describe, expect, it } from "@jest/globals";
import { screen } from "@testing-library/react";
import type { FindingHistory, NamedFinding } from "@/operations/findings/list-findings";
import { show } from "~/tests/components/show";
import { namedFinding } from "~/tests/named-finding";
import { FindingMargin } from "./finding-margin";

const nothing: FindingHistory = { notes: [], waivers: [], lines: [] };

function shownMargin(finding: NamedFinding, history: FindingHistory = nothing, past?: number) {
  return show(<FindingMargin finding={finding} timeZone="Europe/Vienna" past={past} triage={undefined} mayEdit={past === undefined} />, (address) =>
    address.startsWith("/findings/history?") ? history : undefined,
  );
}

const line = (of: Partial<FindingHistory["lines"][number]>): FindingHistory["lines"][number] => ({
  line: 1,
  round: { id: 4, name: "Winter review", due: "2026-12-31" },
  certifierName: "Dagmar Holmwold",
  decision: undefined,
  signedAt: undefined,
  ...of,
});

describe("beside a finding", () => {
  it("stands what is proved, what it weighs, and the draft that would end it", () => {
    const { asked } = shownMargin(namedFinding("many-credentials", { credentials: ["c1", "c2"] }));
    screen.getByRole("heading", { name: "Ada Tannwald" });
    screen.getByText(/Risk 40, which is the sum of/);
    expect(screen.getByRole("link", { name: "Change it in a draft" }).getAttribute("href")).toBe("/register/drafts?list=cardholders&key=p1");
    expect(asked[0]).toContain("about=cardholder%3Ap1");
  });

  it("offers no draft in an earlier snapshot, nor for what has happened already", () => {
    const { unmount } = shownMargin(namedFinding("many-credentials", { credentials: ["c1"] }), nothing, 2);
    expect(screen.queryByRole("link", { name: "Change it in a draft" })).toBeNull();
    unmount();
    shownMargin(namedFinding("let-in", { times: 1, last: "2026-03-01T10:00:00Z", by: ["p2"] }));
    expect(screen.queryByRole("link", { name: /draft|taking it away/ })).toBeNull();
  });

  it("says in which rounds it was told, and what was decided, whether it is signed or not", async () => {
    shownMargin(namedFinding("many-credentials", { credentials: ["c1"] }), {
      ...nothing,
      lines: [
        line({ line: 1, decision: "keep", signedAt: "2026-11-20T09:30:00Z" }),
        line({ line: 2, decision: "withdraw" }),
        line({ line: 3 }),
        line({ line: 4, certifierName: undefined }),
      ],
    });
    const links = await screen.findAllByRole("link", { name: "Winter review" });
    expect(links.map((one) => one.getAttribute("href"))).toEqual(Array.from({ length: 4 }, () => "/certification/4"));
    screen.getByText(/kept by Dagmar Holmwold, signed 20 Nov 2026/);
    screen.getByText(/withdrawn by Dagmar Holmwold, not signed yet/);
    screen.getByText(/not decided yet by Dagmar Holmwold/);
    screen.getByText(/not decided yet by whoever opened the round/);
  });

  it("tells notes, and waivers that have ended, with who and when", async () => {
    const waiver = {
      id: 2,
      fingerprint: "f",
      reason: "Until spring.",
      until: "2026-04-01",
      risk: 40,
      madeBy: "tessa",
      madeAt: "2026-01-01T08:00:00Z",
      confirmedBy: "viggo",
    };
    shownMargin(namedFinding("many-credentials", { credentials: ["c1"] }), {
      notes: [{ note: "Asked on Monday.", by: "tessa", at: "2026-11-20T09:30:00Z" }],
      waivers: [
        { ...waiver, endedBy: "viggo", endedAt: "2026-02-01T08:00:00Z" },
        { ...waiver, id: 3, reason: "Still holds.", endedBy: undefined, endedAt: undefined },
      ],
      lines: [],
    });
    await screen.findByText(/Asked on Monday\./);
    screen.getByText(/A waiver of tessa \(“Until spring\.”\)/);
    expect(screen.queryByText(/Still holds/)).toBeNull();
  });
});

import { describe, expect, it } from "@jest/globals";
import { compiledFrom } from "~/tests/builders";
import { usualRuleSettings } from "~/tests/settings";
import { listFindings } from "./list-findings";
import type { Account } from "../ports/accounts";
import type { OpenRegister } from "../register/open-register";
import type { StoredFinding } from "../ports/findings";
import type { Services } from "../services";

const tessa: Account = { id: 1, signIn: "tessa", name: "Tessa", role: "reviewer", cardholder: undefined };
const register = {
  snapshot: { id: 4 },
  compiled: compiledFrom({
    credentials: [
      { id: "c1", cardholder: "iris", kind: "card", status: "active", facilityCode: "87", number: "4711" },
      { id: "c2", kind: "fob", status: "active" },
    ],
  }),
} as unknown as OpenRegister;

describe("the list of findings", () => {
  const asked: unknown[] = [];
  const servicesWith = (found: readonly Partial<StoredFinding>[]): Services =>
    ({
      findings: {
        page: (...of: unknown[]) => {
          asked.push(of.slice(0, 2));
          return Promise.resolve(found);
        },
        count: () => Promise.resolve(found.length),
        counts: () => Promise.resolve({ byRule: { unused: 3 }, total: 3, cannotTell: [] }),
      },
      events: { lastDates: () => Promise.resolve(new Map()) },
      ruleSettings: usualRuleSettings,
      now: () => "2026-03-01T08:00:00Z",
    }) as unknown as Services;

  it("names the person, the card and the doors that each is about, and gives no name to what is not in the register", async () => {
    const found = await listFindings(
      servicesWith([
        {
          rule: "around-the-clock",
          cardholder: "iris",
          subject: { kind: "credential", id: "c1" },
          distinct: [],
          proof: { sensitivity: 2, week: "2026-03-02", doors: ["gate", "gone"], override: false },
        },
        { rule: "unused", cardholder: "iris", subject: { kind: "cardholder", id: "iris" }, distinct: [], proof: { days: 90, coveredDays: 90 } },
        { rule: "unused", subject: { kind: "credential", id: "c2" }, distinct: [], proof: { days: 90, coveredDays: 90 } },
        { rule: "unused", subject: { kind: "credential", id: "c9" }, distinct: [], proof: { days: 90, coveredDays: 90 } },
      ]),
      tessa,
      register,
      {},
    );
    expect(found.findings.map(({ about, card, names }) => [about, card, names])).toEqual([
      ["Iris Almond", "Card 87-4711", { "credential c1": "Card 87-4711", "door gate": "Gate" }],
      ["Iris Almond", undefined, { "cardholder iris": "Iris Almond" }],
      ["Fob c2", undefined, { "credential c2": "Fob c2" }],
      ["c9", undefined, {}],
    ]);
    expect(found.counts.total).toBe(3);
  });

  it("asks for those of one rule where one is chosen", async () => {
    asked.length = 0;
    await listFindings(servicesWith([]), tessa, register, { rule: "unused" });
    await listFindings(servicesWith([]), tessa, register, { isMine: true });
    expect(asked).toEqual([
      [4, expect.objectContaining({ rule: "unused", assignee: undefined })],
      [4, expect.objectContaining({ rule: undefined, assignee: "tessa" })],
    ]);
  });
});

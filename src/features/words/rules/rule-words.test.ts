import { describe, expect, it } from "@jest/globals";
import { EventBook } from "@/core/events/event-book";
import { allRules } from "@/core/findings/catalogue";
import { judgeBy } from "@/core/findings/judge";
import { Judged } from "@/core/findings/judged";
import { usualSettings } from "@/core/findings/settings";
import { Horizon } from "@/core/table/horizon";
import { compiledFrom } from "~/tests/builders";
import { flagsWords, ruleGroups, ruleWords } from "./rule-words";

describe("the rules in words", () => {
  it("are all told, each once", () => {
    expect(ruleGroups.flatMap(({ rules }) => rules).sort()).toEqual(allRules.map(({ key }) => key).sort());
  });

  it("tell every parameter as it is set, but from where on something is sensitive", () => {
    for (const { key, parameters } of allRules) {
      const set = Object.fromEntries(Object.keys(parameters).map((name, i) => [name, 4001 + i]));
      const said = flagsWords(key, set);
      const untold = Object.entries(set).filter(([name, value]) => name !== "sensitivity" && !said.includes(value.toLocaleString("en-GB")));
      expect([key, untold, /[{}|]/.test(said)]).toEqual([key, [], false]);
    }
  });

  it("count one as one", () => {
    expect(flagsWords("unused", { days: 1 })).toBe("A live credential has not been used for one day.");
    expect(flagsWords("unused", { days: 400 })).toBe("A live credential has not been used for 400 days.");
  });

  it("say of every rule why it matters and what it cannot see, as sentences", () => {
    for (const { key } of allRules) {
      const { why, blind } = ruleWords[key];
      expect([key, why, blind]).toEqual([key, expect.stringMatching(/^[A-Z].{20,}\.$/), expect.stringMatching(/^[A-Z].*\.$/)]);
    }
  });

  it("say truly whether a rule cannot tell, or finds nothing, without what it needs", () => {
    // A contractor who ends soon, whose card is old and opens something sensitive at all hours, in a register without anything beside it.
    const compiled = compiledFrom({
      areas: [{ id: "vault", name: "Vault", site: "garden", sensitivity: 3 }],
      doors: [{ id: "gate", name: "Gate", site: "garden", area: "vault" }],
      cardholders: [{ id: "iris", name: "Iris", status: "active", type: "contractor", until: "2026-03-08" }],
      credentials: [{ id: "c1", cardholder: "iris", kind: "card", status: "active", from: "2020-01-01" }],
      grants: [{ id: "g", to: { cardholder: "iris" }, open: { door: "gate" }, schedule: "always" }],
    });
    const horizon = new Horizon(compiled);
    const events = new EventBook(compiled, [], horizon.ahead.from);
    const known = { earlier: [], decisions: undefined, publicHolidays: () => [], peopleSources: [], houseRules: [], unitReports: [] };
    const judged = new Judged({ horizon, settings: usualSettings, events, ...known });
    for (const rule of allRules) {
      const { needs, isSilentWithout } = ruleWords[rule.key];
      expect([rule.key, judgeBy(judged, rule).untold !== undefined]).toEqual([rule.key, needs !== undefined && !isSilentWithout]);
    }
  });
});

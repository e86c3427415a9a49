import { describe, expect, it } from "@jest/globals";
import { compiledFrom } from "~/tests/builders";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import { formatCivilDay, weekdayNumber } from "@/core/time/civil-day";
import { exampleQuestions } from "./example-questions";
import type { Account } from "../ports/accounts";
import type { OpenRegister } from "../register/open-register";
import type { StoredFinding } from "../ports/findings";
import type { Services } from "../services";

const tessa: Account = { id: 1, signIn: "tessa", name: "Tessa", role: "reviewer", cardholder: undefined };
const services = (now: string, found: readonly Partial<StoredFinding>[] = []): Services =>
  ({ now: () => now, findings: { page: () => Promise.resolve(found) } }) as unknown as Services;
const registerOf = (compiled: CompiledFacility): OpenRegister => ({ snapshot: { id: 1 }, compiled }) as unknown as OpenRegister;

const compiled = compiledFrom({
  areas: [
    { id: "vault", name: "Vault", site: "garden", sensitivity: 3 },
    { id: "cage", name: "Cage", site: "garden", parent: "vault" },
    { id: "barn", name: "Barn", site: "garden" },
  ],
  doors: [
    { id: "barn-door", name: "Barn door", site: "garden", area: "barn" },
    { id: "vault-door", name: "Vault door", site: "garden", area: "vault" },
    { id: "cage-door", name: "Cage door", site: "garden", area: "cage" },
  ],
});

describe("questions worth asking", () => {
  it("are of the most sensitive door, of several the one that lies deepest", async () => {
    const questions = await exampleQuestions(services("2026-03-04T09:00:00Z"), tessa, registerOf(compiled));
    expect(questions.map(({ sentence }) => sentence)).toEqual([
      "Who opens Cage door on Saturday at 22:30?",
      "Who ever opens Cage door?",
      "Who could still open Cage door in a lockdown?",
      "Who opens anything at night?",
    ]);
    expect(questions.map(({ inquiry }) => [inquiry.where, inquiry.lockdown])).toEqual([
      [{ kind: "door", id: "cage-door" }, false],
      [{ kind: "door", id: "cage-door" }, false],
      [{ kind: "door", id: "cage-door" }, true],
      [undefined, false],
    ]);
  });

  it("ask of the Saturday to come, on a Saturday of the next one", async () => {
    const saturdays: string[] = [];
    for (const today of ["2026-03-02", "2026-03-06", "2026-03-07", "2026-03-08"]) {
      const [first] = await exampleQuestions(services(`${today}T09:00:00Z`), tessa, registerOf(compiled));
      const when = first?.inquiry.when;
      if (when?.kind !== "moment") throw new Error("The first question names a moment.");
      expect(weekdayNumber(when.at.date)).toBe(5);
      saturdays.push(formatCivilDay(when.at.date));
    }
    expect(saturdays).toEqual(["2026-03-07", "2026-03-07", "2026-03-14", "2026-03-14"]);
  });

  it("are also of whoever is most at risk, if they are in the register", async () => {
    const ofPeople = async (found: readonly Partial<StoredFinding>[]) =>
      (await exampleQuestions(services("2026-03-04T09:00:00Z", found), tessa, registerOf(compiled)))
        .slice(4)
        .map(({ sentence, inquiry }) => [sentence, inquiry.who, inquiry.where]);
    expect(await ofPeople([{ risk: 90 }, { risk: 80, cardholder: "iris" }, { risk: 70, cardholder: "nobody" }])).toEqual([
      ["What does Iris Almond open?", { kind: "cardholder", id: "iris" }, undefined],
      ["What does Iris Almond open at night?", { kind: "cardholder", id: "iris" }, undefined],
    ]);
    expect(await ofPeople([{ risk: 90, cardholder: "nobody" }])).toEqual([]);
  });

  it("are none where there is no door to ask about", async () => {
    expect(await exampleQuestions(services("2026-03-04T09:00:00Z"), tessa, registerOf(compiledFrom({ doors: [] })))).toEqual([]);
  });
});

import { afterAll, beforeAll, expect, it } from "@jest/globals";
import { openRound } from "@/operations/certification/open-round";
import { awaitsEffects, fillEffects, showWithdrawal } from "@/operations/certification/withdrawals";
import { isDefinition } from "@/core/certification/line-content";
import { usualTerms } from "@/core/certification/round-terms";
import { storeFacility } from "@/operations/intake/store-contents";
import { unwatched } from "@/operations/ports/progress";
import { orchard } from "../browser/orchard";
import { ownDatabase } from "./own-database";
import type { OwnDatabase } from "./own-database";

let own: OwnDatabase;

beforeAll(async () => {
  own = await ownDatabase("nomade_effects");
  await storeFacility(own.services, JSON.stringify(orchard), "controller", { signIn: "test" }, unwatched);
});
afterAll(() => own.close());

it("the effect of each line of an open round is kept before anybody asks, and is what would be worked out then", async () => {
  const { services } = own;
  const wilma = await own.account("wilma", "administrator");
  expect(await awaitsEffects(services)).toBe(false);
  const snapshot = (await services.snapshots.latest())?.id ?? -1;
  const terms = { ...usualTerms, scope: { definitions: "too" as const } };
  const round = await openRound(services, wilma, { name: "Spring", due: "2026-04-01", snapshot, terms }, unwatched);
  const lines = (await services.rounds.lines({ round })).filter(({ line }) => !isDefinition(line));
  expect(lines.length).toBeGreaterThan(5);
  expect(await awaitsEffects(services)).toBe(true);
  // For no time at all one is kept, so that it comes to an end in any case.
  expect(await fillEffects(services, 0)).toBe(1);
  expect(await fillEffects(services, 60_000)).toBe(lines.length - 1);
  expect([await fillEffects(services, 60_000), await awaitsEffects(services)]).toEqual([0, false]);
  for (const { id } of lines) {
    const kept = await showWithdrawal(services, wilma, id);
    expect(kept?.effects).toBeDefined();
    await own.asOwner(`UPDATE docket_lines SET effect = NULL WHERE id = ${id}`);
    expect(JSON.parse(JSON.stringify(await showWithdrawal(services, wilma, id)))).toEqual(JSON.parse(JSON.stringify(kept)));
  }
});

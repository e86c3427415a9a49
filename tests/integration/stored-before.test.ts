import { spawnSync } from "node:child_process";
import { afterAll, beforeAll, describe, expect, it } from "@jest/globals";
import { lookForFindings } from "@/operations/findings/look-for-findings";
import { usualTerms } from "@/core/certification/round-terms";
import { openRound } from "@/operations/certification/open-round";
import { storeFacility } from "@/operations/intake/store-contents";
import type { Account } from "@/operations/ports/accounts";
import { unwatched } from "@/operations/ports/progress";
import { orchard } from "../browser/orchard";
import { ownDatabase } from "./own-database";
import type { OwnDatabase } from "./own-database";

/** What was stored by an earlier version says the same after its tables were brought up to date. */
describe("what an earlier version stored", () => {
  const name = "nomade_stored_before";
  let own: OwnDatabase;
  let services: OwnDatabase["services"];
  let tessa: Account;
  let snapshot: number;

  beforeAll(async () => {
    own = await ownDatabase(name);
    ({ services } = own);
    tessa = await own.account("tessa", "reviewer");
    await own.account("dagmar", "manager", "dagmar");
    await storeFacility(services, JSON.stringify(orchard), "controller", { signIn: "test" }, unwatched);
    await lookForFindings(services);
    snapshot = (await services.snapshots.latest())?.id ?? -1;
  });

  afterAll(() => own.close());

  /** Takes back what the migrations of these numbers did, as far as the statements say, and lets them run again. */
  async function migratedFrom(numbers: readonly string[], ...statements: readonly string[]): Promise<void> {
    await own.asOwner(...statements, ...numbers.map((number) => `DELETE FROM migrations WHERE name LIKE '${number}-%'`));
    const done = spawnSync(process.execPath, ["dist/nomade.mjs", "migrate"], {
      env: { ...process.env, NOMADE_DB_USER: process.env["NOMADE_TEST_OWNER"], NOMADE_DB_PASSWORD: process.env["NOMADE_TEST_OWNER_PASSWORD"] },
      encoding: "utf8",
    });
    expect([done.status, done.stderr]).toEqual([0, ""]);
  }

  it("in a round is told with the names and facts that a round stores that is opened now", async () => {
    const round = await openRound(services, tessa, { name: "Spring", due: "2026-04-01", snapshot, terms: usualTerms }, unwatched);
    const stored = async () => {
      const dockets = await services.rounds.dockets({ round });
      return { dockets, lines: await Promise.all(dockets.map(({ id }) => services.rounds.lines({ docket: id }))) };
    };
    const opened = await stored();
    expect(opened.dockets.map(({ certifierName }) => certifierName)).toContain("Dagmar Holmwold");
    expect(opened.lines.flat().some(({ holder }) => holder?.department === "Press house")).toBe(true);
    await migratedFrom(
      ["0013"],
      "ALTER TABLE dockets DROP COLUMN certifier_name",
      "ALTER TABLE docket_lines DROP COLUMN holder",
      "ALTER TABLE orders DROP COLUMN names",
    );
    expect(await stored()).toEqual(opened);
  });

  it("of findings keeps its sentences and sums, and says of what could not be told how much events covered", async () => {
    const before = "Left on 2026-01-15; a credential is still active.";
    const parts = JSON.stringify([{ what: "the rule itself", points: 46 }]);
    const proof = JSON.stringify({ Status: "left", Credentials: ["c-leif"] });
    const told = JSON.stringify([{ rule: "unused", concerned: 3, reason: "events cover 12 of 60 days where they open doors" }]);
    await migratedFrom(
      ["0012"],
      "DELETE FROM findings",
      `UPDATE finding_runs SET cannot_tell = '${told}'`,
      `INSERT INTO findings (snapshot, position, rule, fingerprint, subject_kind, subject, cardholder, risk, sentence, remedy, proof, parts)
       VALUES (${snapshot}, 0, 'leaver-live', 'leaver-live|cardholder|leif|c-leif', 'cardholder', 'leif', 'leif', 46, '${before}', 'Return the card.', '${proof}', '${parts}')`,
    );
    const [finding, ...more] = await services.findings.page(snapshot, {}, "2026-03-01", 10);
    expect(more).toEqual([]);
    expect(finding).toMatchObject({
      rule: "leaver-live",
      subject: { kind: "cardholder", id: "leif" },
      distinct: ["c-leif"],
      risk: 46,
      written: {
        sentence: before,
        remedy: "Return the card.",
        proof: { Status: "left", Credentials: ["c-leif"] },
        terms: [{ what: "the rule itself", points: 46 }],
      },
    });
    expect((await services.findings.counts(snapshot, "2026-03-01")).cannotTell).toEqual([{ rule: "unused", concerned: 3, covered: 12, days: 60, sites: [] }]);
    // Looked for anew they are facts again.
    await lookForFindings(services);
    const again = await services.findings.page(snapshot, {}, "2026-03-01", 100);
    expect(again.length).toBeGreaterThan(0);
    expect(again.every(({ written }) => written === undefined)).toBe(true);
  });
});

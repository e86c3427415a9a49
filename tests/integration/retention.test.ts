import { writeFileSync } from "node:fs";
import path from "node:path";
import { QueryTypes } from "sequelize";
import { afterAll, beforeAll, describe, expect, it } from "@jest/globals";
import { monthsBefore } from "@/core/evidence/retention";
import { applyRetention, setRetention, showRetention } from "@/operations/administration/retention";
import { noteLookUp } from "@/operations/administration/look-ups";
import { decideLine } from "@/operations/certification/decide-line";
import { openRound } from "@/operations/certification/open-round";
import { signDocket } from "@/operations/certification/sign-docket";
import { usualTerms } from "@/core/certification/round-terms";
import { verifyAll } from "@/operations/evidence/verify-all";
import { storeFacility } from "@/operations/intake/store-contents";
import { unwatched } from "@/operations/ports/progress";
import type { Account } from "@/operations/ports/accounts";
import { commentLine } from "@/operations/certification/run-round";
import { storeFile } from "@/operations/intake/intake-file";
import { lookForFindings } from "@/operations/findings/look-for-findings";
import { connect } from "@/data/connection";
import { orchard, orchardEvents } from "../browser/orchard";
import { ownDatabase, ownerOf } from "./own-database";
import type { OwnDatabase } from "./own-database";

let own: OwnDatabase;
let services: OwnDatabase["services"];
let [wilma, dagmar] = [] as unknown as [Account, Account];
let now = Date.parse("2026-03-02T09:00:00.000Z");
const at = (instant: string): number => (now = Date.parse(instant));
const test = { signIn: "test" };
let [round, docket] = [-1, -1];
/** What somebody finds who looks into the tables. */
async function queried<T extends object>(sql: string): Promise<T[]> {
  const database = connect(ownerOf("nomade_retention"), 1);
  try {
    return await database.query<T>(sql, { type: QueryTypes.SELECT });
  } finally {
    await database.close();
  }
}
const verified = () => verifyAll(services);

beforeAll(async () => {
  own = await ownDatabase("nomade_retention");
  services = { ...own.services, now: () => new Date(now).toISOString() };
  [wilma, dagmar] = [await own.account("wilma", "administrator"), await own.account("dagmar", "manager", "dagmar")];
  for (const [i, name] of ["First", "Second", "Third"].entries()) {
    at(`2026-0${i + 2}-02T09:00:00Z`);
    // Iris has another name in each.
    const cardholders = (orchard.cardholders ?? []).map((one) => (one.id === "iris" ? { ...one, name: `Iris of the ${name}` } : one));
    await storeFacility(services, JSON.stringify({ ...orchard, name, cardholders }), "controller", test, unwatched);
    if (i !== 1) continue;
    const snapshot = (await services.snapshots.latest())?.id ?? -1;
    round = await openRound(services, wilma, { name: "Spring", due: "2026-04-01", snapshot, terms: usualTerms }, unwatched);
    for (const one of await services.rounds.dockets({ round })) {
      if (one.account !== dagmar.id) continue;
      docket = one.id;
      for (const { id } of await services.rounds.lines({ docket })) {
        await decideLine(services, dagmar, id, { decision: "keep", reason: "Comes in every day." });
        await commentLine(services, dagmar, id, "Asked Iris of the Second in person.");
      }
      expect((await signDocket(services, dagmar, docket)).outcome).toBe("signed");
    }
  }
  await noteLookUp(services, wilma, "access", { kind: "cardholder", id: "leif", name: "Leif" });
  await noteLookUp(services, wilma, "access", { kind: "cardholder", id: "iris", name: "Iris" });
});
afterAll(() => own.close());

describe("what is past its time", () => {
  it("is set by months, within bounds, shown before it goes, and not applied on the same day", async () => {
    expect((await services.rounds.byId(round))?.closedAt).toBeDefined();
    expect(await setRetention(services, wilma, "snapshots", 13)).toEqual({ outcome: "refused", fewest: 14, most: 1200 });
    at("2027-06-10T09:00:00Z");
    for (const kind of ["snapshots", "rounds"] as const) expect(await setRetention(services, wilma, kind, 14)).toEqual({ outcome: "set" });
    expect(await setRetention(services, wilma, "values", 12)).toEqual({ outcome: "set" });
    expect(await setRetention(services, wilma, "leavers", 12)).toEqual({ outcome: "set" });
    expect((await showRetention(services, wilma)).map(({ kind, due }) => [kind, due])).toEqual([
      ["events", 0],
      // One look-up of somebody who left.
      ["leavers", 1],
      ["values", expect.any(Number)],
      // The second is the round's, for as long as that is kept.
      ["snapshots", 1],
      ["rounds", 1],
    ]);
    expect(await applyRetention(services)).toEqual({});
    expect((await verified()).sound).toBe(true);
  });

  it("goes whole, its hashes stay, and verify says so while everything else still holds", async () => {
    const before = await verified();
    expect([before.sound, before.checked.signedDockets]).toEqual([true, 1]);
    at("2027-06-11T10:00:00Z");
    // The rounds go first, so that nothing holds the second snapshot any more.
    expect(await applyRetention(services)).toMatchObject({ rounds: 1, snapshots: 2, leavers: 1 });
    const after = await verified();
    expect(after.problems).toEqual([]);
    expect([after.sound, after.checked.signedDockets, after.checked.decidedLines]).toEqual([true, 0, 0]);
    expect(after.notes.join(" ")).toMatch(
      /2 snapshots were past the time of retention and dropped whole.* dockets? (was|were) past the time of retention and dropped whole.* entries have their values no more/,
    );
    expect((await services.snapshots.list()).map(({ facilityName }) => facilityName)).toEqual(["Third"]);
    expect([await services.snapshots.byId(1), await services.rounds.byId(round), await services.rounds.list()]).toEqual([undefined, undefined, []]);
    expect(await services.rounds.dockets({ id: docket })).toEqual([]);
    // Again there is nothing to let go, and nothing is said.
    const { entries } = await verified();
    await applyRetention(services);
    expect((await verified()).entries).toBe(entries);
  });

  it("stands in no table any more", async () => {
    const columns = await queried<{ t: string; c: string }>(
      "SELECT table_name AS t, column_name AS c FROM information_schema.columns WHERE table_schema = DATABASE() AND data_type IN ('varchar', 'text', 'mediumtext', 'longtext')",
    );
    expect(columns.length).toBeGreaterThan(100);
    const found: string[] = [];
    for (const { t, c } of columns)
      if ((await queried(`SELECT 1 FROM \`${t}\` WHERE \`${c}\` LIKE '%Iris of the First%' OR \`${c}\` LIKE '%Iris of the Second%' LIMIT 1`)).length > 0)
        found.push(`${t}.${c}`);
    expect(found).toEqual([]);
  });

  it("goes on with the next intake as before", async () => {
    await storeFacility(services, JSON.stringify({ ...orchard, name: "Fourth" }), "controller", test, unwatched);
    expect((await services.snapshots.list()).map(({ facilityName }) => facilityName)).toEqual(["Fourth", "Third"]);
    expect((await verified()).problems).toEqual([]);
  });

  it.each<[string, string, string, RegExp]>([
    [
      "a snapshot dropped without an entry",
      "UPDATE snapshots SET dropped_at = 'x' WHERE id = 3",
      "UPDATE snapshots SET dropped_at = NULL WHERE id = 3",
      /Snapshot 3 is not kept any more, and no entry says/,
    ],
    [
      "the hash of a docket that went",
      "UPDATE dockets SET hash = REVERSE(hash) WHERE hash IS NOT NULL",
      "UPDATE dockets SET hash = REVERSE(hash) WHERE hash IS NOT NULL",
      /Docket \d+ is not kept any more, and no entry says .* or its hash is another one/,
    ],
    [
      "the hash of a snapshot that went",
      "UPDATE snapshots SET hash = REVERSE(hash) WHERE id = 1",
      "UPDATE snapshots SET hash = REVERSE(hash) WHERE id = 1",
      /Snapshot 1 is not kept any more/,
    ],
    [
      "values that nobody let go",
      "UPDATE record_values SET number = 900000 WHERE number = (SELECT MAX(number) FROM record_values)",
      "UPDATE record_values SET number = (SELECT MAX(number) FROM record_entries WHERE values_hash <> '') WHERE number = 900000",
      /1 entry of the record has its values no more, and no time of retention explains it: entry \d+\./,
    ],
    [
      "the same with a row that says that they were let go",
      "INSERT INTO record_values_gone SELECT MAX(v.number), (SELECT MIN(entry) FROM record_values_gone) FROM record_values v",
      "DELETE FROM record_values_gone WHERE number = (SELECT MAX(number) FROM record_values)",
      /Entry \d+ does not say that just the values of these \d+ entries were let go/,
    ],
  ])("is not taken for %s", async (_what, alter, back, problem) => {
    await own.asOwner(alter);
    const found = await verified();
    await own.asOwner(back);
    expect([found.sound, found.problems.join("\n")]).toEqual([false, expect.stringMatching(problem)]);
    expect((await verified()).problems).toEqual([]);
  });

  it("is events of whole months, with all that was counted of them, as if they had never come in", async () => {
    const file = path.join(own.folder, "events.csv");
    writeFileSync(file, orchardEvents());
    await storeFile(services, file, "events.csv", "controller", test, { leaveOut: 0 });
    const months = () =>
      Promise.all(
        ["SELECT second DIV 86400 AS d FROM events", "SELECT date AS d FROM door_dates"].map(async (sql) =>
          (await queried<{ d: number }>(`SELECT MIN(d) AS d, COUNT(*) AS n FROM (${sql}) AS all_of`)).map((row) => row),
        ),
      );
    const before = await months();
    // Events of two hundred days up to 1 March 2026: at the end of May 2027, those of before April 2026 are more than fourteen months old, all of them.
    at("2027-03-20T09:00:00Z");
    await setRetention(services, wilma, "events", 14);
    const due = (await showRetention(services, wilma)).find(({ kind }) => kind === "events")?.due ?? 0;
    at("2027-03-21T10:00:00Z");
    expect(due).toBeGreaterThan(0);
    expect(await services.retention.drop("events", "2026-01-21T10:00:00.000Z", test, services.now())).toBe(due);
    const after = await months();
    // What is left begins with the month in which the instant lies.
    const january = Date.UTC(2026, 0, 1) / 86_400_000;
    expect(after.map(([row]) => Number(row?.d) >= january)).toEqual([true, true]);
    expect(after.map(([row]) => Number((row as unknown as { n: number }).n))).not.toEqual(before.map(([row]) => Number((row as unknown as { n: number }).n)));
    expect((await showRetention(services, wilma)).find(({ kind }) => kind === "events")?.due).toBe(0);
    const [entry] = await services.record.page({ what: "retention.dropped" }, 1);
    expect(entry?.on).toBe(`${due} events of before 2026-01-01`);
    // The same file again brings nothing back.
    expect(await storeFile(services, file, "events.csv", "controller", test, { leaveOut: 0 })).toMatchObject({
      outcome: "unchanged",
    });
    await lookForFindings(services);
    expect((await verified()).problems).toEqual([]);
  });

  it("is never a round of which something withdrawn is not known to be gone", async () => {
    at("2027-07-01T09:00:00Z");
    const snapshot = (await services.snapshots.latest())?.id ?? -1;
    const second = await openRound(services, wilma, { name: "Summer", due: "2027-08-01", snapshot, terms: usualTerms }, unwatched);
    const mine = (await services.rounds.dockets({ round: second })).find(({ account }) => account === dagmar.id)?.id ?? -1;
    for (const [i, { id }] of (await services.rounds.lines({ docket: mine })).entries())
      await decideLine(services, dagmar, id, { decision: i === 0 ? "withdraw" : "keep", reason: "So it is." });
    await signDocket(services, dagmar, mine);
    expect((await services.rounds.byId(second))?.closedAt).toBeDefined();
    at("2030-01-01T09:00:00Z");
    expect(await applyRetention(services)).toMatchObject({ rounds: 0 });
    expect((await verified()).problems).toEqual([]);
  });
});

describe("months before an instant", () => {
  it("are months of the calendar, the last day of a month where it has no such day", () => {
    expect(monthsBefore("2026-03-31T10:00:00.000Z", 1)).toBe("2026-02-28T10:00:00.000Z");
    expect(monthsBefore("2024-03-31T10:00:00.000Z", 1)).toBe("2024-02-29T10:00:00.000Z");
    expect(monthsBefore("2026-01-15T00:00:00.000Z", 14)).toBe("2024-11-15T00:00:00.000Z");
    expect(monthsBefore("2026-12-31T23:59:59.999Z", 1200)).toBe("1926-12-31T23:59:59.999Z");
  });
});

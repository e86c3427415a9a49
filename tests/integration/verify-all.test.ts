import { appendFileSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import path from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "@jest/globals";
import { decideLine } from "@/operations/certification/decide-line";
import { usualTerms } from "@/core/certification/round-terms";
import { openRound } from "@/operations/certification/open-round";
import { AlteredSnapshot } from "@/operations/ports/snapshots";
import type { Verification } from "@/operations/ports/verification";
import { unwatched } from "@/operations/ports/progress";
import { showDocket } from "@/operations/certification/show-docket";
import { signDocket } from "@/operations/certification/sign-docket";
import { storeFacility } from "@/operations/intake/store-contents";
import { verifyAll } from "@/operations/evidence/verify-all";
import { orchard } from "../browser/orchard";
import { ownDatabase } from "./own-database";
import type { OwnDatabase } from "./own-database";

let own: OwnDatabase;
const verified = () => verifyAll(own.services);

beforeAll(async () => {
  own = await ownDatabase("nomade_verify");
  const { services } = own;
  const [tessa, dagmar] = [await own.account("tessa", "reviewer"), await own.account("dagmar", "manager", "dagmar")];
  await storeFacility(services, JSON.stringify({ ...orchard, name: "Before" }), "controller", { signIn: "test" }, unwatched);
  await storeFacility(services, JSON.stringify(orchard), "controller", { signIn: "test" }, unwatched);
  const snapshot = (await services.snapshots.latest())?.id ?? -1;
  const round = await openRound(services, tessa, { name: "Spring", due: "2026-04-01", snapshot, terms: usualTerms }, unwatched);
  const docket = (await services.rounds.dockets({ round, account: { id: dagmar.id, today: "2026-03-02" } }))[0]?.id ?? -1;
  for (const [i, { id }] of ((await showDocket(services, dagmar, docket))?.lines ?? []).entries())
    await decideLine(services, dagmar, id, { decision: i < 2 ? "withdraw" : "keep", reason: `because ${i}` });
  expect((await signDocket(services, dagmar, docket)).outcome).toBe("signed");
});

afterAll(() => own.close());

describe("what a signature rests on", () => {
  it("is compared as a whole, and said by kind", async () => {
    const found = await verified();
    expect(found).toMatchObject({ sound: true, problems: [], notes: [], checked: { snapshots: 2, decidedLines: 7, signedDockets: 1, orders: 2, accounts: 2 } });
    expect(found.checked.registerRows).toBeGreaterThan(40);
  });

  it.each<[string, string, string, RegExp]>([
    [
      "a decision after the signature",
      "UPDATE docket_lines SET decision = 'keep' WHERE position = 0",
      "UPDATE docket_lines SET decision = 'withdraw' WHERE position = 0",
      /Line \d+ of docket \d+ is not as entry \d+ recorded it: decision\..*hash/s,
    ],
    [
      "a reason",
      "UPDATE docket_lines SET reason = 'other' WHERE position = 1",
      "UPDATE docket_lines SET reason = 'because 1' WHERE position = 1",
      /recorded it: reason/,
    ],
    [
      "a line's own words",
      "UPDATE docket_lines SET content = REPLACE(content, 'Barn', 'Barm') WHERE position = 1",
      "UPDATE docket_lines SET content = REPLACE(content, 'Barm', 'Barn') WHERE position = 1",
      /are not those that were signed/,
    ],
    [
      "the signature's hash",
      "UPDATE dockets SET hash = REVERSE(hash)",
      "UPDATE dockets SET hash = REVERSE(hash)",
      /signature of docket \d+ is not as entry \d+ recorded it: hash/,
    ],
    [
      "a signature away",
      "UPDATE dockets SET statement = CONCAT(statement, signed_at), signed_at = NULL",
      "UPDATE dockets SET signed_at = RIGHT(statement, 24), statement = LEFT(statement, CHAR_LENGTH(statement) - 24)",
      /says that docket \d+ was signed; it bears no signature/,
    ],
    [
      "an order",
      "UPDATE orders SET also_lost = '[\"x\"]' WHERE position = 0",
      "UPDATE orders SET also_lost = '[]' WHERE position = 0",
      /orders of docket \d+ are not those/,
    ],
    [
      "whom an order is of",
      "UPDATE orders SET line = line + 4 WHERE position = 0",
      "UPDATE orders SET line = line - 4 WHERE position = 0",
      /Order \d+ is of line \d+ .* was not withdrawn/,
    ],
    [
      "a role",
      "UPDATE accounts SET role = 'administrator' WHERE sign_in = 'dagmar'",
      "UPDATE accounts SET role = 'manager' WHERE sign_in = 'dagmar'",
      /Account dagmar is not as entry \d+ recorded it: role/,
    ],
    [
      "an account into it",
      "INSERT INTO accounts (sign_in, name, role, password_hash) VALUES ('eve', 'Eve', 'administrator', 'x')",
      "DELETE FROM accounts WHERE sign_in = 'eve'",
      /Account eve has no entry/,
    ],
    [
      "a row of the register",
      "UPDATE register_cardholders SET status = 'left' WHERE id = 'nora'",
      "UPDATE register_cardholders SET status = 'active' WHERE id = 'nora'",
      /register_cardholders: rows missing 1, rows that are none of its own 1/,
    ],
    [
      "a row out of the register",
      "UPDATE register_grants SET since_snapshot = since_snapshot + 100",
      "UPDATE register_grants SET since_snapshot = since_snapshot - 100",
      /register_grants: rows missing \d+, rows that are none of its own 0/,
    ],
    ["the head", "UPDATE register_head SET snapshot = 1", "UPDATE register_head SET snapshot = 2", /stands at snapshot 1; the latest is 2/],
    [
      "a snapshot's hash",
      "UPDATE snapshots SET hash = REVERSE(hash) WHERE id = 1",
      "UPDATE snapshots SET hash = REVERSE(hash) WHERE id = 1",
      /Snapshot 1 is not as entry.*hash.*bytes kept of snapshot 1/s,
    ],
    [
      "a snapshot's bytes",
      "UPDATE snapshot_pieces SET bytes = REVERSE(bytes) WHERE snapshot = 1",
      "UPDATE snapshot_pieces SET bytes = REVERSE(bytes) WHERE snapshot = 1",
      /bytes kept of snapshot 1 do not fit its hash/,
    ],
    [
      "the values of an entry away",
      "UPDATE record_values SET number = 900000 WHERE number = 1",
      "UPDATE record_values SET number = 1 WHERE number = 900000",
      /1 entry of the record has its values no more/,
    ],
  ])("is found altered by somebody with all rights: %s", async (_what, alter, back, problem) => {
    await own.asOwner(alter);
    const found = await verified();
    await own.asOwner(back);
    expect(found.sound).toBe(false);
    expect(found.problems.join("\n")).toMatch(problem);
    expect((await verified()).problems).toEqual([]);
  });

  it("says of orders that an older version recorded that it cannot tell", async () => {
    const { services } = own;
    const older = {
      ...services,
      verifying: <T>(read: (store: Verification) => Promise<T>) =>
        services.verifying((store) =>
          read({
            ...store,
            latest: async (what) =>
              new Map(
                [...(await store.latest(what))].map(([on, { number, after }]) => [
                  on,
                  { number, after: what === "docket.signed" ? { ...(after as object), orders: 99, ordersHash: undefined } : after },
                ]),
              ),
          }),
        ),
    };
    expect(await verifyAll(older)).toMatchObject({ sound: true, notes: [expect.stringMatching(/orders of docket \d+ were recorded by an older version/)] });
  });

  it("is not exported where the bytes of a snapshot were altered", async () => {
    await own.asOwner("UPDATE snapshot_pieces SET bytes = REVERSE(bytes) WHERE snapshot = 1");
    await expect(own.services.snapshots.frozen(1)).rejects.toThrow(AlteredSnapshot);
    await own.asOwner("UPDATE snapshot_pieces SET bytes = REVERSE(bytes) WHERE snapshot = 1");
    expect(await own.services.snapshots.frozen(1)).toContain("Before");
  });

  it("tells of heads that are missing, cut short or torn, and refuses those that are none", async () => {
    const file = path.join(own.folder, "record-heads.jsonl");
    const whole = readFileSync(file, "utf8");
    appendFileSync(file, '{"number":12,"ha');
    expect(await verified()).toMatchObject({ sound: true, notes: [expect.stringContaining("torn")] });
    await own.account("after-the-tear", "auditor");
    expect(await verified()).toMatchObject({ sound: true, notes: [expect.stringContaining("torn")] });
    const since = readFileSync(file, "utf8");
    writeFileSync(file, `nothing\n${since}`);
    expect(await verified()).toMatchObject({ sound: false, problems: [expect.stringContaining("Line 1 of the heads")] });
    rmSync(file);
    expect(await verified()).toMatchObject({ sound: true, notes: [expect.stringContaining("no heads beside the database")] });
    writeFileSync(file, whole);
  });
});

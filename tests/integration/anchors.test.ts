import { appendFileSync, readFileSync, writeFileSync } from "node:fs";
import path from "node:path";
import { afterAll, beforeAll, expect, it } from "@jest/globals";
import { anchorFile } from "@/data/anchor-file";
import { anchorDaily } from "@/operations/evidence/anchor-record";
import { verifyAll } from "@/operations/evidence/verify-all";
import { decideLine } from "@/operations/certification/decide-line";
import { openRound } from "@/operations/certification/open-round";
import { signDocket } from "@/operations/certification/sign-docket";
import { usualTerms } from "@/core/certification/round-terms";
import { runClock } from "@/operations/administration/run-clock";
import { storeFacility } from "@/operations/intake/store-contents";
import { listLookUps, noteLookUp } from "@/operations/administration/look-ups";
import { unwatched } from "@/operations/ports/progress";
import type { Account } from "@/operations/ports/accounts";
import { orchard } from "../browser/orchard";
import { ownDatabase } from "./own-database";
import type { OwnDatabase } from "./own-database";

let own: OwnDatabase;
let services: OwnDatabase["services"];
let [wilma, dagmar] = [] as unknown as [Account, Account];
let file: string;
let now = Date.parse("2026-03-02T09:00:00.000Z");

beforeAll(async () => {
  own = await ownDatabase("nomade_anchors");
  const folder = path.join(own.folder, "outside");
  file = path.join(folder, "nomade-anchors.jsonl");
  services = { ...own.services, now: () => new Date(now).toISOString(), anchors: anchorFile(folder) };
  [wilma, dagmar] = [await own.account("wilma", "administrator"), await own.account("dagmar", "manager", "dagmar")];
  await storeFacility(services, JSON.stringify(orchard), "controller", { signIn: "test" }, unwatched);
});

afterAll(() => own.close());

const anchorsOf = () => verifyAll(services).then(({ kinds }) => kinds.find(({ what }) => what === "anchors"));

it("the head of the record is written outside at each signature and once a day, and verify compares", async () => {
  expect(await anchorsOf()).toEqual({ what: "anchors", count: 0 });
  const snapshot = (await services.snapshots.latest())?.id ?? -1;
  const round = await openRound(services, wilma, { name: "Spring", due: "2026-04-01", snapshot, terms: usualTerms }, unwatched);
  const docket = (await services.rounds.dockets({ round })).find(({ account }) => account === dagmar.id)?.id ?? -1;
  for (const { id } of await services.rounds.lines({ docket })) await decideLine(services, dagmar, id, { decision: "keep", reason: "Comes in every day." });
  expect((await signDocket(services, dagmar, docket)).outcome).toBe("signed");
  expect(await anchorsOf()).toEqual({ what: "anchors", count: 1 });
  await anchorDaily(services);
  expect((await services.anchors.read())?.length).toBe(1);
  now += 25 * 3_600_000;
  await services.record.append({ signIn: "test" }, services.now(), { what: "sign-out", on: "account 1" });
  await anchorDaily(services);
  await anchorDaily(services);
  expect((await services.anchors.read())?.length).toBe(2);
  const all = await verifyAll(services);
  expect([all.sound, all.kinds.map(({ what, problem }) => [what, problem])]).toEqual([true, all.kinds.map(({ what }) => [what, undefined])]);
});

it("a record that was written anew as a whole fits itself and the heads beside it, and not the anchors outside", async () => {
  const kept = readFileSync(file, "utf8");
  const [, second = ""] = kept.split("\n");
  writeFileSync(file, kept.replace(second, JSON.stringify({ ...(JSON.parse(second) as object), hash: "0".repeat(64) })));
  expect((await anchorsOf())?.problem).toMatch(/^Entry \d+ is not the one whose hash was written outside \(line 2 of the anchors\)\.$/);
  writeFileSync(file, kept);
  appendFileSync(file, `${JSON.stringify({ at: services.now(), number: 9999, hash: "1".repeat(64) })}\n`);
  // An end that was cut off.
  expect((await anchorsOf())?.problem).toContain("Entry 9999 is not the one");
  writeFileSync(file, `${kept}torn {\n`);
  expect((await anchorsOf())?.problem).toContain("Line 3 of the anchors outside is none");
  writeFileSync(file, kept);
  expect((await verifyAll(services)).sound).toBe(true);
  // What does not hold is told with its kind.
  await own.asOwner("UPDATE accounts SET name = 'Other' WHERE sign_in = 'dagmar'");
  expect((await verifyAll(services)).kinds.find(({ what }) => what === "accounts")?.problem).toContain("Account dagmar is not as entry");
  await own.asOwner("UPDATE accounts SET name = 'dagmar' WHERE sign_in = 'dagmar'");
});

it("the head is mailed where an address is set, at each signature and once a day, and what a mail says is compared", async () => {
  const sent: string[] = [];
  const mailSender = {
    address: "https://n.hazel.test",
    send: ({ toAddress, subject, words }: { readonly toAddress: string; readonly subject: string; readonly words: string }) => {
      sent.push(`${toAddress} ${subject} ${words}`);
      return Promise.resolve();
    },
  };
  const mailing = { ...services, mailSender, anchorAddress: "outside@hazel.test" };
  await runClock(mailing);
  await runClock(mailing);
  expect(sent.length).toBe(1);
  const [, number = "", hash = ""] = /verify --head (\d+):([0-9a-f]{64})/.exec(sent[0] ?? "") ?? [];
  expect(sent[0]).toContain("outside@hazel.test Head of the record: entry");
  now += 25 * 3_600_000;
  await services.record.append({ signIn: "test" }, services.now(), { what: "sign-out", on: "account 1" });
  await runClock(mailing);
  expect(sent.length).toBe(2);
  const held = { number: Number(number), hash };
  expect((await verifyAll(services, [held])).problems).toEqual([]);
  for (const other of [
    { ...held, hash: "0".repeat(64) },
    { ...held, number: held.number + 1 },
    { ...held, number: 99_999 },
  ])
    expect((await verifyAll(services, [other])).problems.join()).toMatch(/Entry \d+ is not the one whose hash was kept outside \(--head\)/);
});

it("who looked up whom is noted, and found by any part of either name", async () => {
  await noteLookUp(services, wilma, "access", { kind: "cardholder", id: "iris", name: "Iris 100% Almondfeld" });
  await noteLookUp(services, wilma, "page", { kind: "door", id: "cellar-door" });
  await noteLookUp(services, dagmar, "events", { kind: "credential", id: "c-nora" });
  const found = async (text: string) => (await listLookUps(services, wilma, text, undefined)).map(({ by, what, id }) => [by, what, id]);
  expect(await found("")).toEqual([
    ["dagmar", "events", "c-nora"],
    ["wilma", "access", "iris"],
  ]);
  expect([await found("ALMOND"), await found("0%"), await found("dagm"), await found("nobody")]).toEqual([
    [["wilma", "access", "iris"]],
    [["wilma", "access", "iris"]],
    [["dagmar", "events", "c-nora"]],
    [],
  ]);
});

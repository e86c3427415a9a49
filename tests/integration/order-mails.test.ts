import path from "node:path";
import { afterAll, beforeAll, expect, it } from "@jest/globals";
import { parse } from "csv-parse/sync";
import { stringify } from "csv-stringify/sync";
import { mailSender } from "@/data/mail-sender";
import { runClock } from "@/operations/administration/run-clock";
import { answerOrders } from "@/operations/certification/answer-orders";
import { decideLine } from "@/operations/certification/decide-line";
import { openRound } from "@/operations/certification/open-round";
import { previewSending, sendOrders } from "@/operations/certification/send-orders";
import { signDocket } from "@/operations/certification/sign-docket";
import { showRound } from "@/operations/certification/show-rounds";
import { usualTerms } from "@/core/certification/round-terms";
import { setOrdersTo } from "@/operations/intake/list-sources";
import { storeFacility } from "@/operations/intake/store-contents";
import { unwatched } from "@/operations/ports/progress";
import type { Account } from "@/operations/ports/accounts";
import type { Outbox } from "@/operations/ports/mail";
import { outboxOf } from "@/standins/mail-outbox";
import { startMailServer } from "@/standins/mail-server";
import { orchard } from "../browser/orchard";
import { ownDatabase } from "./own-database";
import type { OwnDatabase } from "./own-database";

let own: OwnDatabase;
let services: OwnDatabase["services"];
let outbox: Outbox;
let server: Awaited<ReturnType<typeof startMailServer>>;
let [wilma, dagmar] = [] as unknown as [Account, Account];
let now = Date.parse("2026-03-02T09:00:00.000Z");
let round = -1;

beforeAll(async () => {
  own = await ownDatabase("nomade_order_mails");
  const folder = path.join(own.folder, "standin-mail");
  server = await startMailServer(folder, 0);
  outbox = outboxOf(folder);
  const settings = {
    host: "127.0.0.1",
    port: server.port,
    user: undefined,
    password: undefined,
    from: "n@hazel.test",
    address: "https://n.hazel.test",
    isLoopback: true,
  };
  services = { ...own.services, now: () => new Date(now).toISOString(), mailSender: mailSender(settings) };
  [wilma, dagmar] = [await own.account("wilma", "administrator"), await own.account("dagmar", "manager", "dagmar")];
  await storeFacility(services, JSON.stringify(orchard), "controller", { signIn: "test" }, unwatched);
  const snapshot = (await services.snapshots.latest())?.id ?? -1;
  round = await openRound(services, wilma, { name: "Spring", due: "2026-03-16", snapshot, terms: usualTerms }, unwatched);
  const docket = (await services.rounds.dockets({ round })).find(({ account }) => account === dagmar.id)?.id ?? -1;
  for (const { id } of await services.rounds.lines({ docket }))
    await decideLine(services, dagmar, id, { decision: "withdraw", reason: "Works in the office now, says Nora 0124." });
  expect((await signDocket(services, dagmar, docket)).outcome).toBe("signed");
});
afterAll(async () => {
  await server.stop();
  await own.close();
});

const rowsOf = (text: string) => parse<Record<string, string>>(text, { columns: true });

it("orders go to the address of their source, in its language, with a table that says nothing personal beyond names", async () => {
  for (const address of ["nobody", "a@b\r\nBcc: thief@hazel.test", "a@b, c@d"])
    expect(await setOrdersTo(services, wilma, "controller", { address, language: "en" })).toBe(false);
  expect(await setOrdersTo(services, wilma, "nowhere", { address: "a@hazel.test", language: "en" })).toBe(false);
  expect(await setOrdersTo(services, wilma, "controller", { address: "controller@hazel.test", language: "de" })).toBe(true);
  const preview = await previewSending(services, wilma, round);
  const sent = await sendOrders(services, wilma, round, preview?.snapshot ?? -1);
  expect(sent).toMatchObject({ outcome: "sent", mailedTo: ["controller"] });
  await runClock(services);
  const [mail] = (await outbox.list(10)).filter(({ to }) => to.includes("controller@hazel.test"));
  expect(mail?.subject).toMatch(/^Bitte .* ausführen bis .* 2026: Spring$/);
  const [table, ...more] = mail?.attachments ?? [];
  expect([table?.name, more]).toEqual([`orders-${round}.csv`, []]);
  const rows = rowsOf(table?.text ?? "");
  expect(rows.length).toBe(sent.outcome === "sent" ? sent.orders : -1);
  expect(mail?.words).toContain(rows.map(({ order }) => order).join(", "));
  for (const row of rows) expect([row.staff_number, row.reason, row.do === ""]).toEqual(["", "", false]);
  expect(`${mail?.words ?? ""}${table?.text ?? ""}`).not.toMatch(/0124|office/);
  expect((await showRound(services, wilma, round))?.mails?.some(({ kind, sentAt }) => kind === "orders" && sentAt !== undefined)).toBe(true);
});

it("what is due and not answered is reminded of once; the table comes back as an answer", async () => {
  const mails = async () => (await outbox.list(50)).filter(({ to }) => to.includes("controller@hazel.test"));
  const due =
    (await services.orders.ofRound(round))
      .flatMap((order) => order.due ?? [])
      .sort()
      .at(-1) ?? "";
  now = Date.parse(`${due}T09:00:00Z`);
  await runClock(services);
  expect((await mails()).length).toBe(1);
  now += 86_400_000;
  await runClock(services);
  await runClock(services);
  const [reminder, ...before] = await mails();
  expect([before.length, reminder?.subject]).toEqual([1, expect.stringMatching(/^Überfällig, war fällig am /)]);
  const rows = rowsOf(reminder?.attachments?.[0]?.text ?? "").map((row) => ({ ...row, answer: "done" }));
  expect(await answerOrders(services, wilma, round, stringify(rows, { header: true }))).toMatchObject({ outcome: "answered", done: rows.length });
  now += 30 * 86_400_000;
  await runClock(services);
  expect((await mails()).length).toBe(2);
});

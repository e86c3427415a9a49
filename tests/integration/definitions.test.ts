import { afterAll, beforeAll, expect, it } from "@jest/globals";
import type { FacilityDocument } from "@/core/facility/document";
import { isDefinition } from "@/core/certification/line-content";
import { usualTerms } from "@/core/certification/round-terms";
import { answerOrders } from "@/operations/certification/answer-orders";
import { closeRound } from "@/operations/certification/close-round";
import { decideLine, keepUnremarkable, passOnLine } from "@/operations/certification/decide-line";
import { exportLines, listLines } from "@/operations/certification/list-lines";
import { narrowLine, showNarrowings } from "@/operations/certification/narrow-line";
import { openRound } from "@/operations/certification/open-round";
import { previewRound } from "@/operations/certification/preview-round";
import { askToClose, giveDocket } from "@/operations/certification/run-round";
import { previewSending, sendOrders } from "@/operations/certification/send-orders";
import { showDocket } from "@/operations/certification/show-docket";
import { showRound } from "@/operations/certification/show-rounds";
import { signDocket } from "@/operations/certification/sign-docket";
import { showWithdrawal } from "@/operations/certification/withdrawals";
import { verifyAll } from "@/operations/evidence/verify-all";
import { storeFacility } from "@/operations/intake/store-contents";
import type { Account } from "@/operations/ports/accounts";
import { unwatched } from "@/operations/ports/progress";
import { linesCsv } from "@/papers/tables/lines-csv";
import { orchard } from "../browser/orchard";
import { ownDatabase } from "./own-database";
import type { OwnDatabase } from "./own-database";

let own: OwnDatabase;
let services: OwnDatabase["services"];
let [tessa, wilma, dagmar, otto] = [] as unknown as [Account, Account, Account, Account];
let now = "2026-03-02T09:00:00.000Z";

const document: FacilityDocument = {
  ...orchard,
  areas: (orchard.areas ?? []).map((area) => ({ ...area, owner: area.id === "cellar" ? "otto" : "dagmar" })),
  cardholders: (orchard.cardholders ?? []).map((one) => (one.id === "dagmar" ? { ...one, override: true as const } : one)),
  credentials: [
    ...(orchard.credentials ?? []),
    { id: "c-dagmar", cardholder: "dagmar", kind: "card", status: "active", from: "2025-01-01" },
    ...[1, 2, 3].map((n) => ({ id: `box-${n}`, kind: "card" as const, status: "stock" as const, number: `5000${n}`, facilityCode: "87" })),
  ],
};

const intake = (changed: Partial<FacilityDocument>) =>
  storeFacility(services, JSON.stringify({ ...document, ...changed }), "controller", { signIn: "test" }, unwatched);

beforeAll(async () => {
  own = await ownDatabase("nomade_definitions");
  services = { ...own.services, now: () => now };
  [tessa, wilma, dagmar, otto] = [
    await own.account("tessa", "reviewer"),
    await own.account("wilma", "administrator"),
    await own.account("dagmar", "manager", "dagmar"),
    await own.account("otto", "owner", "otto"),
  ];
  await intake({});
});

afterAll(() => own.close());

const present = async (): Promise<number> => (await services.snapshots.latest())?.id ?? -1;
const terms = { ...usualTerms, scope: { definitions: "only" as const } };
const open = async () => openRound(services, tessa, { name: "Definitions", due: "2026-04-01", snapshot: await present(), terms }, unwatched);
async function docketOf(round: number, of: Account) {
  const docket = (await services.rounds.dockets({ round })).find(({ account }) => account === of.id);
  const shown = docket && (await showDocket(services, of, docket.id));
  if (!shown) throw new Error(`${of.signIn} has no docket.`);
  return shown;
}
async function lineOf(round: number, of: Account, key: string) {
  const found = (await docketOf(round, of)).lines.find(({ line: { subject } }) => `${subject.kind} ${subject.id}` === key);
  if (!found) throw new Error(`${of.signIn} has no ${key}.`);
  return found;
}
const state = async (round: number) => (await showRound(services, tessa, round))?.wishList.map(({ state: of, check }) => [of, check?.found.outcome]);

let round: number;

it("a round of definitions asks the owners of the areas concerned, of a privilege nobody who has it, and says beforehand how many", async () => {
  const preview = await previewRound(services, tessa, terms, unwatched);
  expect([preview?.lines, preview?.definitions]).toEqual([preview?.choices.definitions, preview?.choices.definitions]);
  const too = await previewRound(services, tessa, { ...terms, scope: { definitions: "too" } }, unwatched);
  expect((too?.lines ?? 0) - (preview?.lines ?? 0)).toBe(too?.all);
  round = await open();
  const keys = async (of: Account) => (await docketOf(round, of)).lines.map(({ line: { subject } }) => `${subject.kind} ${subject.id}`).sort();
  expect(await keys(otto)).toEqual(["calendar days", "privilege override"]);
  expect(await keys(dagmar)).toEqual(["calendar days", "level barn-day"]);
  // Cards that open nothing concern no area: they fall to the reviewer.
  expect(await keys(tessa)).toEqual(["stock card"]);
  const stock = (await lineOf(round, tessa, "stock card")).line;
  expect(isDefinition(stock) && stock.definition).toMatchObject({
    states: [{ status: "stock", count: 3, opening: 0 }],
    ranges: [{ first: "50001", last: "50003", count: 3 }],
  });
});

it("a definition stays as it is, or needs changing in words that say something; nothing of it can be narrowed, and it is passed on to nobody who has it", async () => {
  const level = await lineOf(round, dagmar, "level barn-day");
  const decide = (decision: "keep" | "withdraw", reason: string) => decideLine(services, dagmar, level.id, { decision, reason });
  expect(await decide("withdraw", "")).toEqual({ outcome: "refused", why: "task-needed" });
  expect(await decide("withdraw", "ok")).toEqual({ outcome: "refused", why: "task-needed" });
  expect(await narrowLine(services, dagmar, level.id, { kind: "hours", schedule: "night" }, "By night.")).toEqual({
    outcome: "refused",
    why: "nothing-to-narrow",
  });
  expect([await showNarrowings(services, dagmar, level.id), await showWithdrawal(services, dagmar, level.id)]).toEqual([undefined, undefined]);
  const privilege = await lineOf(round, otto, "privilege override");
  const hers = await docketOf(round, dagmar);
  expect(await passOnLine(services, otto, privilege.id, hers.docket.id, "")).toEqual({ outcome: "refused", why: "not-a-certifier" });
  expect(await giveDocket(services, tessa, (await docketOf(round, otto)).docket.id, "dagmar")).toBe("same-person");
  expect(await decide("withdraw", "Let it open from nine, not from eight.")).toEqual({ outcome: "decided", count: 1 });
  expect(await decideLine(services, dagmar, (await lineOf(round, dagmar, "calendar days")).id, { decision: "keep", reason: "" })).toEqual({
    outcome: "decided",
    count: 1,
  });
  const signed = await signDocket(services, dagmar, hers.docket.id, "de");
  expect(signed).toMatchObject({
    outcome: "signed",
    orders: 1,
    statement: "Ich, dagmar, habe jede dieser 2 Zeilen angesehen. Von 2 Festlegungen: 1 ist, wie sie sein soll; 1 ist zu ändern.",
  });
  const [order] = await services.orders.ofRound(round);
  expect([order?.source, order?.described]).toEqual([
    "controller",
    { task: "Let it open from nine, not from eight.", subject: { kind: "level", id: "barn-day", name: "Barn by day" } },
  ]);
});

it("what nobody decided in time counts as the round's rule says, a definition as something to be looked at", async () => {
  const other = await openRound(
    services,
    tessa,
    { name: "Short", due: "2026-03-03", snapshot: await present(), terms: { ...terms, undecided: "withdraw" } },
    unwatched,
  );
  await askToClose(services, tessa, other, "Nobody had time for it.");
  expect(await closeRound(services, wilma, other)).toBeUndefined();
  const tasks = (await services.orders.ofRound(other)).map(({ described }) => "task" in described && [described.subject.kind, described.task !== ""]);
  expect(tasks.sort()).toEqual([
    ["calendar", true],
    ["calendar", true],
    ["level", true],
    ["privilege", true],
    ["stock", true],
  ]);
});

it("whether it was changed is told by the register, whether as asked by its source", async () => {
  const preview = await previewSending(services, wilma, round);
  expect([preview?.asOrdered.length, preview?.otherwise, preview?.unknown]).toEqual([1, [], []]);
  expect(await sendOrders(services, wilma, round, preview?.snapshot ?? -1)).toEqual({ outcome: "sent", orders: 1, mailedTo: [] });
  now = "2026-03-10T09:00:00.000Z";
  await intake({ asOf: "2026-03-10T06:00:00Z" });
  expect(await state(round)).toEqual([["not-done", "unaltered"]]);
  const later = (asOf: string): Partial<FacilityDocument> => ({
    asOf,
    schedules: (document.schedules ?? []).map((one) =>
      one.id === "day" ? { ...one, week: Object.fromEntries(Object.keys(one.week ?? {}).map((day) => [day, [["09:00", "18:00"]]])) } : one,
    ),
  });
  now = "2026-03-12T09:00:00.000Z";
  await intake(later("2026-03-12T06:00:00Z"));
  expect(await state(round)).toEqual([["altered", "altered"]]);
  const [order] = await services.orders.ofRound(round);
  expect(await answerOrders(services, wilma, round, `order,answer\n${order?.id ?? 0},done\n`)).toMatchObject({ outcome: "answered", done: 1 });
  now = "2026-03-13T09:00:00.000Z";
  await intake(later("2026-03-13T06:00:00Z"));
  expect(await state(round)).toEqual([["done", "task-done"]]);
});

it("the next round says what changed since, and keeps together what is as somebody found it right", async () => {
  const next = await open();
  const level = (await lineOf(next, dagmar, "level barn-day")).line;
  if (!isDefinition(level)) throw new Error("a level is a definition");
  expect(level.since?.at).toBe("2026-03-02T09:00:00.000Z");
  expect(level.since?.changes).toEqual([
    {
      do: "altered",
      part: { id: "barn-door", name: "Barn door" },
      was: expect.objectContaining({ words: expect.stringContaining("08–18") as unknown as string }) as object,
      is: expect.objectContaining({ words: expect.stringContaining("09–18") as unknown as string }) as object,
    },
  ]);
  const calendar = (await lineOf(next, dagmar, "calendar days")).line;
  expect([isDefinition(calendar) && calendar.since?.count, isDefinition(calendar) && calendar.keptBefore]).toEqual([0, "2026-03-02T09:00:00.000Z"]);
  const hers = (await docketOf(next, dagmar)).docket.id;
  expect(await keepUnremarkable(services, dagmar, hers, { kind: "definitions", id: "level" })).toEqual({ outcome: "decided", count: 0 });
  expect(await keepUnremarkable(services, dagmar, hers, { kind: "definitions", id: "calendar" })).toEqual({ outcome: "decided", count: 1 });
  // Otto never signed: nothing of his was certified by him.
  const his = (await lineOf(next, otto, "calendar days")).line;
  expect(isDefinition(his) && his.keptBefore).toBeUndefined();
});

it("the lines behind every number of a round are listed, and handed out", async () => {
  const count = async (filter: Parameters<typeof listLines>[3]) => (await listLines(services, tessa, round, filter, 0))?.total;
  const [all, withdrawn, undecided, ofNone] = await Promise.all([
    count({}),
    count({ decision: "withdraw" }),
    count({ decision: "undecided" }),
    count({ department: null }),
  ]);
  expect([all, withdrawn, undecided, ofNone]).toEqual([5, 1, 3, 0]);
  expect(await count({ definitions: true, decision: "decided" })).toBe(2);
  const departments = (await showRound(services, tessa, round))?.departments;
  expect(departments).toEqual([expect.objectContaining({ isDefinitions: true, lines: 5, decided: 2, withdrawn: 1 })]);
  const exported = await exportLines(services, tessa, round, { decision: "withdraw" });
  expect(linesCsv(exported?.lines ?? [], exported?.timeZone ?? "UTC")).toContain("needs changing");
  expect(await listLines(services, tessa, 999, {}, 0)).toBeUndefined();
  expect(await verifyAll(services)).toMatchObject({ sound: true, problems: [] });
});

it("a line of access says since when it opens, as far as it was looked back", async () => {
  const grants = (document.grants ?? []).concat([{ id: "leif-again", to: { cardholder: "nora" }, open: { door: "cellar-door" }, schedule: "day" }]);
  now = "2026-03-20T09:00:00.000Z";
  const newcomer = [...(document.cardholders ?? []), { id: "pia", name: "Pia Quill", status: "active" as const, department: "press" }];
  await intake({
    asOf: "2026-03-20T06:00:00Z",
    grants,
    cardholders: newcomer,
    credentials: [...(document.credentials ?? []), { id: "c-pia", cardholder: "pia", kind: "card", status: "active" }],
  });
  const access = await openRound(services, tessa, { name: "Access", due: "2026-04-01", snapshot: await present(), terms: usualTerms }, unwatched);
  const lines = (await services.rounds.lines({ round: access })).flatMap(({ line }) => (isDefinition(line) || line.subject.kind !== "area" ? [] : [line]));
  const since = (cardholder: string) => lines.find((line) => line.cardholder === cardholder)?.since;
  expect([since("iris"), since("pia")]).toEqual([{ from: "2026-03-01" }, { from: "2026-03-20", notYet: "2026-03-13" }]);
});

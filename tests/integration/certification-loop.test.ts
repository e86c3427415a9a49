import { afterAll, beforeAll, describe, expect, it } from "@jest/globals";
import type { FacilityChange } from "@/core/facility/facility-change";
import { isDefinition } from "@/core/certification/line-content";
import { isDescribed } from "@/core/certification/withdrawal/described-change";
import { withChanges } from "@/core/facility/facility-change";
import type { Cardholder, FacilityDocument } from "@/core/facility/document";
import type { Facility } from "@/core/facility/facility";
import type { OwnershipProfile } from "@/core/facility/ownership";
import type { RoundTerms } from "@/core/certification/round-terms";
import { usualTerms } from "@/core/certification/round-terms";
import { answerOrders } from "@/operations/certification/answer-orders";
import { applyOwnOrders } from "@/operations/certification/apply-orders";
import { closeRound } from "@/operations/certification/close-round";
import { decideLine, passOnLine, undoDecision } from "@/operations/certification/decide-line";
import { narrowLine, showNarrowings } from "@/operations/certification/narrow-line";
import { setOccasion } from "@/operations/certification/occasions";
import { openRound } from "@/operations/certification/open-round";
import { previewRound } from "@/operations/certification/preview-round";
import { addSubstitute, askToClose, commentLine, correctDocket, giveDocket, releaseDockets } from "@/operations/certification/run-round";
import { previewSending, sendOrders } from "@/operations/certification/send-orders";
import { myDockets, showDocket } from "@/operations/certification/show-docket";
import type { ShownDocket } from "@/operations/certification/show-docket";
import { exportOrders, listRounds, showRound } from "@/operations/certification/show-rounds";
import { signDocket } from "@/operations/certification/sign-docket";
import { showWithdrawal } from "@/operations/certification/withdrawals";
import { verifyAll } from "@/operations/evidence/verify-all";
import { storeFacility } from "@/operations/intake/store-contents";
import type { Account } from "@/operations/ports/accounts";
import { unwatched } from "@/operations/ports/progress";
import { changeWords } from "@/features/words/changes";
import { ordersCsv } from "@/papers/tables/orders-csv";
import { parse } from "csv-parse/sync";
import { orchard } from "../browser/orchard";
import { ownDatabase } from "./own-database";
import type { OwnDatabase } from "./own-database";

let own: OwnDatabase;
let services: OwnDatabase["services"];
let [tessa, wilma, dagmar, otto, nora] = [] as unknown as [Account, Account, Account, Account, Account];
/** The clock of the test: after the export of the document, so that what is sent is older than what comes. */
let now = "2026-03-02T09:00:00.000Z";

/** The orchard with an owner of its cellar, and everybody at its barn. */
const document: FacilityDocument = {
  ...orchard,
  areas: (orchard.areas ?? []).map((area) => (area.id === "cellar" ? { ...area, owner: "otto" } : area)),
};

const intake = (changed: Partial<FacilityDocument>, source = "controller") =>
  storeFacility(services, JSON.stringify({ ...document, ...changed }), source, { signIn: "test" }, unwatched);

beforeAll(async () => {
  own = await ownDatabase("nomade_loop");
  services = { ...own.services, now: () => now };
  [tessa, wilma, dagmar, otto, nora] = [
    await own.account("tessa", "reviewer"),
    await own.account("wilma", "administrator"),
    await own.account("dagmar", "manager", "dagmar"),
    await own.account("otto", "owner", "otto"),
    await own.account("nora", "manager", "nora"),
  ];
  await intake({});
  // The controlling system knows grants that shut a door.
  await knowsBlocks(true);
});

const knowsBlocks = (blocks: boolean, more: OwnershipProfile = {}) =>
  services.sources.putOwns("controller", { ...more, ...(blocks && { grants: { blocks } }) }, { signIn: "test" }, services.now());

afterAll(() => own.close());

const present = async (): Promise<number> => (await services.snapshots.latest())?.id ?? -1;
const open = async (terms: Partial<RoundTerms> = {}, more: { pilot?: string } = {}): Promise<number> =>
  openRound(services, tessa, { name: "Spring", due: "2026-04-01", snapshot: await present(), terms: { ...usualTerms, ...terms }, ...more }, unwatched);
async function docketOf(round: number, of: Account): Promise<ShownDocket> {
  const docket = (await services.rounds.dockets({ round })).find(({ account }) => account === of.id);
  const shown = docket && (await showDocket(services, of, docket.id));
  if (!shown) throw new Error(`${of.signIn} has no docket.`);
  return shown;
}
const lineOf = ({ lines }: ShownDocket, holder: string, subject: string): number =>
  lines.find(({ holderName, line }) => holderName.includes(holder) && line.subject.name.includes(subject))?.id ?? -1;
async function keepRest(of: Account, docket: number): Promise<void> {
  for (const { id, decision } of (await showDocket(services, of, docket))?.lines ?? [])
    if (decision === undefined) await decideLine(services, of, id, { decision: "keep", reason: "Works there every week." });
}
/** A document as the controlling system would write it after it carried out orders from the CSV that it was sent. */
function carriedOut(csv: string, of: FacilityDocument, take: (holder: string) => boolean): FacilityDocument {
  const rows = parse(csv, { columns: true }) as unknown as Record<string, string>[];
  const changes = rows
    .filter(({ holder = "" }) => take(holder.replace(/^'/, "")))
    .map(({ do: what, list, id, group, cardholder, from, until, object }): FacilityChange => {
      const membership = { group, cardholder, ...(from !== "" && { from }), ...(until !== "" && { until }) };
      const target = list === "memberships" ? { list, membership } : { list, id };
      return { do: what, ...target, ...(object !== "" && { object: JSON.parse(object ?? "") as object }) } as unknown as FacilityChange;
    });
  return withChanges(of as Facility, changes);
}

describe("from a round to the proof that what was withdrawn is gone", () => {
  let round: number;
  let csv: string;

  it("takes decisions of every kind, each until it is signed", async () => {
    round = await open();
    const docket = await docketOf(round, dagmar);
    const [iris, barn] = [lineOf(docket, "Iris", "Cider cellar"), lineOf(docket, "Iris", "Barn")];
    // What may stay is a schedule of the register that leaves some of it.
    expect((await showNarrowings(services, dagmar, iris))?.schedules.map(({ id }) => id)).toEqual(["night", "day"]);
    expect(await narrowLine(services, dagmar, iris, { kind: "hours", schedule: "nix" }, "By day is enough.")).toEqual({
      outcome: "refused",
      why: "nothing-to-narrow",
    });
    expect(await narrowLine(services, dagmar, iris, { kind: "hours", until: "2026-01-01" }, "By day is enough.")).toEqual({
      outcome: "refused",
      why: "nothing-to-narrow",
    });
    expect(await narrowLine(services, dagmar, iris, { kind: "doors", shut: ["cellar-door"] }, "By day is enough.")).toEqual({
      outcome: "refused",
      why: "nothing-to-narrow",
    });
    expect(await narrowLine(services, dagmar, barn, { kind: "hours", schedule: "day" }, "By day is enough.")).toEqual({
      outcome: "refused",
      why: "nothing-to-narrow",
    });
    expect(await narrowLine(services, otto, iris, { kind: "hours", schedule: "day" }, "By day is enough.")).toEqual({ outcome: "refused", why: "not-yours" });
    expect(await narrowLine(services, dagmar, iris, { kind: "hours", schedule: "day" }, "By day is enough.")).toEqual({ outcome: "decided", count: 1 });
    // What it does is told beside it: what stays of the week, and what goes.
    const effect = await showWithdrawal(services, dagmar, iris, { kind: "hours", schedule: "day" });
    expect(effect?.weeks).toMatchObject([{ doors: ["cellar-door"], before: [0, 10080] }]);
    expect(effect?.weeks[0]?.after.length).toBe(10);
    expect(await decideLine(services, dagmar, barn, { decision: "withdraw", reason: "" })).toEqual({ outcome: "decided", count: 1 });
    // Taken back, and decided anew.
    expect(await undoDecision(services, dagmar, barn)).toEqual({ outcome: "decided", count: 1 });
    expect((await docketOf(round, dagmar)).docket.decided).toBe(1);
    await decideLine(services, dagmar, barn, { decision: "withdraw", reason: "" });
    await decideLine(services, dagmar, lineOf(docket, "Nora", "Barn"), { decision: "withdraw", reason: "" });
    await decideLine(services, dagmar, lineOf(docket, "Otto", "Barn"), { decision: "withdraw", reason: "" });
    await keepRest(dagmar, docket.docket.id);
    expect(await commentLine(services, dagmar, iris, "She asked for it herself.")).toBeUndefined();
    expect(await commentLine(services, otto, iris, "Hello.")).toBe("no-round");
    const signed = await signDocket(services, dagmar, docket.docket.id);
    if (signed.outcome !== "signed") throw new Error(JSON.stringify(signed));
    expect(signed.statement).toBe("I, dagmar, have looked at each of these 7 lines. 3 are needed and stay; 1 stays in part only; 3 are to be withdrawn.");
    expect((await docketOf(round, dagmar)).lines.find(({ id }) => id === iris)).toMatchObject({
      decision: "narrow",
      narrowing: { kind: "hours", schedule: "day" },
      comments: [{ by: "dagmar", words: "She asked for it herself." }],
    });
    // Every docket is signed, and so the round is closed by its rule.
    expect((await services.rounds.byId(round))?.closedAt).toBe(now);
    expect(await verifyAll(services)).toMatchObject({ sound: true, problems: [] });
  });

  it("sends its orders to their source, planned anew on the present register", async () => {
    expect((await showRound(services, tessa, round))?.wishes).toEqual({ of: 4, by: { "not-sent": 4 }, openDays: undefined });
    const preview = await previewSending(services, tessa, round);
    expect([preview?.otherwise, preview?.unknown, preview?.asOrdered.map(({ source }) => source)]).toEqual([
      [],
      [],
      Array(preview?.asOrdered.length).fill("controller"),
    ]);
    expect(await sendOrders(services, tessa, round, preview?.snapshot ?? -1)).toEqual({ outcome: "sent", orders: preview?.asOrdered.length, mailedTo: [] });
    expect(await sendOrders(services, tessa, round, preview?.snapshot ?? -1)).toEqual({ outcome: "refused", why: "nothing-to-send" });
    csv = ordersCsv((await exportOrders(services, tessa, round)) ?? []);
    // The source answers with a table, whatever else that has.
    const [first, second] = (await services.orders.ofRound(round)).map(({ id }) => id);
    expect(await answerOrders(services, tessa, round, `order,answer,note\r\n${first},done,\r\n99999,done,\r\n${second},perhaps,`)).toEqual({
      outcome: "refused",
      issues: [
        { line: 3, column: "order", value: "99999", expected: "the number of an order of this round that stands" },
        { line: 4, column: "answer", value: "perhaps", expected: "done or refused" },
      ],
    });
    // What would not fit is not cut, and nothing of the rest is taken.
    expect(await answerOrders(services, tessa, round, `order,answer,note,ticket\r\n${first},done,${"x".repeat(2001)},T-6`)).toMatchObject({
      outcome: "refused",
      issues: [{ line: 2, column: "note", expected: "at most 2,000 characters" }],
    });
    expect((await services.orders.ofRound(round))[0]).toMatchObject({ ticket: undefined, answer: undefined });
    expect(await answerOrders(services, tessa, round, "answer\r\ndone")).toMatchObject({ outcome: "refused", issues: [{ column: "order" }] });
    expect(await answerOrders(services, tessa, round, `order,ticket,answer,note\r\n${first},T-7,done,\r\n${second},,refused,"no such, here"\r\n`)).toEqual({
      outcome: "answered",
      done: 1,
      refused: 1,
    });
    expect((await services.orders.ofRound(round)).slice(0, 2)).toMatchObject([
      { ticket: "T-7", answer: { said: "done" } },
      { answer: { said: "refused", note: "no such, here" } },
    ]);
  });

  it("says after each intake what became of it, by what opens", async () => {
    const states = async () =>
      Object.fromEntries(((await showRound(services, tessa, round))?.wishList ?? []).map((wish) => [`${wish.holderName}: ${wish.subject.name}`, wish.state]));
    // An edit of another source closes nothing.
    now = "2026-03-05T09:00:00.000Z";
    await intake({ asOf: "2026-03-05T06:00:00Z" });
    const [irisCellar, irisBarn, noraBarn, ottoBarn] = [
      "Iris Almondfeld: Cider cellar",
      "Iris Almondfeld: Barn",
      "Nora Mosstrand: Barn",
      "=Otto Rushgaard: Barn",
    ];
    expect(await states()).toEqual({ [irisCellar]: "not-done", [irisBarn]: "not-done", [noraBarn]: "not-done", [ottoBarn]: "not-done" });
    // The source carries out what it was sent of one person; of another it takes the record away and leaves another path; a third one's card is suspended.
    now = "2026-03-14T09:00:00.000Z";
    const changed = carriedOut(csv, document, (holder) => holder.startsWith("Iris") || holder.startsWith("Nora"));
    const again = { id: "iris-again", to: { cardholder: "iris" }, open: { area: "cellar" }, schedule: "always" };
    const asleep = (changed.credentials ?? []).map((card) => (card.cardholder === "otto" ? { ...card, status: "suspended" as const } : card));
    const stored = await storeFacility(
      services,
      JSON.stringify({ ...changed, asOf: "2026-03-14T06:00:00Z", grants: [...(changed.grants ?? []), again], credentials: asleep }),
      "controller",
      { signIn: "test" },
      unwatched,
    );
    expect(stored).toMatchObject({ outcome: "stored" });
    expect(await states()).toEqual({ [irisCellar]: "record-gone", [irisBarn]: "done", [noraBarn]: "done", [ottoBarn]: "asleep" });
    expect((await showRound(services, tessa, round))?.wishes).toEqual({ of: 4, by: { done: 2, "record-gone": 1, asleep: 1 }, openDays: 12 });
    const found = (await showRound(services, tessa, round))?.wishList.find(({ subject }) => subject.name === "Cider cellar")?.check;
    expect(found).toMatchObject({ found: { by: [{ kind: "grant", grant: "iris-again" }] }, names: { "door cellar-door": "Cellar door" } });
    // What was done is there again.
    now = "2026-03-20T09:00:00.000Z";
    await intake({ asOf: "2026-03-20T06:00:00Z" });
    expect(await states()).toEqual({ [irisCellar]: "not-done", [irisBarn]: "returned", [noraBarn]: "returned", [ottoBarn]: "not-done" });
    expect((await listRounds(services, tessa)).find(({ round: { id } }) => id === round)?.wishes.by).toEqual({ returned: 2, "not-done": 2 });
    expect(await verifyAll(services)).toMatchObject({ sound: true, problems: [] });
  });

  it("carries out itself what no source brings, and checks it at once", async () => {
    const group = { id: "watch", name: "Frost watch" };
    const brought = { ...document, asOf: "2026-03-21T06:00:00Z", groups: [...(document.groups ?? []).filter(({ id }) => id !== "watch"), group] };
    await storeFacility(services, JSON.stringify(brought), "controller", { signIn: "test" }, unwatched, { owns: { memberships: { fields: [] } }, leaveOut: 0 });
    const latest = await services.snapshots.latest();
    expect(latest?.source).toBe("controller");
    const terms = { scope: { about: { kind: "cardholder", id: "nora" } as const } };
    const ofNora = await open(terms);
    const docket = await docketOf(ofNora, dagmar);
    await decideLine(services, dagmar, lineOf(docket, "Nora", "Cider cellar"), { decision: "withdraw", reason: "" });
    await keepRest(dagmar, docket.docket.id);
    await knowsBlocks(false, { memberships: { fields: [] } });
    expect((await signDocket(services, dagmar, docket.docket.id)).outcome).toBe("signed");
    const [order] = await services.orders.ofRound(ofNora);
    expect([order?.source, order && isDescribed(order.described) && order.described.change.list]).toEqual([undefined, "memberships"]);
    const seen = await present();
    expect(await sendOrders(services, tessa, ofNora, seen)).toEqual({ outcome: "refused", why: "nothing-to-send" });
    expect(await applyOwnOrders(services, tessa, ofNora, seen - 1, unwatched)).toEqual({ outcome: "refused", why: "changed-meanwhile" });
    expect(await applyOwnOrders(services, tessa, ofNora, seen, unwatched)).toMatchObject({ outcome: "applied", orders: 1 });
    expect((await showRound(services, tessa, ofNora))?.wishes.by).toEqual({ done: 1 });
    await knowsBlocks(true);
  });

  it("puts nothing back that changed since it was ordered: its own orders are planned anew, too", async () => {
    const override = (more: object) => (document.cardholders ?? []).map((one) => (one.id === "nora" ? { ...one, override: true as const, ...more } : one));
    await intake({ asOf: "2026-03-22T06:00:00Z", cardholders: override({}) });
    // Whether somebody passes everywhere is said by nobody but Nomade.
    const fields = ["id", "name", "status", "statusSince", "department", "staffNumber"];
    await knowsBlocks(true, { cardholders: { fields } });
    const round = await open({ scope: { about: { kind: "cardholder", id: "nora" } } });
    const docket = await docketOf(round, dagmar);
    for (const { id } of docket.lines) await decideLine(services, dagmar, id, { decision: "withdraw", reason: "" });
    expect((await signDocket(services, dagmar, docket.docket.id)).outcome).toBe("signed");
    const ofOverride = async () =>
      (await services.orders.ofRound(round)).filter(({ described }) => isDescribed(described) && described.change.list === "cardholders");
    expect((await ofOverride()).length).toBe(1);
    // Meanwhile she is called otherwise.
    await knowsBlocks(true);
    await intake({ asOf: "2026-03-23T06:00:00Z", cardholders: override({ name: "Nora Mosstrand-Berg" }) });
    await knowsBlocks(true, { cardholders: { fields } });
    const applied = await applyOwnOrders(services, tessa, round, await present(), unwatched);
    expect(applied.outcome).toBe("applied");
    const stored = JSON.parse(await services.snapshots.frozen(await present())) as FacilityDocument;
    expect(stored.cardholders?.find(({ id }) => id === "nora")).toEqual(expect.not.objectContaining({ override: true }));
    expect(stored.cardholders?.find(({ id }) => id === "nora")?.name).toBe("Nora Mosstrand-Berg");
    expect((await ofOverride()).map(({ cancelledAt, sentAt }) => [cancelledAt !== undefined, sentAt !== undefined])).toEqual([
      [true, false],
      [false, true],
    ]);
    expect(await verifyAll(services)).toMatchObject({ sound: true, problems: [] });
    await knowsBlocks(true);
  });
});

describe("a round that runs", () => {
  beforeAll(async () => {
    now = "2026-04-01T09:00:00.000Z";
    await intake({ asOf: "2026-04-01T06:00:00Z" });
  });

  it("has in its scope what was chosen, and says before it starts what each choice does", async () => {
    const scoped = (scope: RoundTerms["scope"], by: RoundTerms["by"] = "manager") => previewRound(services, tessa, { scope, by }, unwatched);
    const all = await scoped({});
    expect(all?.choices).toMatchObject({
      sites: [{ value: "orchard" }],
      areas: [
        { value: "barn", lines: 3 },
        { value: "cellar", lines: 3 },
      ],
      departments: [{ value: "press", lines: all?.all }],
    });
    // The barn is of no sensitivity; the leaver's card would open nothing else.
    expect([(await scoped({ areas: ["barn"] }))?.lines, (await scoped({ areas: ["barn"], sensitivity: 1 }))?.lines]).toEqual([4, 0]);
    expect((await scoped({ only: "findings" }))?.lines).toBe(all?.choices.findings);
    expect((await scoped({ departments: ["press"] }))?.lines).toBe(all?.all);
    expect((await scoped({ types: ["visitor"] }))?.lines).toBe(0);
    // The owner certifies the cellar, but not for himself: that is his manager's.
    const owned = await scoped({ areas: ["cellar"] }, "owner");
    expect(owned?.dockets.map(({ certifier, lines }) => [certifier, lines])).toEqual(expect.arrayContaining([["=Otto Rushgaard", 2]]));
    const both = await scoped({ areas: ["cellar"] }, "both");
    expect(both?.dockets.map(({ certifier, lines }) => [certifier, lines]).sort()).toEqual([
      ["=Otto Rushgaard", 2],
      ["Dagmar Holmwold", both?.lines],
    ]);
  });

  it("lets a docket go first, then the others; gives dockets to others, and lets somebody stand in", async () => {
    const round = await open({ by: "both", scope: { areas: ["cellar"] } }, { pilot: "otto" });
    const dockets = await services.rounds.dockets({ round });
    const [hers, his] = [dockets.find(({ certifier }) => certifier === "dagmar"), dockets.find(({ certifier }) => certifier === "otto")];
    expect([hers?.held, his?.held]).toEqual([true, false]);
    expect((await myDockets(services, dagmar)).some(({ docket }) => docket.id === hers?.id)).toBe(false);
    const line = (await services.rounds.lines({ docket: hers?.id ?? -1 }))[0]?.id ?? -1;
    expect(await decideLine(services, dagmar, line, { decision: "withdraw", reason: "" })).toEqual({ outcome: "refused", why: "not-yours" });
    expect(await releaseDockets(services, tessa, round)).toBeUndefined();
    expect((await decideLine(services, dagmar, line, { decision: "withdraw", reason: "" })).outcome).toBe("decided");
    // Nobody is given a docket that is about them.
    expect(await giveDocket(services, tessa, hers?.id ?? -1, "nora")).toBe("same-person");
    expect(await giveDocket(services, tessa, hers?.id ?? -1, "nobody")).toBe("nobody");
    expect(await giveDocket(services, tessa, his?.id ?? -1, "dagmar")).toBeUndefined();
    expect((await services.rounds.dockets({ id: his?.id ?? -1 }))[0]).toMatchObject({
      certifier: "dagmar",
      certifierName: "Dagmar Holmwold",
      account: dagmar.id,
    });
    // A substitute decides on the dates of the span only, and nobody's own lines.
    const asked = { certifier: "dagmar", account: nora.id, from: "2026-04-02", until: "2026-04-03" };
    expect(await addSubstitute(services, tessa, round, { ...asked, until: "2026-04-01" })).toBe("dates");
    expect(await addSubstitute(services, tessa, round, { ...asked, account: dagmar.id })).toBe("same-person");
    expect(await addSubstitute(services, tessa, round, asked)).toBeUndefined();
    const others = await services.rounds.lines({ docket: hers?.id ?? -1 });
    const [about, another] = [
      others.find(({ line }) => !isDefinition(line) && line.cardholder === "nora"),
      others.find(({ line }) => !isDefinition(line) && line.cardholder === "otto"),
    ];
    const byNora = (id: number | undefined) => decideLine(services, nora, id ?? -1, { decision: "withdraw", reason: "" });
    expect(await byNora(another?.id)).toEqual({ outcome: "refused", why: "not-yours" });
    now = "2026-04-02T09:00:00.000Z";
    expect((await byNora(another?.id)).outcome).toBe("decided");
    expect(await byNora(about?.id)).toEqual({ outcome: "refused", why: "about-yourself" });
    now = "2026-04-04T09:00:00.000Z";
    expect(await byNora(another?.id)).toEqual({ outcome: "refused", why: "not-yours" });
  });

  it("lets a line be passed on once, and be taken back until somebody takes it up", async () => {
    const round = await open({ by: "both" });
    const [hers, his] = [await docketOf(round, dagmar), await docketOf(round, otto)];
    const [line, own] = [lineOf(hers, "Iris", "Barn"), lineOf(hers, "Otto", "Barn")];
    expect(hers.others.map(({ docket, name }) => [docket, name])).toEqual([[his.docket.id, "=Otto Rushgaard"]]);
    // Nobody certifies themself, by whatever way it comes to them.
    expect(await passOnLine(services, dagmar, own, his.docket.id, "")).toEqual({ outcome: "refused", why: "not-a-certifier" });
    expect(await passOnLine(services, dagmar, line, hers.docket.id, "")).toEqual({ outcome: "refused", why: "not-a-certifier" });
    expect((await passOnLine(services, dagmar, line, his.docket.id, "He runs the barn.")).outcome).toBe("decided");
    const passed = async () => (await docketOf(round, otto)).lines.find(({ passedFrom }) => passedFrom === line);
    const got = await passed();
    expect(got?.line).toEqual(hers.lines.find(({ id }) => id === line)?.line);
    expect(await passOnLine(services, otto, got?.id ?? -1, hers.docket.id, "")).toEqual({ outcome: "refused", why: "passed-on-already" });
    expect((await undoDecision(services, dagmar, line)).outcome).toBe("decided");
    expect(await passed()).toBeUndefined();
    await passOnLine(services, dagmar, line, his.docket.id, "He runs the barn.");
    await decideLine(services, otto, (await passed())?.id ?? -1, { decision: "withdraw", reason: "" });
    expect(await decideLine(services, dagmar, line, { decision: "keep", reason: "" })).toEqual({ outcome: "refused", why: "taken-up" });
    // It counts for its department once, where it is decided.
    const sheet = await showRound(services, tessa, round);
    const lines = await services.rounds.lines({ round });
    expect(sheet?.departments.reduce((sum, one) => sum + one.lines, 0)).toBe(lines.length - 1);
    expect(sheet?.departments[0]).toMatchObject({ name: "Press house", withdrawn: 1, decided: 1 });
    // Where both certify, withdrawing wins, and is ordered once.
    const cellar = [lineOf(hers, "Iris", "Cider cellar"), lineOf(his, "Iris", "Cider cellar")] as const;
    await decideLine(services, otto, cellar[1], { decision: "withdraw", reason: "" });
    await keepRest(otto, his.docket.id);
    await keepRest(dagmar, hers.docket.id);
    expect((await signDocket(services, dagmar, hers.docket.id)).outcome).toBe("signed");
    expect((await signDocket(services, otto, his.docket.id)).outcome).toBe("signed");
    const orders = await services.orders.ofRound(round);
    expect((await showRound(services, tessa, round))?.wishList.map(({ holderName, subject }) => `${holderName}: ${subject.name}`).sort()).toEqual([
      "Iris Almondfeld: Barn",
      "Iris Almondfeld: Cider cellar",
    ]);
    expect(new Set(orders.map(({ described }) => JSON.stringify(described))).size).toBe(orders.length);
    expect(await verifyAll(services)).toMatchObject({ sound: true, problems: [] });
  });

  it("is closed with a reason and by a second person; what nobody decided counts as its rule says", async () => {
    const round = await open({ undecided: "withdraw", scope: { areas: ["barn"] } });
    const docket = await docketOf(round, dagmar);
    await decideLine(services, dagmar, lineOf(docket, "Iris", "Barn"), { decision: "keep", reason: "" });
    expect(await closeRound(services, wilma, round)).toBe("not-asked");
    expect(await askToClose(services, tessa, round, "  ")).toBe("reason-needed");
    expect(await askToClose(services, tessa, round, "Dagmar is on leave.")).toBeUndefined();
    expect(await closeRound(services, tessa, round)).toBe("same-person");
    expect(await closeRound(services, wilma, round)).toBeUndefined();
    const closed = await docketOf(round, dagmar);
    expect(closed.lines.filter(({ line }) => line.subject.kind === "area").map(({ holderName, decision }) => [holderName, decision])).toEqual(
      expect.arrayContaining([
        ["Iris Almondfeld", "keep"],
        ["Nora Mosstrand", "withdraw"],
        ["=Otto Rushgaard", "withdraw"],
      ]),
    );
    expect(closed.docket.signedAt).toBeUndefined();
    expect(await decideLine(services, dagmar, lineOf(docket, "Iris", "Barn"), { decision: "withdraw", reason: "" })).toEqual({
      outcome: "refused",
      why: "round-closed",
    });
    expect((await signDocket(services, dagmar, docket.docket.id)).outcome).toBe("refused");
    expect((await services.orders.ofRound(round)).length).toBeGreaterThan(1);
    expect(await verifyAll(services)).toMatchObject({ sound: true, problems: [] });
  });

  it("has a signed docket corrected by another that names it", async () => {
    const round = await open({ scope: { areas: ["barn"] } });
    const { docket } = await docketOf(round, dagmar);
    expect(await correctDocket(services, tessa, docket.id)).toBe("not-signed");
    await keepRest(dagmar, docket.id);
    await signDocket(services, dagmar, docket.id);
    expect(await correctDocket(services, tessa, docket.id)).toBeUndefined();
    const correcting = (await services.rounds.dockets({ round })).find(({ corrects }) => corrects === docket.id);
    expect([correcting?.lines, correcting?.decided, correcting?.account]).toEqual([docket.lines, 0, dagmar.id]);
    // What was kept just so last time can be kept with the others.
    const next = await docketOf(await open({ scope: { areas: ["barn"] } }), dagmar);
    expect(next.lines.filter(({ flagged }) => !flagged).map(({ line, unremarkable }) => [line.keptBefore, unremarkable])).toEqual(
      next.lines.filter(({ flagged }) => !flagged).map(() => [docket.signedAt ?? now, true]),
    );
    const changed = await previewRound(services, tessa, { scope: { only: "changed" }, by: "manager" }, unwatched);
    expect(changed?.lines).toBe(changed?.choices.changed);
  });

  it("plans its orders anew where the register changed before they were sent, and tells the difference", async () => {
    const round = await open({ scope: { areas: ["cellar"] } });
    const docket = await docketOf(round, dagmar);
    await decideLine(services, dagmar, lineOf(docket, "Iris", "Cider cellar"), { decision: "withdraw", reason: "" });
    await keepRest(dagmar, docket.docket.id);
    await signDocket(services, dagmar, docket.docket.id);
    const [ordered] = await services.orders.ofRound(round);
    now = "2026-04-10T09:00:00.000Z";
    const another = { id: "iris-again", to: { cardholder: "iris" }, open: { door: "cellar-door" }, schedule: "day" };
    await intake({ asOf: "2026-04-10T06:00:00Z", grants: [...(document.grants ?? []), another] });
    const preview = await previewSending(services, tessa, round);
    expect(preview?.otherwise.map(({ holderName, before, after }) => [holderName, before.map(({ id }) => id), after.length])).toEqual([
      ["Iris Almondfeld", [ordered?.id], 2],
    ]);
    expect(await sendOrders(services, tessa, round, preview?.snapshot ?? -1)).toEqual({ outcome: "sent", orders: 2, mailedTo: [] });
    expect((await services.orders.ofRound(round)).map(({ cancelledAt, sentAt }) => [cancelledAt, sentAt])).toEqual([
      [now, undefined],
      [undefined, now],
      [undefined, now],
    ]);
    expect(await verifyAll(services)).toMatchObject({ sound: true, problems: [] });
    // Gone from the register altogether: nothing can be told.
    now = "2026-04-20T09:00:00.000Z";
    const without = <T extends { readonly id: string }>(list: readonly T[] | undefined): T[] =>
      (list ?? []).filter(({ id }) => id !== "iris" && id !== "c-iris");
    const people: Cardholder[] = without(document.cardholders);
    const grants = (document.grants ?? []).filter(({ to }) => to.cardholder !== "iris" && to.credential !== "c-iris");
    await intake({ asOf: "2026-04-20T06:00:00Z", cardholders: people, credentials: without(document.credentials), grants });
    expect((await showRound(services, tessa, round))?.wishList.map(({ check }) => check?.found)).toEqual([
      { outcome: "cannot-tell", why: "holder-missing", id: "iris" },
    ]);
  });
});

describe("a source that knows no grants that shut a door", () => {
  it("is asked for what it can do, and of the rest it is said by which ways it opens, that somebody sees to it", async () => {
    now = "2026-04-25T09:00:00.000Z";
    await knowsBlocks(false);
    await intake({ asOf: "2026-04-25T06:00:00Z" });
    const round = await open({ scope: { about: { kind: "cardholder", id: "iris" } } });
    const docket = await docketOf(round, dagmar);
    expect((await showWithdrawal(services, dagmar, lineOf(docket, "Iris", "Barn")))?.isPossible).toBe(false);
    for (const { id } of docket.lines) await decideLine(services, dagmar, id, { decision: "withdraw", reason: "" });
    expect((await signDocket(services, dagmar, docket.docket.id)).outcome).toBe("signed");
    const orders = (await showRound(services, tessa, round))?.named ?? [];
    expect(orders.map(({ subject, described, names }) => [subject.name, changeWords(described, names)])).toEqual([
      ["Cider cellar", "end the grant of Cellar door"],
      ["Barn", "see to it by hand: no change of what they have takes just this away; it opens by the grant of Barn by day through Press house"],
    ]);
    // What was done by hand is found by what opens.
    await sendOrders(services, tessa, round, await present());
    now = "2026-04-28T09:00:00.000Z";
    const grants = (document.grants ?? []).filter(({ id }) => id !== "press-barn" && id !== "iris-cellar");
    await intake({ asOf: "2026-04-28T06:00:00Z", grants });
    expect((await showRound(services, tessa, round))?.wishes.by).toEqual({ done: 2 });
    expect(await verifyAll(services)).toMatchObject({ sound: true, problems: [] });
    await knowsBlocks(true);
  });
});

describe("between rounds", () => {
  it("what happened asks for a decision where somebody set that, with just the lines that it is about", async () => {
    now = "2026-05-01T09:00:00.000Z";
    await intake({ asOf: "2026-05-01T06:00:00Z" });
    const before = (await services.rounds.list()).length;
    expect(await setOccasion(services, tessa, "moved", 0)).toBe(false);
    for (const [kind, days] of [
      ["moved", 5],
      ["renewed", 7],
      ["sensitive", 3],
      ["waiver-ended", 2],
    ] as const)
      expect(await setOccasion(services, tessa, kind, days)).toBe(true);
    expect(await setOccasion(services, wilma, "renewed", undefined)).toBe(true);
    // A waiver that ran out between the two intakes.
    const [finding] = await services.findings.page(await present(), { rule: "around-the-clock" }, "2026-05-01", 1);
    await services.triage.waive(
      { fingerprint: finding?.fingerprint ?? "", reason: "The press runs at night in May.", until: "2026-05-03", risk: 40 },
      true,
      "2026-05-01",
      tessa,
      now,
    );
    now = "2026-05-10T09:00:00.000Z";
    const people = (document.cardholders ?? []).map((one) => (one.id === "nora" ? { ...one, department: "watch" } : one));
    const given = { id: "dagmar-cellar", to: { cardholder: "dagmar" }, open: { door: "cellar-door" }, schedule: "day" };
    await intake({
      asOf: "2026-05-10T06:00:00Z",
      cardholders: people,
      credentials: [...(document.credentials ?? []), { id: "c-dagmar", cardholder: "dagmar", kind: "card", status: "active" }],
      grants: [...(document.grants ?? []), given],
    });
    const opened = (await services.rounds.list()).slice(0, -before);
    const told = await Promise.all(
      opened.map(async ({ id, name, due, terms }) => [
        terms.occasion,
        name.replace(/\d+$/, "N"),
        due,
        (await services.rounds.lines({ round: id })).map(({ holderName, line }) => `${holderName}: ${line.subject.name}`).sort(),
      ]),
    );
    expect(told.sort()).toEqual([
      ["moved", "Changed department, snapshot N", "2026-05-15", ["Nora Mosstrand: Cider cellar"]],
      ["sensitive", "New access to sensitive places, snapshot N", "2026-05-13", ["Dagmar Holmwold: Cider cellar"]],
      ["waiver-ended", "Waiver ended, snapshot N", "2026-05-12", ["Iris Almondfeld: Cider cellar"]],
    ]);
    // Nobody answers for her new department: her line comes to the owner of the place.
    const moved = opened.find(({ terms }) => terms.occasion === "moved")?.id ?? -1;
    expect((await services.rounds.dockets({ round: moved })).map(({ account }) => account)).toEqual([otto.id]);
    // The same register again is no occasion.
    now = "2026-05-11T09:00:00.000Z";
    await intake({ asOf: "2026-05-11T06:00:00Z", cardholders: people, grants: [...(document.grants ?? []), given] });
    expect((await services.rounds.list()).length).toBe(before + 3);
    expect(await verifyAll(services)).toMatchObject({ sound: true, problems: [] });
  });
});

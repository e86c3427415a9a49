import { afterAll, beforeAll, describe, expect, it } from "@jest/globals";
import type { CardBox } from "@/core/drafting/card-box";
import type { FacilityDocument } from "@/core/facility/document";
import type { Plain } from "@/core/facility/object-key";
import { addBox, changeDraft, movePeople, settleClash, takeBack, takeBackAll } from "@/operations/register/drafts/change-draft";
import type { WantedObject } from "@/operations/register/drafts/change-draft";
import { closeDraft } from "@/operations/register/drafts/close-draft";
import { effectOfDraft } from "@/operations/register/drafts/draft-effect";
import { editObject, peopleBoard, suggestInDraft } from "@/operations/register/drafts/edit-object";
import { beginDraft, dropDraft, listDrafts, shareDraft } from "@/operations/register/drafts/open-draft";
import type { Account } from "@/operations/ports/accounts";
import type { AskedWithdrawal } from "@/operations/register/drafts/draft-withdrawal";
import { draftWithdrawal, offerWithdrawal } from "@/operations/register/drafts/draft-withdrawal";
import { answerInquiry } from "@/operations/inquiry/answer-inquiry";
import type { Inquiry } from "@/operations/inquiry/inquiry";
import { draftToAsk } from "@/operations/register/drafts/open-with-draft";
import { onUsedHorizon } from "@/operations/register/later-uses";
import { openRegister } from "@/operations/register/open-register";
import { required } from "@/core/kernel/invariant";
import { unwatched } from "@/operations/ports/progress";
import { NotAllowed } from "@/operations/rights";
import { ordersOfDraft, showDraft } from "@/operations/register/drafts/show-draft";
import { storeFacility } from "@/operations/intake/store-contents";
import { lookForFindings } from "@/operations/findings/look-for-findings";
import { orchard } from "../browser/orchard";
import { withdrawableOf } from "@/core/certification/what-ends";
import { ownDatabase } from "./own-database";
import type { OwnDatabase } from "./own-database";

let own: OwnDatabase;
let services: OwnDatabase["services"];
let [tessa, theo, anna, agnes] = [] as unknown as [Account, Account, Account, Account];

const takeIn = (draft: FacilityDocument, source = "controller") => storeFacility(services, JSON.stringify(draft), source, { signIn: "test" }, unwatched);

beforeAll(async () => {
  own = await ownDatabase("nomade_drafts");
  ({ services } = own);
  [tessa, theo, anna, agnes] = [
    await own.account("tessa", "reviewer"),
    await own.account("theo", "reviewer"),
    await own.account("anna", "administrator"),
    await own.account("agnes", "auditor"),
  ];
  // A controlling system that says everything but how sensitive areas are and who answers for them.
  await takeIn(orchard);
});

afterAll(() => own.close());

const begin = (by = tessa): Promise<number> => beginDraft(services, by, "a draft");
const write = (draft: number, objects: readonly WantedObject[], by = tessa, despite = false) => changeDraft(services, by, draft, objects, despite);
const one = (list: WantedObject["list"], key: string | undefined, value: Plain | undefined, seen = 0): WantedObject => ({ list, key, value, seen });
/** Leif has left, and his card is marked so. */
const leifsCardReturned = one("credentials", "c-leif", {
  id: "c-leif",
  cardholder: "leif",
  kind: "card",
  status: "returned",
  number: "40104",
  facilityCode: "87",
  from: "2025-01-01",
});
const shown = async (draft: number, by = tessa) => {
  const sheet = await showDraft(services, by, draft);
  if (!sheet) throw new Error("There is no such draft to be seen.");
  return sheet;
};
const close = async (draft: number, by = tessa) => {
  const {
    draft: { revision },
    snapshot,
  } = await shown(draft, by);
  return closeDraft(services, by, draft, { revision, snapshot }, unwatched);
};
const iris = orchard.cardholders?.find(({ id }) => id === "iris") as unknown as Plain;
const nora = orchard.cardholders?.find(({ id }) => id === "nora") as unknown as Plain;

describe("a draft", () => {
  it("holds changes of every kind of object, and gives back what was typed with everything that is wrong with it", async () => {
    const draft = await begin();
    expect(
      await write(draft, [
        one("cardholders", undefined, { id: "ute", name: "Ute", status: "gone", from: "2026-13-01" }),
        one("grants", undefined, { id: "g", to: { group: "press" }, open: { door: "barn-door" } }),
      ]),
    ).toMatchObject({
      outcome: "faulty",
      faults: [{ path: "status", message: expect.stringContaining('Found "gone"') as unknown }, { path: "from" }, { path: "schedule" }],
    });
    expect((await shown(draft)).changes).toEqual([]);
    const outcome = await write(draft, [
      one("cardholders", undefined, { id: "ute", name: "Ute Birkholm", status: "active", department: "press" }),
      one("credentials", undefined, { id: "c-ute", cardholder: "ute", kind: "card", status: "active", number: "40105", facilityCode: "87" }),
      one("groups", "watch", { id: "watch", name: "Frost watch", manager: "dagmar" }),
      one("memberships", undefined, { group: "watch", cardholder: "ute", from: "2026-03-01" }),
      one("levels", undefined, { id: "cellar-day", name: "Cellar by day", rows: [{ door: "cellar-door", schedule: "day" }] }),
      one("doorGroups", undefined, { id: "all", name: "All doors", doors: ["cellar-door", "barn-door"] }),
      one("schedules", "day", { id: "day", name: "Day", week: { mon: [["07:00", "18:00"]] } }),
      one("calendars", "days", { id: "days", name: "Orchard days", days: [] }),
      one("grants", undefined, {
        id: "no-otto",
        to: { cardholder: "otto" },
        open: { door: "cellar-door" },
        effect: "block",
        from: "2026-03-01",
        until: "2026-06-30",
      }),
    ]);
    expect(outcome).toMatchObject({ outcome: "written", revision: 1 });
    const {
      changes,
      draft: { changes: count },
    } = await shown(draft);
    expect(count).toBe(9);
    expect(changes.map(({ name: called, action }) => `${action} ${called}`)).toEqual([
      "add Ute Birkholm",
      "add Card 87-40105",
      "change Frost watch",
      "add Ute Birkholm in Frost watch",
      "add Cellar by day",
      "add All doors",
      "change Day",
      "change Orchard days",
      "add =Otto Rushgaard may not open Cellar door",
    ]);
    expect(await write(draft, [one("doorGroups", undefined, { id: "all", name: "Again" })])).toMatchObject({ outcome: "faulty", faults: [{ path: "id" }] });
    expect(await dropDraft(services, tessa, draft)).toBe(true);
    expect(await write(draft, [one("cardholders", "iris", { ...iris, name: "I" })])).toEqual({ outcome: "ended" });
  });

  it("takes nobody and nothing out without what hangs on them, and lets nothing name what is gone", async () => {
    const draft = await begin();
    const asked = await write(draft, [one("cardholders", "iris", undefined)]);
    if (asked.outcome !== "takes-along") throw new Error(JSON.stringify(asked));
    expect(asked.along.map(({ list, label }) => `${list} ${label}`).sort()).toEqual(
      ["credentials Card 87-40101", "grants Iris Almondfeld opens Cellar door"].sort(),
    );
    expect((await shown(draft)).changes).toEqual([]);
    expect(await write(draft, [one("cardholders", "iris", undefined), ...asked.along.map(({ label: _label, ...object }) => object)])).toMatchObject({
      outcome: "written",
    });
    expect(await effectOfDraft(services, tessa, draft, unwatched)).toMatchObject({ outcome: "worked-out" });
    // Dagmar answers for a department: somebody else has to, first.
    expect(await write(draft, [one("cardholders", "dagmar", undefined)])).toMatchObject({
      outcome: "faulty",
      faults: [{ message: expect.stringMatching(/still names Dagmar Holmwold \(manager\)/) }],
    });
    await dropDraft(services, tessa, draft);
  });

  it("takes away what was planned, as it was offered, for a finding and for a door", async () => {
    await lookForFindings(services);
    const register = await openRegister(services);
    const snapshot = register?.snapshot.id ?? -1;
    const findings = await services.findings.page(snapshot, {}, "2026-03-01", 50);
    expect(findings.length).toBeGreaterThan(1);
    const asked: AskedWithdrawal[] = [
      ...findings.filter(withdrawableOf).map(({ fingerprint }) => ({ finding: fingerprint })),
      { holder: { kind: "cardholder", id: "nora" }, door: "barn-door" },
    ];
    // What comes with the department is taken from one person by a grant that shuts the door; not every source knows such.
    const barn = required(asked.at(-1), "the last one");
    expect((await offerWithdrawal(services, tessa, barn))?.withdrawal.isPossible).toBe(false);
    expect(await draftWithdrawal(services, tessa, barn)).toBeUndefined();
    await services.sources.putOwns("controller", { grants: { blocks: true } }, { signIn: "test" }, services.now());
    for (const one of asked) {
      const offered = await offerWithdrawal(services, tessa, one);
      const draft = await draftWithdrawal(services, tessa, one);
      if (!offered || draft === undefined) throw new Error(JSON.stringify(one));
      const sheet = await shown(draft);
      expect(sheet.draft.name).toBe(offered.title);
      expect(sheet.changes).toHaveLength(offered.withdrawal.changes.length);
      // What the draft does to access is what was said: nothing opens that was shut, and what is lost is lost.
      const effect = await effectOfDraft(services, tessa, draft, unwatched);
      if (effect?.outcome !== "worked-out") throw new Error(JSON.stringify(effect));
      expect(effect.access.changes.filter(({ change }) => change === "gained")).toEqual([]);
      if ("finding" in one) expect(effect.gone.length).toBeGreaterThan(0);
      else expect(effect.access.changes.map(({ holder, door, change }) => [holder.id, door, change])).toContainEqual(["nora", "barn-door", "lost"]);
      await dropDraft(services, tessa, draft);
    }
    expect(await offerWithdrawal(services, tessa, { finding: "none" })).toBeUndefined();
    expect(await draftWithdrawal(services, tessa, { holder: { kind: "cardholder", id: "nobody" }, door: "barn-door" })).toBeUndefined();
  });

  it("asks about a card that is seldom meant so, and refuses what its format cannot hold", async () => {
    const draft = await begin();
    const card = (more: Plain): Plain => ({ id: "new", kind: "card", status: "active", ...more });
    expect(await write(draft, [one("credentials", undefined, card({ cardholder: "iris", bitFormat: "26", facilityCode: "300", number: "1" }))])).toMatchObject({
      outcome: "faulty",
      faults: [{ path: "facilityCode", message: expect.stringContaining("255") }],
    });
    expect(await write(draft, [one("credentials", undefined, card({ number: "40104", facilityCode: "87" }))])).toMatchObject({
      outcome: "doubtful",
      doubts: [{ path: "cardholder" }, { path: "number", message: expect.stringContaining("c-leif") }],
    });
    expect((await shown(draft)).changes).toEqual([]);
    expect(await write(draft, [one("credentials", undefined, card({ number: "40104", facilityCode: "87" }))], tessa, true)).toMatchObject({
      outcome: "written",
    });
    // What was so before is not asked again.
    const [{ version } = { version: 0 }] = (await shown(draft)).changes;
    expect(await write(draft, [leifsCardReturned])).toMatchObject({ outcome: "written" });
    expect(version).toBe(1);
    await dropDraft(services, tessa, draft);
  });

  it("shows what it would do to access and to findings, and what makes it impossible", async () => {
    const draft = await begin();
    await write(draft, [
      leifsCardReturned,
      one("grants", undefined, { id: "nora-cellar", to: { cardholder: "nora" }, open: { door: "cellar-door" }, schedule: "always" }),
    ]);
    const effect = await effectOfDraft(services, tessa, draft, unwatched);
    if (effect?.outcome !== "worked-out") throw new Error(JSON.stringify(effect));
    expect(effect.access.changes.map(({ holder, door, change, sensitivity }) => [holder, door, change, sensitivity])).toEqual([
      [{ kind: "cardholder", id: "nora" }, "cellar-door", "hours", 3],
    ]);
    expect(effect.gone.map(({ about }) => about)).toContain("Leif Rushdahl");
    await write(draft, [one("grants", undefined, { id: "watch-barn", to: { group: "watch" }, open: { door: "barn-door" }, schedule: "no-such-hours" })]);
    expect(await effectOfDraft(services, tessa, draft, unwatched)).toMatchObject({
      outcome: "impossible",
      errorCount: 1,
      errors: [{ list: "grants", key: "watch-barn" }],
    });
    expect(await close(draft)).toMatchObject({ outcome: "refused" });
  });

  it("is its owner's until it is shared, and closed ones are everybody's who reads the register", async () => {
    const draft = await begin();
    expect(await showDraft(services, theo, draft)).toBeUndefined();
    expect((await listDrafts(services, theo)).map(({ id }) => id)).not.toContain(draft);
    expect(await write(draft, [one("cardholders", "iris", { ...iris, email: "i@orchard.example" })], theo)).toEqual({ outcome: "ended" });
    expect(await shareDraft(services, tessa, draft, agnes.id)).toBe(false);
    expect(await shareDraft(services, tessa, draft, theo.id)).toBe(true);
    expect(await write(draft, [one("cardholders", "iris", { ...iris, email: "i@orchard.example" })], theo)).toMatchObject({ outcome: "written" });
    expect(await showDraft(services, anna, draft)).toBeUndefined();
    expect(await close(draft)).toMatchObject({ outcome: "closed", snapshot: undefined, orders: 1 });
    for (const account of [anna, agnes]) expect((await shown(draft, account)).orders).toHaveLength(1);
    await expect(beginDraft(services, agnes, "mine")).rejects.toThrow(NotAllowed);
  });

  it("overwrites nothing unseen: the second of two is shown what the first made of it", async () => {
    const draft = await begin();
    await shareDraft(services, tessa, draft, theo.id);
    const seen = await editObject(services, theo, draft, "cardholders", "nora");
    expect(seen).toMatchObject({ seen: 0, value: nora });
    await write(draft, [one("cardholders", "nora", { ...nora, until: "2026-12-31", company: "Pips" })]);
    const late = await write(draft, [one("cardholders", "nora", { ...nora, until: "2027-06-30" }, 0)], theo);
    expect(late).toMatchObject({
      outcome: "changed-meanwhile",
      differences: [
        {
          changedBy: "tessa",
          version: 1,
          fields: [
            { field: "until", theirs: ["2026-12-31"], yours: ["2027-06-30"] },
            { field: "company", theirs: ["Pips"], yours: [] },
          ],
        },
      ],
    });
    expect((await shown(draft)).changes[0]?.fields.map(({ come }) => come)).toEqual([["2026-12-31"], ["Pips"]]);
    expect(await write(draft, [one("cardholders", "nora", { ...nora, until: "2027-06-30" }, 1)], theo)).toMatchObject({ outcome: "written" });
    expect(await takeBack(services, tessa, draft, { list: "cardholders", key: "nora", seen: 1 })).toMatchObject({ outcome: "changed-meanwhile" });
    const other = await begin(anna);
    await write(other, [one("cardholders", "nora", { ...nora, name: "N" })], anna);
    expect((await shown(draft)).changes[0]?.also).toEqual([{ list: "cardholders", key: "nora", draft: other, owner: "anna" }]);
    expect(await takeBack(services, tessa, draft, { list: "cardholders", key: "nora", seen: 2 })).toMatchObject({ outcome: "written" });
    expect((await shown(draft)).changes).toEqual([]);
  });

  it("shows where the register has changed since, and waits for a decision", async () => {
    const draft = await begin();
    await write(draft, [
      one("cardholders", "otto", { id: "otto", name: "=Otto Rushgaard", status: "suspended", department: "press", staffNumber: "0125" }),
      one("cardholders", "iris", { ...iris, type: "contractor" }),
    ]);
    const people = (orchard.cardholders ?? []).map((person) =>
      person.id === "otto" ? { ...person, status: "left" as const } : person.id === "iris" ? { ...person, email: "iris@orchard.example" } : person,
    );
    await takeIn({ ...orchard, cardholders: people });
    const sheet = await shown(draft);
    expect(sheet.clashing).toBe(1);
    expect(sheet.changes[0]?.clashes).toEqual([{ field: "status", register: ["left"], draft: ["suspended"] }]);
    expect(await close(draft)).toMatchObject({ outcome: "refused", reasons: [expect.stringContaining("1 change clashes")] });
    await settleClash(services, tessa, draft, { list: "cardholders", key: "otto", seen: 1 }, "register");
    expect((await shown(draft)).changes.map(({ key, fields }) => [key, fields.map(({ field }) => field)])).toEqual([["iris", ["type"]]]);
    expect(await close(draft)).toMatchObject({ outcome: "closed", orders: 1 });
    // What the register had changed besides is no part of the order.
    expect((await ordersOfDraft(services, tessa, draft))?.[0]).toMatchObject({
      key: "iris",
      source: "controller",
      done: false,
      fields: [{ field: "type", come: ["contractor"] }],
    });
    await takeIn({ ...orchard, cardholders: people.map((person) => (person.id === "iris" ? { ...person, type: "contractor" as const } : person)) });
    expect((await ordersOfDraft(services, agnes, draft))?.[0]?.done).toBe(true);
    await takeIn(orchard);
  });

  it("applies what no source brings as a snapshot of its own, and leaves the rest to orders", async () => {
    const { areas: _areas, groups: _groups, ...rest } = orchard;
    const sources = await services.sources.brought();
    expect(sources.map(({ source }) => source)).toEqual(["controller"]);
    await takeIn({ ...rest, areas: orchard.areas ?? [], groups: orchard.groups ?? [] });
    const draft = await begin();
    await write(draft, [
      one("bundles", undefined, { id: "whole", name: "The whole orchard", levels: ["barn-day"] }),
      one("cardholders", "iris", { ...iris, staffNumber: "9999" }),
    ]);
    const before = (await services.snapshots.latest())?.id ?? 0;
    expect(await close(draft)).toMatchObject({ outcome: "closed", snapshot: before + 1, orders: 1 });
    const latest = await services.snapshots.latest();
    expect(latest).toMatchObject({ id: before + 1, source: `Nomade, draft ${draft}` });
    const document = JSON.parse(await services.snapshots.frozen(before + 1)) as FacilityDocument;
    expect(document.bundles).toEqual([{ id: "whole", name: "The whole orchard", levels: ["barn-day"] }]);
    expect(document.cardholders?.find(({ id }) => id === "iris")?.staffNumber).toBe("0123");
    expect((await services.record.page({}, 3)).map(({ what }) => what)).toEqual(["draft.closed", "intake.stored", "draft.changed"]);
    expect(await services.record.verify()).toMatchObject({ sound: true });
    // Closed as it was seen, or not at all.
    const late = await begin();
    await write(late, [one("bundles", "whole", undefined)]);
    expect(await closeDraft(services, tessa, late, { revision: 0, snapshot: before + 1 }, unwatched)).toMatchObject({ outcome: "refused" });
  });

  it("offers the numbers that doors saw and the register does not have", async () => {
    const rows = [1, 2, 3].map((at) => ({ second: at * 60, door: "barn-door", credential: at < 3 ? "88-00071" : "c-iris", granted: false, reason: "unknown" }));
    await services.events.store(
      { name: "e.csv", hash: "e", source: "" },
      (async function* () {
        yield* rows;
        await Promise.resolve();
      })(),
      () => undefined,
      { signIn: "test" },
      services.now(),
      unwatched,
    );
    const draft = await begin();
    expect((await editObject(services, tessa, draft, "credentials", undefined, { kind: "card", status: "active" }))?.unknownNumbers).toEqual([
      { credential: "88-00071", facilityCode: undefined, times: 2, lastAt: 2 },
    ]);
    expect(
      await write(draft, [one("credentials", undefined, { id: "88-00071", number: "88-00071", kind: "card", status: "active", cardholder: "nora" })]),
    ).toMatchObject({ outcome: "written" });
  });

  it("takes a box of cards whole, and not where one of them is there already", async () => {
    const draft = await begin();
    const box: CardBox = { kind: "card", status: "stock", bitFormat: "26", facilityCode: "87", first: "40200", last: "40259", printedFirst: undefined };
    expect(await addBox(services, tessa, draft, { ...box, first: "40100", last: "40199" })).toMatchObject({
      outcome: "faulty-box",
      takenCount: 4,
      taken: [{ number: "40101", by: "c-iris" }, { number: "40102" }, { number: "40103" }, { number: "40104" }],
    });
    expect(await addBox(services, tessa, draft, { ...box, facilityCode: "300" })).toMatchObject({ outcome: "faulty-box", faults: [{ field: "facilityCode" }] });
    expect(await addBox(services, tessa, draft, box)).toMatchObject({ outcome: "written" });
    expect(await addBox(services, tessa, draft, { ...box, first: "40259", last: "40260" })).toMatchObject({ outcome: "faulty-box", takenCount: 1 });
    const sheet = await shown(draft);
    expect(sheet.counts).toEqual([{ list: "credentials", count: 60 }]);
    expect(sheet.changes.length).toBeLessThan(60);
    expect((await showDraft(services, tessa, draft, true))?.changes).toHaveLength(60);
    expect((await suggestInDraft(services, tessa, draft, ["credential"], "40207", 5)).map(({ id }) => id)).toEqual(["card-87-40207"]);
    expect(await takeBackAll(services, tessa, draft, "credentials", sheet.draft.revision - 1)).toMatchObject({ outcome: "changed-meanwhile" });
    expect(await takeBackAll(services, tessa, draft, "credentials", sheet.draft.revision)).toMatchObject({ outcome: "written" });
    expect((await shown(draft)).counts).toEqual([]);
  });

  it("moves people between departments, and nobody who is no longer where they were seen", async () => {
    const draft = await begin();
    expect(
      await movePeople(
        services,
        tessa,
        draft,
        [
          { cardholder: "iris", seenIn: "press" },
          { cardholder: "otto", seenIn: "press" },
        ],
        undefined,
      ),
    ).toMatchObject({ outcome: "written" });
    const board = await peopleBoard(services, tessa, draft, ["", "press"], "");
    expect(board?.columns.map(({ total, people }) => [total, people.filter(({ moved }) => moved).map(({ id }) => id)])).toEqual([
      [3, ["otto", "iris"]],
      [2, []],
    ]);
    expect(
      await movePeople(
        services,
        tessa,
        draft,
        [
          { cardholder: "nora", seenIn: "press" },
          { cardholder: "iris", seenIn: "press" },
        ],
        undefined,
      ),
    ).toEqual({ outcome: "moved-meanwhile", people: ["Iris Almondfeld"] });
    expect(await movePeople(services, tessa, draft, [{ cardholder: "iris", seenIn: undefined }], "press")).toMatchObject({ outcome: "written" });
    expect((await shown(draft)).changes.map(({ key }) => key)).toEqual(["otto"]);
  });

  it("can be asked about: who opens what with its changes made, by whoever sees it, while the register stays as it is", async () => {
    const draft = await begin();
    await write(draft, [one("grants", undefined, { id: "iris-barn", to: { cardholder: "iris" }, open: { door: "barn-door" }, schedule: "night" })]);
    const asked: Inquiry = { who: { kind: "cardholder", id: "iris" }, where: undefined, when: { kind: "any" }, lockdown: false };
    const answer = onUsedHorizon(answerInquiry);
    const weekOf = async (of: Parameters<typeof answer>[2], by = tessa) =>
      (await answer(services, by, of, asked))?.rows.find(({ door }) => door.id === "barn-door")?.weekMinutes;
    // By day through her department, 10 hours on five days; with the draft every night as well.
    expect([await weekOf(undefined), await weekOf({ draft }), await weekOf(undefined)]).toEqual([50 * 60, 120 * 60, 50 * 60]);
    expect(await draftToAsk(services, tessa, draft)).toEqual({ id: draft, name: "a draft", isPossible: true });
    // Nobody else sees it.
    expect([await weekOf({ draft }, theo), await draftToAsk(services, theo, draft)]).toEqual([undefined, undefined]);
    // Changed further, it is asked anew.
    const { changes } = required(await showDraft(services, tessa, draft), "the draft is there");
    expect(changes.length).toBe(1);
    await write(draft, [one("grants", undefined, { id: "otto-barn", to: { cardholder: "otto" }, open: { door: "barn-door" }, schedule: "no-such-hours" })]);
    expect([await weekOf({ draft }), (await draftToAsk(services, tessa, draft))?.isPossible]).toEqual([undefined, false]);
    await dropDraft(services, tessa, draft);
    expect([await weekOf({ draft }), await draftToAsk(services, tessa, draft)]).toEqual([undefined, undefined]);
  });
});

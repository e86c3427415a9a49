import { afterAll, beforeAll, describe, expect, it } from "@jest/globals";
import { askEndOfHouseRule, endHouseRule, listHouseRules, tryHouseRule, writeHouseRule } from "@/operations/findings/house-rules";
import { addTrial, dropTrial, runTrials } from "@/operations/inquiry/trials";
import { storeFacility } from "@/operations/intake/store-contents";
import type { Account } from "@/operations/ports/accounts";
import type { WrittenHouseRule } from "@/operations/ports/house-rules";
import { unwatched } from "@/operations/ports/progress";
import { changeDraft } from "@/operations/register/drafts/change-draft";
import { effectOfDraft } from "@/operations/register/drafts/draft-effect";
import { beginDraft, dropDraft } from "@/operations/register/drafts/open-draft";
import { showDraft } from "@/operations/register/drafts/show-draft";
import { onHorizon, onRegister } from "@/operations/register/on-register";
import { draftLevels, proposeLevels } from "@/operations/register/put-levels-right";
import { orchard } from "../browser/orchard";
import { ownDatabase } from "./own-database";
import type { OwnDatabase } from "./own-database";

let own: OwnDatabase;
let services: OwnDatabase["services"];
let [tessa, rufus] = [] as unknown as [Account, Account];

const store = (document: object) => storeFacility(services, JSON.stringify(document), "controller", { signIn: "test" }, unwatched);
const listed = async (by: Account = tessa) => (await onHorizon(listHouseRules)(services, by, undefined)) ?? [];
const attempt = (written: WrittenHouseRule) => onHorizon(tryHouseRule)(services, tessa, undefined, written);
const write = (written: WrittenHouseRule) => writeHouseRule(services, tessa, written, unwatched);
const present = async () => (await services.snapshots.latest())?.id ?? -1;
const today = "2026-12-02";
const found = async () =>
  (await services.findings.page(await present(), { rule: "house-rule" }, today, 100)).map(({ subject, distinct, life }) => [subject.id, distinct[0], life]);

const nights: WrittenHouseRule = {
  name: "Nobody of the press house in the cellar at night",
  must: "none",
  query: "who=group:press&where=area:cellar&when=nights",
};

beforeAll(async () => {
  own = await ownDatabase("nomade_house_rules");
  ({ services } = own);
  [tessa, rufus] = [await own.account("tessa", "reviewer"), await own.account("rufus", "reviewer")];
  await store(orchard);
});
afterAll(() => own.close());

describe("a rule of the house", () => {
  it("is refused by name where it says nothing that can be held against a register", async () => {
    const why = async (written: WrittenHouseRule) => {
      const done = await attempt(written);
      return done?.outcome === "refused" ? done.why : done?.outcome;
    };
    expect(await why({ ...nights, query: "who=group:nobody-there" })).toBe("not-understood");
    expect(await why({ ...nights, query: "when=sometimes" })).toBe("not-understood");
    expect(await why({ ...nights, query: "where=area:cellar&lockdown=1" })).toBe("not-understood");
    expect(await why({ ...nights, query: "where=area:cellar&when=now" })).toBe("not-understood");
    expect(await why({ ...nights, must: "not-both" })).toBe("no-other-place");
    expect(await why({ ...nights, must: "not-both", other: "area:nowhere" })).toBe("not-understood");
    expect(await why({ ...nights, must: "at-most" })).toBe("no-count");
    expect(await why({ ...nights, must: "only", query: "who=everybody&where=area:cellar" })).toBe("nobody-named");
    expect(await write({ ...nights, name: "  " })).toEqual({ outcome: "refused", why: "no-name" });
    expect(await services.houseRules.inForce()).toEqual([]);
  });

  it("is tried before it is written down, and says who breaks it first, and when on the clock there", async () => {
    // Iris has the cellar at all hours, and Nora with the frost watch; Otto only by day.
    const tried = await attempt(nights);
    expect(tried).toMatchObject({ outcome: "tried", broken: 2 });
    const breaches = tried?.outcome === "tried" ? tried.breaches.map(({ subject, proof }) => [subject.id, proof.door, proof.there]) : [];
    expect(breaches.sort()).toEqual([
      ["iris", "cellar-door", "2026-03-01T22:00"],
      ["nora", "cellar-door", "2026-03-01T22:00"],
    ]);
    // The barn and the cellar are both opened by Otto and by Iris, the one by the department's level.
    expect(await attempt({ name: "x", must: "not-both", query: "who=type:employee&where=area:barn", other: "area:cellar" })).toMatchObject({ broken: 3 });
    expect(await attempt({ name: "x", must: "at-least", count: 1, query: "where=area:cellar" })).toMatchObject({ broken: 0 });
    // Nobody but Iris comes in by night once the frost watch is over for the day.
    expect(await attempt({ name: "x", must: "at-least", count: 2, query: "where=area:cellar" })).toMatchObject({ broken: 1 });
  });

  it("becomes findings that live on from intake to intake, and is held against drafts", async () => {
    expect(await write(nights)).toEqual({ outcome: "written" });
    expect(await write(nights)).toEqual({ outcome: "refused", why: "name-taken" });
    const [rule] = await listed();
    expect(rule).toMatchObject({ name: nights.name, broken: 2, madeBy: "tessa", mayEnd: false });
    const id = String(rule?.id);
    expect((await found()).map(([who, of]) => [who, of]).sort()).toEqual([
      ["iris", id],
      ["nora", id],
    ]);
    const draft = await beginDraft(services, tessa, "Otto by night");
    await changeDraft(
      services,
      tessa,
      draft,
      [{ list: "grants", key: "otto-cellar", value: { id: "otto-cellar", to: { cardholder: "otto" }, open: { area: "cellar" }, schedule: "always" }, seen: 0 }],
      false,
    );
    const effect = await effectOfDraft(services, tessa, draft, unwatched);
    expect(effect?.outcome === "worked-out" ? effect.come.filter((one) => one.rule === "house-rule").map(({ about }) => about) : effect).toEqual([
      "=Otto Rushgaard",
    ]);
    await dropDraft(services, tessa, draft);
    // Nights hold for good, whenever the rule was written: an intake a year later is held against them, too.
    await store({ ...orchard, asOf: "2027-03-01T06:00:00Z", grants: orchard.grants?.filter((grant) => grant.id !== "watch-cellar") });
    expect(await found()).toEqual([["iris", id, "still"]]);
    expect((await listed())[0]).toMatchObject({ broken: 1, breaches: [{ proof: { there: "2027-03-01T22:00" } }] });
  });

  it("cannot be told of any more where what it speaks of is gone, and says so", async () => {
    await store({ ...orchard, asOf: "2027-03-02T06:00:00Z", grants: [], areas: orchard.areas?.filter((area) => area.id !== "cellar"), doors: [] });
    expect((await listed())[0]).toMatchObject({ asks: undefined, broken: 0 });
    const { cannotTell: told } = await services.findings.counts(await present(), today);
    expect(told.filter((one) => one.rule === "house-rule")).toMatchObject([{ concerned: 1 }]);
    await store({ ...orchard, asOf: "2027-03-03T06:00:00Z" });
    expect((await listed())[0]).toMatchObject({ broken: 2 });
  });

  it("ends when somebody else than who asked for it says so, and not before", async () => {
    const [rule] = await listed();
    const id = rule?.id ?? -1;
    expect(await endHouseRule(services, rufus, id, unwatched)).toBe(false);
    expect(await askEndOfHouseRule(services, tessa, id, true)).toBe(true);
    expect(await askEndOfHouseRule(services, rufus, id, true)).toBe(false);
    expect(await endHouseRule(services, tessa, id, unwatched)).toBe(false);
    expect([(await listed(tessa))[0]?.mayEnd, (await listed(rufus))[0]?.mayEnd]).toEqual([false, true]);
    expect(await askEndOfHouseRule(services, rufus, id, false)).toBe(true);
    expect(await endHouseRule(services, rufus, id, unwatched)).toBe(false);
    expect(await askEndOfHouseRule(services, tessa, id, true)).toBe(true);
    expect((await found()).length).toBe(2);
    expect(await endHouseRule(services, rufus, id, unwatched)).toBe(true);
    expect([await listed(), await found()]).toEqual([[], []]);
    const entries = await services.record.page({ what: "house-rule.ended" }, 5);
    expect(entries.map(({ who, on }) => [who, on])).toEqual([["rufus", `house rule ${id}`]]);
    expect(await services.record.verify()).toMatchObject({ sound: true });
  });
});

describe("trials", () => {
  it("are run on whichever register is asked, and say what was expected otherwise", async () => {
    const trial = { credential: "c-nora", door: "cellar-door", at: "2027-07-07T20:30Z", lockdown: false, expected: "open", note: "" } as const;
    expect([await addTrial(services, tessa, trial), await addTrial(services, tessa, { ...trial, lockdown: true })]).toEqual(["written", "written"]);
    const run = async (snapshot?: number) =>
      ((await onRegister(runTrials)(services, tessa, snapshot)) ?? []).map(({ verdict, reason, isAsExpected, holder, there }) => [
        verdict,
        reason,
        isAsExpected,
        holder,
        there?.minuteOfDay,
      ]);
    // The night is told by the clock of the door.
    expect(await run()).toEqual([
      ["open", "open", true, "Nora Mosstrand", 22 * 60 + 30],
      ["closed", "lockdown", false, "Nora Mosstrand", 22 * 60 + 30],
    ]);
    // In the register in which the frost watch had lost the cellar it does not open, and where there was no such door that is said.
    const ids = new Map((await services.snapshots.list()).map(({ id, asOf }) => [asOf, id]));
    expect((await run(ids.get("2027-03-01T06:00:00Z"))).map(([, reason]) => reason)).toEqual(["no-grant", "no-grant"]);
    expect((await run(ids.get("2027-03-02T06:00:00Z"))).map(([, reason, , , minute]) => [reason, minute])).toEqual([
      ["unknown-door", undefined],
      ["unknown-door", undefined],
    ]);
    const [, second] = await services.trials.kept();
    expect([await dropTrial(services, tessa, second?.id ?? -1), await dropTrial(services, tessa, second?.id ?? -1)]).toEqual([true, false]);
    expect(await run()).toHaveLength(1);
  });
});

describe("levels put right", () => {
  it("become a draft that changes nothing for anybody where they say so", async () => {
    const barn = { rows: [{ area: "barn", schedule: "day" }] };
    await store({
      ...orchard,
      asOf: "2027-03-04T06:00:00Z",
      levels: [
        { id: "barn-day", name: "Barn by day", ...barn },
        { id: "barn-again", name: "Barn once more", ...barn },
      ],
      grants: [...(orchard.grants ?? []), { id: "again", to: { cardholder: "otto" }, open: { level: "barn-again" } }],
    });
    const proposed = await proposeLevels(services, tessa, unwatched);
    const [merge] = proposed?.proposals ?? [];
    expect(merge).toMatchObject({ kind: "merge-equal", holders: 0, lost: 0, before: { levels: 2 }, after: { levels: 1 } });
    const draft = await draftLevels(services, tessa, merge?.key ?? "", unwatched);
    const shown = await showDraft(services, tessa, draft ?? -1, true);
    expect(shown?.changes.map(({ list, key }) => `${list} ${key}`).sort()).toEqual(["grants press-barn", "levels barn-day"]);
    const effect = await effectOfDraft(services, tessa, draft ?? -1, unwatched);
    expect(effect).toMatchObject({ outcome: "worked-out", access: { gained: 0, lost: 0, hours: 0, people: 0 } });
    expect(await draftLevels(services, tessa, '["merge-equal",["gone"],[]]', unwatched)).toBeUndefined();
  });
});

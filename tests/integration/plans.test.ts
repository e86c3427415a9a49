import { afterAll, beforeAll, describe, expect, it } from "@jest/globals";
import type { PlacedDoor, PlanHead } from "@/core/plans/plan";
import { answerOnPlan } from "@/operations/inquiry/answer-on-plan";
import { storeFacility } from "@/operations/intake/store-contents";
import type { Account } from "@/operations/ports/accounts";
import { unwatched } from "@/operations/ports/progress";
import { onHorizon, onRegister } from "@/operations/register/on-register";
import { addPlan, changePlan, dropPlan } from "@/operations/register/plans/keep-plans";
import type { AskedPlanChange, KeptPlan } from "@/operations/register/plans/keep-plans";
import { doorsToPlace, listPlans, planPicture, showPlan } from "@/operations/register/plans/show-plans";
import { orchard } from "../browser/orchard";
import { ownDatabase } from "./own-database";
import type { OwnDatabase } from "./own-database";

let own: OwnDatabase;
let services: OwnDatabase["services"];
let [tessa, agnes] = [] as unknown as [Account, Account];

const mill = { id: "mill", name: "Mill", timeZone: "Europe/Vienna", calendar: "days" };
const lift = [
  { id: "mill-lift", name: "Mill lift", site: "mill", kind: "lift" as const },
  { id: "mill-loft", name: "Mill loft", site: "mill", kind: "floor" as const, via: "mill-lift" },
];
const twoSites = { ...orchard, sites: [...(orchard.sites ?? []), mill], doors: [...(orchard.doors ?? []), ...lift] };
const drawing = (inside = '<rect width="4" height="3"/>'): Uint8Array =>
  Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 4 3">${inside}</svg>`);
const yard: PlanHead = { name: "Yard", site: "orchard", storey: 0 };
const at = (door: string, x = 5000, y = 2500): PlacedDoor => ({ door, x, y });

const add = async (head: PlanHead, bytes = drawing(), doors: readonly PlacedDoor[] = []) =>
  (await onRegister(addPlan)(services, tessa, undefined, head, bytes, doors)) as KeptPlan;
const change = async (id: number, version: number, asked: AskedPlanChange) =>
  (await onRegister(changePlan)(services, tessa, undefined, id, version, asked)) as KeptPlan;
const show = async (id: number, by = tessa) => (await onRegister(showPlan)(services, by, undefined, id))?.plan;
const why = (kept: KeptPlan): string => (kept.outcome === "refused" ? kept.why : kept.outcome);
const idOf = (kept: KeptPlan): number => (kept.outcome === "kept" ? kept.id : -1);

beforeAll(async () => {
  own = await ownDatabase("nomade_plans");
  ({ services } = own);
  [tessa, agnes] = [await own.account("tessa", "reviewer"), { ...(await own.account("agnes", "auditor")), sites: ["mill"] }];
  await storeFacility(services, JSON.stringify(twoSites), "controller", { signIn: "test" }, unwatched);
});
afterAll(() => own.close());

describe("a plan", () => {
  it("is refused by name where the register or its picture does not bear it, and nothing is kept", async () => {
    expect(why(await add({ ...yard, name: " " }))).toBe("no-name");
    expect(why(await add({ ...yard, site: "nowhere" }))).toBe("no-site");
    expect(why(await add({ ...yard, area: "nowhere" }))).toBe("no-area");
    expect(why(await add({ ...yard, site: "mill", area: "cellar" }))).toBe("no-area");
    expect(why(await add({ ...yard, storey: 0.5 }))).toBe("storey");
    expect(await add(yard, Buffer.from("GIF89a"))).toMatchObject({ why: "picture", reason: expect.stringMatching(/^it is neither/) as unknown });
    for (const doors of [[at("mill-lift")], [at("nowhere")], [at("barn-door"), at("barn-door")], [at("barn-door", 10_001)], [at("barn-door", 0.5)]])
      expect(why(await add(yard, drawing(), doors))).toBe("not-on-plan");
    expect((await onRegister(listPlans)(services, tessa, undefined))?.plans).toEqual([]);
  });

  it("is kept with its picture made safe, what is done to it stands in the record, and nobody overwrites what somebody else did", async () => {
    const kept = await add(yard, drawing("<script/><rect width='4' height='3'/>"));
    expect(kept).toMatchObject({ outcome: "kept", leftOut: ["script"] });
    const id = idOf(kept);
    const picture = await planPicture(services, tessa, id, (await show(id))?.sha256 ?? "");
    expect(Buffer.from(picture?.bytes ?? []).toString()).not.toContain("script");
    expect(await planPicture(services, tessa, id, "0".repeat(64))).toBeUndefined();
    expect(await onRegister(doorsToPlace)(services, tessa, undefined, id, "BARN")).toEqual({
      count: 1,
      doors: [{ id: "barn-door", name: "Barn door", area: "Barn", isElsewhere: false }],
    });
    expect(why(await change(id, 1, { doors: [at("barn-door"), at("cellar-door", 0, 10_000)] }))).toBe("kept");
    expect(why(await change(id, 1, { doors: [] }))).toBe("outdated");
    expect((await onRegister(doorsToPlace)(services, tessa, undefined, id, ""))?.doors).toEqual([]);
    expect((await show(id))?.doors).toEqual([
      { ...at("barn-door"), name: "Barn door", kind: "door" },
      { ...at("cellar-door", 0, 10_000), name: "Cellar door", kind: "door" },
    ]);
    // Another picture keeps the doors where they are; another site does not hold them.
    expect(why(await change(id, 2, { bytes: drawing("<circle r='1'/>") }))).toBe("kept");
    expect(why(await change(id, 3, { head: { ...yard, site: "mill" } }))).toBe("not-on-plan");
    expect(why(await change(id, 3, { head: { ...yard, name: "The yard", area: "barn" } }))).toBe("kept");
    expect(await show(id)).toMatchObject({
      name: "The yard",
      areaName: "Barn",
      siteName: "Hazel orchard",
      doorCount: 2,
      goneCount: 0,
      version: 4,
      changedBy: "tessa",
    });
    expect(why(await change(999, 1, {}))).toBe("gone");
    const entries = await services.record.page({ on: [`plan ${id}`] }, 10);
    expect(entries.map(({ what }) => what)).toEqual(["plan.changed", "plan.changed", "plan.changed", "plan.added"]);
  });

  it("is joined to others by lifts, and answers stand on each of them", async () => {
    const foot = idOf(await add({ name: "Mill, foot", site: "mill", storey: 0 }, drawing(), [at("mill-lift")]));
    const loft = idOf(await add({ name: "Mill, loft", site: "mill", storey: 1 }, drawing(), [at("mill-loft")]));
    expect([(await show(foot))?.joined, (await show(loft))?.joined]).toEqual([
      [{ door: "mill-lift", plan: loft, there: "mill-loft" }],
      [{ door: "mill-loft", plan: foot, there: "mill-lift" }],
    ]);
    const who = { kind: "cardholder", id: "iris" } as const;
    const inquiry = { who, where: undefined, when: { kind: "any" }, lockdown: false } as const;
    const asked = await onHorizon(answerOnPlan)(services, tessa, undefined, inquiry, undefined);
    expect([asked?.shown?.plan.name, asked?.isOfOne, asked?.askedDoors, asked?.openingDoors, asked?.unplacedCount]).toEqual(["The yard", true, 4, 2, 0]);
    expect(asked?.shown?.marks.map(({ door, state }) => [door, state])).toEqual([
      ["barn-door", "open"],
      ["cellar-door", "open"],
    ]);
    expect(asked?.shown?.marks[1]?.words).toMatch(/always|at all hours|every day/i);
    expect(asked?.choices.map(({ name, asked: about, opening }) => [name, about, opening])).toEqual([
      ["Mill, foot", 1, 0],
      ["Mill, loft", 1, 0],
      ["The yard", 2, 2],
    ]);
    expect(await onHorizon(answerOnPlan)(services, tessa, undefined, inquiry, 999)).toBeUndefined();
  });

  it("is seen by who is limited to sites where it is of one of them; of others they find nothing", async () => {
    const plans = (await onRegister(listPlans)(services, agnes, undefined))?.plans ?? [];
    expect(plans.map(({ name }) => name)).toEqual(["Mill, foot", "Mill, loft"]);
    const [yardPlan] = await services.plans.all();
    expect(await show(yardPlan?.id ?? -1, agnes)).toBeUndefined();
    expect(await planPicture(services, agnes, yardPlan?.id ?? -1, yardPlan?.sha256 ?? "")).toBeUndefined();
    expect(await planPicture(services, agnes, plans[0]?.id ?? -1, plans[0]?.sha256 ?? "")).toBeDefined();
  });

  it("keeps a door that goes from the register, and says so, until it is taken off or the plan is taken out", async () => {
    const without = { ...twoSites, doors: twoSites.doors.filter(({ id }) => id !== "mill-loft") };
    await storeFacility(services, JSON.stringify({ ...without, asOf: "2026-12-01T12:00:00Z" }), "controller", { signIn: "test" }, unwatched);
    const loft = (await services.plans.all()).find(({ name }) => name === "Mill, loft");
    const id = loft?.id ?? -1;
    expect(await show(id)).toMatchObject({ goneCount: 1, doors: [{ door: "mill-loft", name: "mill-loft", kind: undefined }] });
    expect(why(await change(id, 1, { doors: [at("mill-loft", 1, 1)] }))).toBe("kept");
    expect(why(await change(id, 2, { doors: [] }))).toBe("kept");
    expect(why(await change(id, 3, { doors: [at("mill-loft")] }))).toBe("not-on-plan");
    // One that came to another site stays as well; whoever sees the old site alone is not told of it.
    const foot = (await services.plans.all()).find(({ name }) => name === "Mill, foot")?.id ?? -1;
    const moved = { ...without, doors: without.doors.map((door) => (door.id === "mill-lift" ? { ...door, site: "orchard" } : door)) };
    await storeFacility(services, JSON.stringify({ ...moved, asOf: "2026-12-01T13:00:00Z" }), "controller", { signIn: "test" }, unwatched);
    expect(why(await change(foot, 1, { doors: [at("mill-lift", 7, 7)] }))).toBe("kept");
    expect([(await show(foot))?.doors.map(({ name }) => name), (await show(foot, agnes))?.doors]).toEqual([["Mill lift"], []]);
    expect([await dropPlan(services, tessa, id), await dropPlan(services, tessa, id)]).toEqual([true, false]);
  });
});

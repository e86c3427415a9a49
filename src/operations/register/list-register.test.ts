import { describe, expect, it } from "@jest/globals";
import { verraneInstitute } from "~/demo/institute";
import { compileFacility } from "@/core/compile/compile-facility";
import { withAllLists } from "@/core/facility/facility";
import { fold } from "@/core/register/fold";
import { registerKinds } from "@/core/register/kinds";
import { relatedTo } from "@/core/register/related/related";
import { cardKey } from "@/core/events/told-card";
import { lastUsesIn } from "./last-uses";
import type { AskedList } from "./list-register";
import { listPage, suggest } from "./list-register";
import type { Account } from "../ports/accounts";
import type { Services } from "../services";
import type { OpenRegister } from "./open-register";

const compiled = compileFacility(withAllLists(verraneInstitute({ cardholders: 300, doors: 95, seed: 5 })));
const register = { snapshot: { id: 7, hash: "made for a test" }, compiled } as unknown as OpenRegister;
const tessa: Account = { id: 1, signIn: "tessa", name: "Tessa", role: "reviewer", cardholder: undefined };
/** A list needs nothing but the register. */
const services = {} as Services;
const { facility } = compiled;
const asked = (more: Partial<AskedList> = {}): AskedList => ({
  kind: "cardholder",
  of: undefined,
  columns: [],
  text: "",
  filters: {},
  sort: "name",
  group: undefined,
  ...more,
});
const list = (more: Partial<AskedList> = {}, offset = 0, limit = 10_000, withChoices = false) =>
  listPage(register, asked(more), { offset, limit, withChoices });

describe("a list of the register", () => {
  it("has every object of its kind, page by page, each once and in one order", () => {
    for (const kind of registerKinds) {
      const whole = list({ kind });
      const pages = Array.from({ length: Math.ceil(whole.total / 7) }, (_, page) => list({ kind }, page * 7, 7).rows).flat();
      expect([kind, pages]).toEqual([kind, [...whole.rows]]);
      expect([kind, new Set(whole.rows.map(({ id }) => id)).size, whole.total, whole.all]).toEqual([
        kind,
        whole.rows.length,
        whole.rows.length,
        whole.rows.length,
      ]);
    }
    expect(list({}, 1000, 10).rows).toEqual([]);
    expect(list().snapshot).toBe(7);
  });

  it("gives the columns that are asked for, the name always, and the usual ones where none is", () => {
    const usual = list({}, 0, 1);
    expect(usual.columns.filter(({ shown }) => shown).length).toBe(usual.rows[0]?.cells.length);
    const chosen = list({ columns: ["staffNumber"] }, 0, 5);
    expect(chosen.columns.filter(({ shown }) => shown).map(({ key }) => key)).toEqual(["name", "staffNumber"]);
    const byId = new Map(facility.cardholders.map((one) => [one.id, one]));
    for (const { id, cells } of chosen.rows) expect(cells).toEqual([byId.get(id)?.name, byId.get(id)?.staffNumber]);
  });

  it("counts the choices of a column as they would narrow it, and only where they are asked for", () => {
    expect(list({}, 0, 1).columns.filter(({ choices }) => choices !== undefined)).toEqual([]);
    const { columns } = list({ text: "genetics" }, 0, 1, true);
    const status = columns.find(({ key }) => key === "status")?.choices ?? [];
    expect(status.length).toBeGreaterThan(1);
    for (const { value, count } of status) expect([value, list({ text: "genetics", filters: { status: value } }).total]).toEqual([value, count]);
  });

  it("says of what hangs on another object by which way it does, and what that is called", () => {
    const level = { kind: "level", id: "l-offices" } as const;
    const hanging = list({ of: level });
    const related = relatedTo(compiled, "cardholder", level);
    expect(related.size).toBeGreaterThan(0);
    expect([hanging.total, hanging.all, hanging.ofName]).toEqual([related.size, related.size, facility.levels.find(({ id }) => id === "l-offices")?.name]);
    expect(new Map(hanging.rows.map(({ id, way }) => [id, way]))).toEqual(
      new Map([...related].map(([position, way]) => [facility.cardholders[position]?.id, way])),
    );
    expect(list().rows.filter(({ way }) => way !== undefined)).toEqual([]);
    expect(list({ of: { kind: "level", id: "gone" } }).ofName).toBe("gone");
  });
});

describe("what is offered while somebody types", () => {
  it("is every object of the kinds that has the words, the first of each kind by name in turn, and how many there are", () => {
    const text = "glass";
    const all = (["door", "area"] as const).flatMap((kind) => list({ kind, text }).rows.map(({ id }) => `${kind} ${id}`));
    const found = suggest(services, tessa, register, ["door", "area"], text, 8);
    expect(found.total).toBe(all.length);
    expect(found.items.length).toBe(Math.min(8, all.length));
    for (const { kind, id } of found.items) expect(all).toContain(`${kind} ${id}`);
    // Of each kind nothing that is left out comes before what is offered, and many of one kind leave room for those of the other.
    for (const kind of ["door", "area"] as const) {
      const names = list({ kind, text, columns: ["name"] })
        .rows.map(({ cells }) => String(cells[0]))
        .sort();
      const offered = found.items.filter((item) => item.kind === kind).map(({ name }) => name);
      expect(offered).toEqual(names.slice(0, offered.length));
      expect(offered.length).toBeGreaterThanOrEqual(Math.min(4, names.length));
    }
  });

  it("tells people of one name apart by where they belong", () => {
    const [one] = facility.cardholders.filter(({ department, staffNumber }) => department !== undefined && staffNumber !== undefined);
    const offered = suggest(services, tessa, register, ["cardholder"], one?.staffNumber ?? "", 5).items.find(({ id }) => id === one?.id);
    const department = facility.groups.find(({ id }) => id === one?.department)?.name ?? "";
    expect(offered?.detail).toContain(department);
    expect(offered?.detail).toContain(one?.staffNumber);
    expect(offered?.status).toBe(one?.status);
  });

  it("finds whatever the case and accents of what is typed, and nothing for words that are nowhere", () => {
    const [first] = list().rows;
    const name = String(first?.cells[0]);
    expect(suggest(services, tessa, register, ["cardholder"], fold(name).toUpperCase(), 5).items.map(({ id }) => id)).toContain(first?.id);
    expect(suggest(services, tessa, register, registerKinds, "qqqq no such word", 5)).toEqual({ items: [], total: 0 });
  });
});

it("tells of a credential's last use what events say where that is later than what its source says", async () => {
  const [used, , unused] = facility.credentials;
  const counted = new Map([[cardKey({ credential: used?.id }), Date.parse("2026-11-19T07:30:05Z") / 1000]]);
  const events = { lastUses: () => Promise.resolve(counted) } as unknown as Services["events"];
  const latest = (id: number) => ({ events, snapshots: { latest: () => Promise.resolve({ id }) } as unknown as Services["snapshots"] });
  const cells = async (present: number) => {
    const lastUseOf = await lastUsesIn(latest(present), register);
    const { rows } = listPage(register, asked({ kind: "credential", columns: ["lastUse"] }), { offset: 0, limit: 10_000, withChoices: false }, lastUseOf);
    return [used, unused].map((one) => rows.find(({ id }) => id === one?.id)?.cells[1]);
  };
  expect(await cells(7)).toEqual(["2026-11-19T07:30:05Z", unused?.lastUse]);
  // Of a snapshot that another has followed, events may be of later.
  expect(await cells(8)).toEqual([used?.lastUse, unused?.lastUse]);
});

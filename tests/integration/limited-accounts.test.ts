import { afterAll, beforeAll, expect, it } from "@jest/globals";
import { addAccount, changeAccount } from "@/operations/administration/accounts";
import { whoIs } from "@/operations/administration/sign-in";
import { openRound } from "@/operations/certification/open-round";
import { listLines } from "@/operations/certification/list-lines";
import { showDocket } from "@/operations/certification/show-docket";
import { exportOrders, listRounds, showRound } from "@/operations/certification/show-rounds";
import { usualTerms } from "@/core/certification/round-terms";
import { verifyAll } from "@/operations/evidence/verify-all";
import { storeFacility } from "@/operations/intake/store-contents";
import { unwatched } from "@/operations/ports/progress";
import type { Account } from "@/operations/ports/accounts";
import { listRegister } from "@/operations/register/list-register";
import type { AskedList } from "@/operations/register/list-register";
import { onHorizon, onRegister } from "@/operations/register/on-register";
import { showObject } from "@/operations/register/show-object";
import { answerInquiry } from "@/operations/inquiry/answer-inquiry";
import { orchard } from "../browser/orchard";
import { ownDatabase } from "./own-database";
import type { OwnDatabase } from "./own-database";

let own: OwnDatabase;
let services: OwnDatabase["services"];
let [wilma, agnes] = [] as unknown as [Account, Account];
let [inMill, everywhere] = [-1, -1];

/** The orchard with a mill beside it, which Otto opens, and Iris by a group of hers. */
const withMill = {
  ...orchard,
  sites: [...(orchard.sites ?? []), { id: "mill", name: "Old mill", timeZone: "Europe/Vienna" }],
  doors: [...(orchard.doors ?? []), { id: "mill-door", name: "Mill door", site: "mill" }],
  grants: [
    ...(orchard.grants ?? []),
    { id: "otto-mill", to: { cardholder: "otto" }, open: { door: "mill-door" }, schedule: "always" },
    { id: "watch-mill", to: { group: "watch" }, open: { door: "mill-door" }, schedule: "night" },
  ],
};

beforeAll(async () => {
  own = await ownDatabase("nomade_limited");
  ({ services } = own);
  wilma = await own.account("wilma", "administrator");
  await storeFacility(services, JSON.stringify(withMill), "controller", { signIn: "test" }, unwatched);
  const snapshot = (await services.snapshots.latest())?.id ?? -1;
  const open = (name: string, sites?: readonly string[]) =>
    openRound(
      services,
      wilma,
      { name, due: "2026-04-01", snapshot, terms: { ...usualTerms, scope: { ...usualTerms.scope, ...(sites && { sites }) } } },
      unwatched,
    );
  [inMill, everywhere] = [await open("In the mill", ["mill"]), await open("Everywhere")];
  const added = await addAccount(services, wilma, { signIn: "agnes", name: "Agnes", role: "auditor", sites: ["mill"] });
  expect(added.outcome).toBe("done");
  agnes = (await services.accounts.bySignIn("agnes")) as Account;
});
afterAll(() => own.close());

const doors: AskedList = { kind: "door", of: undefined, columns: [], text: "", filters: {}, sort: "name", group: undefined };
const idsOf = async (by: Account, kind: AskedList["kind"]) =>
  (await onRegister(listRegister)(services, by, undefined, { ...doors, kind }, { offset: 0, limit: 100, withChoices: false }))?.rows.map(({ id }) => id);

it("an account is limited to sites of the register, if it looks at everything otherwise, and its session knows", async () => {
  expect(agnes.sites).toEqual(["mill"]);
  const asked = { signIn: "x", name: "X", cardholder: undefined } as const;
  expect(await addAccount(services, wilma, { ...asked, role: "administrator", sites: ["mill"] })).toEqual({ outcome: "refused", why: "sites-of-role" });
  for (const sites of [["nowhere"], ["mill", "nowhere"], []])
    expect(await addAccount(services, wilma, { ...asked, role: "reviewer", sites })).toEqual({ outcome: "refused", why: "no-site" });
  const { token, hash } = services.tokens.make();
  await services.sessions.open({ tokenHash: hash, account: agnes.id, agent: "" }, undefined, services.now());
  expect((await whoIs(services, token))?.sites).toEqual(["mill"]);
  // Another limit ends the session.
  const to = { name: "Agnes", role: "auditor", cardholder: undefined, email: undefined, language: undefined } as const;
  expect(await changeAccount(services, wilma, agnes.id, { ...to, sites: ["orchard", "mill"] })).toEqual({ outcome: "done" });
  expect(await whoIs(services, token)).toBeUndefined();
  await changeAccount(services, wilma, agnes.id, { ...to, sites: ["mill"] });
});

it("sees the register of its sites, with those who may open something there, and questions are answered of that", async () => {
  expect([await idsOf(agnes, "door"), await idsOf(agnes, "site")]).toEqual([["mill-door"], ["mill"]]);
  expect((await idsOf(agnes, "cardholder"))?.includes("otto")).toBe(true);
  // Nobody grants Nora anything there.
  expect(await idsOf(wilma, "cardholder")).toContain("nora");
  expect((await idsOf(agnes, "cardholder"))?.includes("nora")).toBe(
    (withMill.memberships ?? []).some(({ group, cardholder }) => group === "watch" && cardholder === "nora"),
  );
  expect(await idsOf(agnes, "grant")).toEqual(["otto-mill", "watch-mill"]);
  const show = onHorizon(showObject);
  expect(await show(services, agnes, undefined, { kind: "door", id: "cellar-door" })).toBeUndefined();
  expect((await show(services, agnes, undefined, { kind: "door", id: "mill-door" }))?.name).toBe("Mill door");
  const otto = await show(services, agnes, undefined, { kind: "cardholder", id: "otto" });
  expect([otto?.reach?.doors, otto?.findings, otto?.history]).toEqual([1, [], []]);
  const ask = onHorizon(answerInquiry);
  const who = { kind: "cardholder", id: "otto" } as const;
  const asked = await ask(services, agnes, undefined, { who, where: undefined, when: { kind: "any" }, lockdown: false } as never);
  expect(asked?.rows.map(({ door }) => door.id)).toEqual(["mill-door"]);
});

it("sees the rounds that were opened for its sites alone, and nothing of the others by any of their numbers", async () => {
  expect((await listRounds(services, agnes)).map(({ round }) => round.id)).toEqual([inMill]);
  expect((await showRound(services, agnes, inMill))?.round.name).toBe("In the mill");
  const [docket] = await services.rounds.dockets({ round: everywhere });
  expect([
    await showRound(services, agnes, everywhere),
    await listLines(services, agnes, everywhere, {}, 0),
    await exportOrders(services, agnes, everywhere),
    await showDocket(services, agnes, docket?.id ?? -1),
  ]).toEqual([undefined, undefined, undefined, undefined]);
  expect((await listLines(services, agnes, inMill, {}, 0))?.total).toBeGreaterThan(0);
});

it("stands in the record with its sites, and whoever takes the limit away by hand is found", async () => {
  const [entry] = await services.record.page({ what: "account.put" }, 1);
  expect(JSON.parse(entry?.content ?? "{}")).toMatchObject({ after: { role: "auditor", sites: '["mill"]' } });
  expect((await verifyAll(services)).problems).toEqual([]);
  await own.asOwner("UPDATE accounts SET sites = NULL WHERE sign_in = 'agnes'");
  expect((await verifyAll(services)).problems.join()).toMatch(/Account agnes is not as entry \d+ recorded it: sites/);
  await own.asOwner("UPDATE accounts SET sites = '[\"mill\"]' WHERE sign_in = 'agnes'");
});

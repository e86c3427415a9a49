import { afterAll, beforeAll, expect, it } from "@jest/globals";
import { existsSync, mkdirSync, readdirSync, utimesSync, writeFileSync } from "node:fs";
import path from "node:path";
import { inbox } from "@/data/inbox";
import { uploads } from "@/data/uploads";
import { enterpriseSchema, userSchema } from "@/intake/formats/people/scim/attributes";
import { unknownToSource } from "@/core/findings/rules/unknown-to-source";
import { judgeSnapshot } from "@/operations/findings/judge-snapshot";
import { answerFeed } from "@/operations/feed/answer-feed";
import { makeFeedToken } from "@/operations/feed/feed-tokens";
import { collectPushed, listArrivals, lookForArrivals, settleArrival } from "@/operations/intake/look-for-arrivals";
import { listSources, setRhythm } from "@/operations/intake/list-sources";
import { storeFacility } from "@/operations/intake/store-contents";
import { storeIntake } from "@/operations/intake/store-intake";
import { takeByItself } from "@/operations/intake/take-by-itself";
import { takeBackSnapshot } from "@/operations/intake/take-back";
import type { Account } from "@/operations/ports/accounts";
import { unwatched } from "@/operations/ports/progress";
import { openRegister } from "@/operations/register/open-register";
import type { ServerServices } from "@/operations/services";
import { orchard } from "../browser/orchard";
import type { OwnDatabase } from "./own-database";
import { ownDatabase } from "./own-database";

let own: OwnDatabase;
let services: ServerServices;
let reviewer: Account;

const folder = () => services.inbox.folderOf("controller");
const before = new Date(Date.now() - 60_000);
/** Lays a file in as something that was written a while ago. */
function layIn(name: string, text: string): void {
  mkdirSync(folder(), { recursive: true });
  const file = path.join(folder(), name);
  writeFileSync(file, text);
  utimesSync(file, before, before);
}
/** Looks twice, as the clock does: a file is whole once it has not changed between. */
async function look(): Promise<void> {
  await lookForArrivals(services);
  await lookForArrivals(services);
}
const snapshots = () => services.snapshots.list();
beforeAll(async () => {
  own = await ownDatabase("nomade_arrivals");
  services = {
    ...own.services,
    draftEffects: undefined as never,
    uploads: uploads(own.folder, 50),
    inbox: inbox(path.join(own.folder, "inbox")),
    takeByItself: (arrived) => takeByItself(own.services, arrived, unwatched),
    lookForFindings: () => Promise.resolve(),
  };
  reviewer = await own.account("rita", "reviewer");
  await storeFacility(services, JSON.stringify(orchard), "controller", { signIn: "test" }, unwatched);
});
afterAll(() => own.close());

it("is taken in by itself where it fits and changes the access of few, and waits with the reasons otherwise", async () => {
  const people = orchard.cardholders ?? [];
  layIn("first.json", JSON.stringify({ ...orchard, asOf: "2026-03-03T06:00:00Z" }));
  await look();
  // Nobody said that the folder is watched.
  expect([(await snapshots()).length, existsSync(path.join(folder(), "first.json"))]).toEqual([1, true]);

  expect(await setRhythm(services, reviewer, "controller", { watched: true })).toBe(true);
  await look();
  expect((await listArrivals(services, reviewer)).map(({ source, name, by, why }) => [source, name, by, why])).toEqual([
    ["controller", "first.json", "folder", [{ code: "looks-first" }]],
  ]);
  expect([(await snapshots()).length, readdirSync(folder())]).toEqual([1, []]);

  // Somebody looks, and stores it.
  const [arrival] = await listArrivals(services, reviewer);
  const file = await services.uploads.find(arrival?.token ?? "");
  if (!arrival || !file) throw new Error("nothing waits");
  const stored = await storeIntake(
    services,
    reviewer,
    { path: file.path, name: file.name, source: "controller", previewedFor: "controller", profile: undefined, asOf: undefined, leaveOut: 0, on: 1 },
    unwatched,
  );
  expect(stored.outcome).toBe("stored");
  await settleArrival(services, reviewer, arrival.token, true);
  await services.uploads.drop(file);
  expect(await listArrivals(services, reviewer)).toEqual([]);

  await setRhythm(services, reviewer, "controller", { watched: true, atMostPeople: 1 });
  const without = (id: string) => ({
    ...orchard,
    asOf: "2026-03-04T06:00:00Z",
    credentials: (orchard.credentials ?? []).filter(({ cardholder }) => cardholder !== id),
  });
  layIn("one less.json", JSON.stringify(without("iris")));
  layIn("half.json.part", "{");
  layIn("broken.json", JSON.stringify({ ...orchard, cardholders: [...people, { id: "iris", name: "Iris twice", status: "active" }] }));
  await look();
  expect((await snapshots()).length).toBe(3);
  expect((await snapshots())[0]?.source).toBe("controller");
  expect((await listArrivals(services, reviewer)).map(({ name, why }) => [name, why])).toEqual([["broken.json", [{ code: "refused", count: 1 }]]]);
  expect(readdirSync(folder())).toEqual(["half.json.part"]);

  layIn("nobody.json", JSON.stringify({ ...orchard, asOf: "2026-03-05T06:00:00Z", credentials: [] }));
  await look();
  expect((await listArrivals(services, reviewer)).find(({ name }) => name === "nobody.json")?.why).toEqual([{ code: "effect", people: 2, atMost: 1 }]);
  for (const { token } of await listArrivals(services, reviewer)) await settleArrival(services, reviewer, token, false);
  expect([await listArrivals(services, reviewer), readdirSync(path.join(own.folder, "uploads"))]).toEqual([[], []]);
  // Whoever discards something says so in the record.
  expect((await services.record.page({ what: "arrival.discarded" }, 10)).map(({ who, on }) => [who, on])).toEqual([
    ["rita", "controller"],
    ["rita", "controller"],
  ]);
});

it("of what a source pushes comes as often as is said, and not again where nothing changed", async () => {
  const administrator = await own.account("ada", "administrator");
  await makeFeedToken(services, administrator, "personnel");
  const push = (userName: string, employeeNumber: string) =>
    answerFeed(services, "personnel", {
      method: "POST",
      path: ["Users"],
      query: {},
      body: { schemas: [userSchema], userName, [enterpriseSchema]: { employeeNumber } },
      ifMatch: undefined,
      ifNoneMatch: undefined,
      base: "https://nomade.example/scim/v2",
    });
  for (const [name, number] of [
    ["iris", "0123"],
    ["nora", "0124"],
    ["otto", "0125"],
  ] as const)
    expect((await push(name, number)).status).toBe(201);
  await look();
  // Nobody said how often.
  expect(await listArrivals(services, reviewer)).toEqual([]);
  const token = await collectPushed(services, reviewer, "personnel");
  expect((await listArrivals(services, reviewer)).map(({ token: of, why }) => [of, why])).toEqual([[token, [{ code: "asked" }]]]);
  await settleArrival(services, reviewer, token ?? "", false);

  await setRhythm(services, reviewer, "personnel", { everyMinutes: 5, atMostPeople: 0 });
  await look();
  // What was let go is not brought up again before something else comes.
  expect((await snapshots())[0]?.source).toBe("controller");
  expect((await push("newcomer", "0200")).status).toBe(201);
  await look();
  const [latest] = await snapshots();
  expect(latest?.source).toBe("personnel");
  const count = (await snapshots()).length;
  await look();
  expect((await snapshots()).length).toBe(count);
  const sheets = await listSources(services, reviewer);
  expect(sheets.find(({ name }) => name === "personnel")?.feed?.changes).toBe(0);
  expect(sheets.map(({ name, lastAt }) => [name, lastAt !== undefined])).toEqual([
    ["controller", true],
    ["personnel", true],
  ]);
});

it("shows whom a source that lists everybody does not know, until it is taken back or said to be incomplete", async () => {
  const unknown = async () => {
    const latest = await services.snapshots.latest();
    const judged = await judgeSnapshot(services, latest?.id ?? 0);
    return judged && [...unknownToSource.find(judged, {}).flags].map(({ subject, proof }) => [subject.id, proof]);
  };
  // Dagmar has no card; whoever of the orchard opens something is known to both but for those that personnel never named.
  const register = (await openRegister(services))?.compiled.facility;
  const credentials = [
    ...(register?.credentials ?? []),
    { id: "c-dagmar", cardholder: "dagmar", kind: "card" as const, status: "active" as const, number: "4711" },
  ];
  const grants = [...(register?.grants ?? []), { id: "dagmar-cellar", to: { cardholder: "dagmar" }, open: { door: "cellar-door" }, schedule: "always" }];
  await storeFacility(services, JSON.stringify({ ...orchard, asOf: "2027-01-05T06:00:00Z", credentials, grants }), "controller", { signIn: "test" }, unwatched);
  expect(await unknown()).toEqual([["dagmar", { sources: ["personnel"] }]]);
  await services.sources.putOwns("personnel", { cardholders: { complete: false } }, { signIn: "test" }, services.now());
  expect(await unknown()).toEqual([]);
  await services.sources.putOwns("personnel", {}, { signIn: "test" }, services.now());
  expect(await unknown()).toEqual([["dagmar", { sources: ["personnel"] }]]);
  const [latest] = await snapshots();
  await takeBackSnapshot(services, latest?.id ?? 0, "It was the wrong register.", { signIn: "test" }, unwatched);
  expect(await unknown()).toEqual([]);
});

import { afterAll, beforeAll, expect, it } from "@jest/globals";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { enterpriseSchema, groupSchema, userSchema } from "@/intake/formats/people/scim/attributes";
import { patchSchema } from "@/intake/formats/people/scim/patch";
import { answerFeed, sourceOfToken } from "@/operations/feed/answer-feed";
import { collect } from "@/operations/feed/collect-feed";
import type { FeedRequest } from "@/operations/feed/feed-request";
import { listFeeds, makeFeedToken, revokeFeedToken } from "@/operations/feed/feed-tokens";
import { previewIntake } from "@/operations/intake/preview-intake";
import { storeFacility } from "@/operations/intake/store-contents";
import { storeIntake } from "@/operations/intake/store-intake";
import { openRegister } from "@/operations/register/open-register";
import { unwatched } from "@/operations/ports/progress";
import type { Account } from "@/operations/ports/accounts";
import { orchard } from "../browser/orchard";
import type { OwnDatabase } from "./own-database";
import { ownDatabase } from "./own-database";

let own: OwnDatabase;
let services: OwnDatabase["services"];
let administrator: Account;
let folder: string;
const base = "https://nomade.example/scim/v2";

type Answered = { status: number; body: Record<string, unknown>; headers: Readonly<Record<string, string>> };

async function ask(method: string, address: string, body?: unknown, more: Partial<FeedRequest> = {}, source = "personnel"): Promise<Answered> {
  const url = new URL(address, "https://x");
  const answer = await answerFeed(services, source, {
    method,
    path: url.pathname.split("/").filter((part) => part !== ""),
    query: Object.fromEntries(url.searchParams),
    body,
    ifMatch: undefined,
    ifNoneMatch: undefined,
    base,
    ...more,
  });
  return { status: answer.status, body: (answer.body ?? {}) as Record<string, unknown>, headers: answer.headers ?? {} };
}

const person = (userName: string, number: string, more: object = {}, enterprise: object = {}) => ({
  schemas: [userSchema, enterpriseSchema],
  userName,
  name: { givenName: userName, familyName: "Feed" },
  [enterpriseSchema]: { employeeNumber: number, ...enterprise },
  ...more,
});
const change = (...Operations: object[]) => ({ schemas: [patchSchema], Operations });
const ids = ({ body }: Answered) =>
  (body.Resources as { userName?: string; displayName?: string }[]).map(({ userName, displayName }) => userName ?? displayName);

/** Takes in what was pushed until now, as the page does: collected, previewed, stored. */
async function takeIn(source = "personnel") {
  const collected = await collect(services, source);
  if (!collected) throw new Error("nothing was pushed");
  const place = mkdtempSync(path.join(folder, "collected-"));
  for (const { name, text } of collected.tables) writeFileSync(path.join(place, name), text);
  const asked = { path: place, name: "pushed", source, profile: undefined, asOf: collected.asOf };
  const preview = await previewIntake(services, administrator, asked, unwatched);
  if (preview.kind !== "facility") return { preview };
  const outcome = await storeIntake(services, administrator, { ...asked, previewedFor: source, leaveOut: preview.leftOut, on: preview.on }, unwatched);
  return { preview, outcome };
}
const people = async () => (await openRegister(services))?.compiled.facility.cardholders ?? [];

beforeAll(async () => {
  own = await ownDatabase("nomade_feed");
  ({ services } = own);
  folder = mkdtempSync(path.join(tmpdir(), "nomade-feed-"));
  administrator = await own.account("ada", "administrator");
  await storeFacility(services, JSON.stringify(orchard), "controller", { signIn: "test" }, unwatched);
});
afterAll(async () => {
  rmSync(folder, { recursive: true, force: true });
  await own.close();
});

it("takes what has a token that works, for the source whose it is", async () => {
  const token = await makeFeedToken(services, administrator, "personnel");
  expect(await sourceOfToken(services, token)).toBe("personnel");
  expect(await sourceOfToken(services, `${token}x`)).toBeUndefined();
  const [feed] = await listFeeds(services, administrator);
  expect([feed?.source, feed?.people, feed?.tokens.length, feed?.tokens[0]?.lastUsedAt !== undefined]).toEqual(["personnel", 0, 1, true]);
  const second = await makeFeedToken(services, administrator, "personnel");
  expect(await revokeFeedToken(services, administrator, feed?.tokens[0]?.id ?? 0)).toBe(true);
  expect(await revokeFeedToken(services, administrator, feed?.tokens[0]?.id ?? 0)).toBe(false);
  expect([await sourceOfToken(services, token), await sourceOfToken(services, second)]).toEqual([undefined, "personnel"]);
});

it("answers as RFC 7644 has it: created, read, listed, replaced, changed, ended", async () => {
  const created = await ask("POST", "/Users", person("anna", "1001", { externalId: "e-1" }));
  expect([created.status, created.headers.location]).toEqual([201, `${base}/Users/${String(created.body.id)}`]);
  const at = `/Users/${String(created.body.id)}`;
  expect((await ask("POST", "/Users", person("ANNA", "1002"))).body).toMatchObject({ status: "409", scimType: "uniqueness" });
  expect((await ask("GET", at)).body).toEqual(created.body);
  expect((await ask("GET", at, undefined, { ifNoneMatch: created.headers.etag })).status).toBe(304);
  expect((await ask("GET", at, undefined, {}, "somebody else")).status).toBe(404);
  const replaced = await ask("PUT", at, person("anna", "1001", { title: "Gardener" }), { ifMatch: 'W/"1"' });
  expect([replaced.status, replaced.body.title, replaced.body.externalId, replaced.headers.etag]).toEqual([200, "Gardener", undefined, 'W/"2"']);
  expect((await ask("PATCH", at, change({ op: "replace", path: "title", value: "Head" }), { ifMatch: 'W/"1"' })).status).toBe(412);
  // What changes nothing is no new version.
  expect((await ask("PATCH", at, change({ op: "replace", path: "title", value: "Gardener" }))).headers.etag).toBe('W/"2"');
  expect((await ask("PATCH", at, change({ op: "replace", path: "shoeSize", value: "44" }))).body).toMatchObject({ status: "400", scimType: "invalidPath" });
  expect((await ask("DELETE", at)).status).toBe(204);
  for (const method of ["GET", "PUT", "PATCH", "DELETE"])
    expect((await ask(method, at, method === "PATCH" ? change({ op: "add", value: {} }) : person("anna", "1001"))).status).toBe(404);
  // Who ended stands in nobody's way.
  expect((await ask("POST", "/Users", person("anna", "1001"))).status).toBe(201);
});

it("lists by filter, in order and in parts", async () => {
  for (const [name, number] of [
    ["bert", "1003"],
    ["carla", "1002"],
    ["dora", "1004"],
  ] as const)
    await ask("POST", "/Users", person(name, number, { externalId: number }));
  expect(ids(await ask("GET", "/Users"))).toEqual(["anna", "bert", "carla", "dora"]);
  expect((await ask("GET", "/Users?count=0")).body).toMatchObject({ totalResults: 4, itemsPerPage: 0, Resources: [] });
  expect(ids(await ask("GET", "/Users?startIndex=2&count=2"))).toEqual(["bert", "carla"]);
  expect(ids(await ask("GET", `/Users?sortBy=${enterpriseSchema}:employeeNumber&sortOrder=descending&count=2`))).toEqual(["dora", "bert"]);
  expect(ids(await ask("GET", `/Users?filter=${encodeURIComponent('userName eq "BERT"')}`))).toEqual(["bert"]);
  expect(ids(await ask("GET", `/Users?filter=${encodeURIComponent('externalId eq "1002" or userName sw "d"')}`))).toEqual(["carla", "dora"]);
  expect(ids(await ask("GET", `/Users?filter=${encodeURIComponent('userName eq "nobody"')}`))).toEqual([]);
  expect((await ask("GET", "/Users?filter=shoeSize%20pr")).body).toMatchObject({ status: "400", scimType: "invalidFilter" });
  expect((await ask("GET", "/Users?startIndex=first")).body).toMatchObject({ status: "400", scimType: "invalidValue" });
  const searched = await ask("POST", "/Users/.search", {
    schemas: ["urn:ietf:params:scim:api:messages:2.0:SearchRequest"],
    filter: "userName pr",
    sortBy: "userName",
    sortOrder: "descending",
    count: 1,
    attributes: ["userName"],
  });
  expect([searched.body.totalResults, searched.body.Resources]).toEqual([
    4,
    [{ schemas: [userSchema, enterpriseSchema], id: expect.any(String), userName: "dora" }],
  ]);
  for (const [method, address, status] of [
    ["GET", "/ServiceProviderConfig", 200],
    ["GET", "/Schemas", 200],
    ["GET", `/Schemas/${userSchema}`, 200],
    ["GET", "/Schemas/urn:nothing", 404],
    ["GET", "/ResourceTypes/User", 200],
    ["GET", "/Schemas?filter=id%20pr", 403],
    ["POST", "/Bulk", 501],
    ["GET", "/Me", 501],
    ["GET", "/", 404],
    ["GET", "/Doors", 404],
    ["POST", "/Schemas", 405],
    ["PATCH", "/Users", 405],
  ] as const)
    expect([address, (await ask(method, address, {})).status]).toEqual([address, status]);
});

it("becomes an intake with its effect: joiners, movers, leavers, and groups of their own", async () => {
  const nora = await ask(
    "POST",
    "/Users",
    person("nora", "0124", { name: { formatted: "Nora Mosstrand-Lee" }, emails: [{ value: "nora@example.test" }] }, { department: "Cellar crew" }),
  );
  const manager = { manager: { value: nora.body.id } };
  const eve = await ask(
    "POST",
    "/Users",
    person("eve", "1009", { userType: "Contractor" }, { department: "Cellar crew", organization: "Pruners Ltd", ...manager }),
  );
  const pressers = { schemas: [groupSchema], displayName: "Pressers", members: [{ value: nora.body.id }, { value: eve.body.id }] };
  const group = await ask("POST", "/Groups", pressers);
  expect(group.status).toBe(201);
  const before = await people();
  const first = await takeIn();
  expect(first.outcome?.outcome).toBe("stored");
  const after = await people();
  // Whom the register has by this staff number keeps the id; everybody else of the register stays.
  const now = after.find(({ id }) => id === "nora");
  expect([now?.name, now?.email, now?.status]).toEqual(["Nora Mosstrand-Lee", "nora@example.test", "active"]);
  expect(before.every(({ id }) => after.some((one) => one.id === id))).toBe(true);
  expect(after.find(({ id }) => id === "1009")).toMatchObject({ type: "contractor", company: "Pruners Ltd", manager: "nora", department: now?.department });
  const facility = async () => (await openRegister(services))?.compiled.facility;
  const membersOf = async (name: string) => {
    const { groups = [], memberships = [] } = (await facility()) ?? {};
    const id = groups.find((one) => one.name === name)?.id;
    return memberships.filter((one) => one.group === id).map(({ cardholder }) => cardholder);
  };
  expect(await membersOf("Pressers")).toEqual(["1009", "nora"]);
  const others = (await facility())?.memberships.length ?? 0;

  await ask("PATCH", `/Users/${String(nora.body.id)}`, change({ op: "replace", value: { active: false } }));
  await ask("DELETE", `/Users/${String(eve.body.id)}`);
  const second = await takeIn();
  expect(second.preview.kind === "facility" && second.preview.effect !== undefined).toBe(true);
  const [suspended, left] = [(await people()).find(({ id }) => id === "nora"), (await people()).find(({ id }) => id === "1009")];
  expect([suspended?.status, suspended?.statusSince !== undefined, left?.status, left?.statusSince !== undefined]).toEqual(["suspended", true, "left", true]);
  // Who left is in the feed's groups no more; memberships of groups that it does not know stay.
  expect(await membersOf("Pressers")).toEqual(["nora"]);
  expect((await facility())?.memberships.length).toBe(others - 1);
  await ask("DELETE", `/Groups/${String(group.body.id)}`);
  await takeIn();
  expect(await membersOf("Pressers")).toEqual([]);

  // Who comes again has not left.
  await ask("POST", "/Users", person("eve", "1009", { userType: "Contractor" }));
  await takeIn();
  expect((await people()).find(({ id }) => id === "1009")?.status).toBe("active");
});

it("refuses by name who cannot be known, and takes somebody without a manager who is not there", async () => {
  await ask("POST", "/Users", { schemas: [userSchema], userName: "nobody-knows" });
  await ask("POST", "/Users", person("frida", "1010", {}, { manager: { value: "26118915-6090-4610-87e4-49d8ca9f808d" } }));
  const { preview, outcome } = await takeIn();
  expect(preview.kind === "facility" && preview.refused.map(({ column, value }) => [column, value])).toEqual([
    ["staffNumber", ""],
    ["manager", "26118915-6090-4610-87e4-49d8ca9f808d"],
  ]);
  expect(outcome?.outcome).toBe("stored");
  expect((await people()).find(({ id }) => id === "1010")).toMatchObject({ name: "frida Feed", status: "active" });
});

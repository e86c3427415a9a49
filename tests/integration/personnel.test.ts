import { createServer } from "node:http";
import type { AddressInfo } from "node:net";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, beforeAll, expect, it } from "@jest/globals";
import { answerFeed, sourceOfToken } from "@/operations/feed/answer-feed";
import { makeFeedToken } from "@/operations/feed/feed-tokens";
import { startPersonnelFeed } from "@/standins/personnel-feed";
import { newcomer, usernameOf } from "@/standins/personnel-people";
import type { OwnDatabase } from "./own-database";
import { ownDatabase } from "./own-database";

let own: OwnDatabase;
let service: ReturnType<typeof createServer>;
let office: Awaited<ReturnType<typeof startPersonnelFeed>>;
const folder = mkdtempSync(path.join(tmpdir(), "nomade-personnel-"));

const people = [
  { staffNumber: "1", givenName: "Åse", familyName: "Birch-Ohm", email: "ase@verrane.example", department: "Seeds" },
  { staffNumber: "2", givenName: "Bo", familyName: "Alder", email: "bo@verrane.example", department: "Seeds", manager: "1" },
  { staffNumber: "3", givenName: "Cleo", familyName: "Elm", email: "cleo@verrane.example", department: "Glasshouses", manager: "1" },
];

beforeAll(async () => {
  own = await ownDatabase("nomade_personnel");
  const { services } = own;
  const token = await makeFeedToken(services, await own.account("ada", "administrator"), "personnel");
  service = createServer((request, response) => {
    void (async () => {
      let text = "";
      for await (const piece of request) text += String(piece);
      const source = await sourceOfToken(services, request.headers.authorization?.replace("Bearer ", "") ?? "");
      const url = new URL(request.url ?? "/", "http://x");
      const answer = source
        ? await answerFeed(services, source, {
            method: request.method ?? "GET",
            path: url.pathname.split("/").slice(3),
            query: Object.fromEntries(url.searchParams),
            body: text === "" ? undefined : (JSON.parse(text) as unknown),
            ifMatch: undefined,
            ifNoneMatch: undefined,
            base: "http://x/scim/v2",
          })
        : { status: 401, body: {} };
      response.writeHead(answer.status).end(answer.body ? JSON.stringify(answer.body) : undefined);
    })();
  });
  await new Promise<void>((resolve) => service.listen(0, "127.0.0.1", resolve));
  const { port } = service.address() as AddressInfo;
  office = await startPersonnelFeed({ port: 0, folder, service: `http://127.0.0.1:${port}/scim/v2`, token, people });
});
afterAll(async () => {
  await office.stop();
  await new Promise((resolve) => service.close(resolve));
  rmSync(folder, { recursive: true, force: true });
  await own.close();
});

const act = (what: string, who = "", headers: Record<string, string> = {}) =>
  fetch(office.address, { method: "POST", body: new URLSearchParams({ act: what, who }), headers, redirect: "manual" });
const known = async () =>
  (await own.services.feeds.all("personnel")).map(({ body, endedAt, inactiveSince }) => [body.userName, endedAt !== undefined, inactiveSince !== undefined]);

it("tells of everybody, of who joins, moves, goes on leave and leaves, and shows what it sent", async () => {
  expect((await act("everybody")).status).toBe(303);
  expect(await known()).toEqual([
    ["ase.birchohm.1", false, false],
    ["bo.alder.2", false, false],
    ["cleo.elm.3", false, false],
  ]);
  const [ase, bo] = await own.services.feeds.all("personnel");
  expect(JSON.stringify(bo?.body)).toContain(`"manager":{"value":"${ase?.id ?? ""}"}`);
  await act("join");
  await act("move", "2");
  await act("leave", "3");
  await act("go", "1");
  const joiner = newcomer(people, 0);
  expect(await known()).toEqual([
    ["ase.birchohm.1", true, false],
    ["bo.alder.2", false, false],
    ["cleo.elm.3", false, true],
    [usernameOf(joiner), false, false],
  ]);
  const moved = (await own.services.feeds.all("personnel")).find(({ body }) => body.userName === "bo.alder.2");
  expect(JSON.stringify(moved?.body)).toContain('"department":"Glasshouses"');
  const shown = await (await fetch(office.address)).text();
  for (const words of [
    "Åse Birch-Ohm leaves",
    "DELETE /Users/",
    "Bo Alder moves to Glasshouses",
    "Cleo Elm goes on leave",
    `${joiner.givenName} ${joiner.familyName} joins`,
  ])
    expect(shown).toContain(words);
  // Everybody told of again is nobody new.
  await act("everybody");
  expect((await known()).length).toBe(4);
});

it("does nothing for the page of another site, and says where no answer came", async () => {
  expect((await act("join", "", { origin: "https://elsewhere.example" })).status).toBe(403);
  expect((await known()).length).toBe(4);
  expect((await fetch(`${office.address}other`)).status).toBe(404);
  const deaf = await startPersonnelFeed({ port: 0, folder: path.join(folder, "deaf"), service: "http://127.0.0.1:9/scim/v2", token: "none", people });
  await fetch(deaf.address, { method: "POST", body: new URLSearchParams({ act: "join" }), redirect: "manual" });
  expect(await (await fetch(deaf.address)).text()).toContain("no answer");
  await deaf.stop();
});

import { mkdir, readFile, rename, writeFile } from "node:fs/promises";
import { createServer } from "node:http";
import type { IncomingMessage, ServerResponse } from "node:http";
import type { AddressInfo } from "node:net";
import path from "node:path";
import type { Employee } from "./personnel-people";
import { newcomer, usernameOf } from "./personnel-people";

const userSchema = "urn:ietf:params:scim:schemas:core:2.0:User";
const enterpriseSchema = "urn:ietf:params:scim:schemas:extension:enterprise:2.0:User";
const patchSchema = "urn:ietf:params:scim:api:messages:2.0:PatchOp";

export interface PersonnelSettings {
  readonly port: number;
  /** Where people, and what was sent, are kept. */
  readonly folder: string;
  /** The service to which people are pushed, and the token for it. */
  readonly service: string;
  readonly token: string;
  /** Whom it employs at its first start. */
  readonly people: readonly Employee[];
}

/** A request that was sent, and how it was answered. */
interface Sent {
  readonly at: string;
  readonly why: string;
  readonly method: string;
  readonly path: string;
  readonly status: number;
  readonly answer: string;
}

interface State {
  people: readonly Employee[];
  joined: number;
  /** The latest first. */
  sent: readonly Sent[];
}

const sentKept = 400;
const sentShown = 60;
const peopleShown = 500;
const largestForm = 10_000;
const longestWaitMs = 20_000;

const escaped = (text: string): string => text.replace(/[<>&"]/g, (sign) => ({ "<": "&lt;", ">": "&gt;", "&": "&amp;", '"': "&quot;" })[sign] ?? sign);

const page = (body: string): string => `<!doctype html><html lang="en"><meta charset="utf-8"><title>Invented personnel office</title>
<style>body{font:15px/1.5 sans-serif;max-width:70em;margin:2em auto;padding:0 1em}table{border-collapse:collapse;width:100%;margin:.6em 0 1.6em}
th,td{text-align:left;border-bottom:1px solid #ccc;padding:.25em .6em .25em 0;vertical-align:top}button{padding:.35em .8em;min-height:28px}form{display:inline}
.acts{display:flex;gap:.6em;flex-wrap:wrap;margin:1em 0}code{font-size:13px}</style>
<h1>Invented personnel office</h1>${body}</html>`;

const button = (act: string, words: string, staffNumber = ""): string =>
  `<form method="post" action="/"><input type="hidden" name="act" value="${act}"><input type="hidden" name="who" value="${escaped(staffNumber)}"><button${staffNumber === "" ? "" : ` aria-label="${escaped(words)} ${escaped(staffNumber)}"`}>${escaped(words)}</button></form>`;

function shown({ people, sent }: State, service: string): string {
  const rows = people
    .slice(0, peopleShown)
    .map(
      (one) =>
        `<tr><td>${escaped(one.staffNumber)}</td><td>${escaped(`${one.givenName} ${one.familyName}`)}</td><td>${escaped(one.department)}</td><td>${one.told === undefined ? "not told yet" : one.isOnLeave === true ? "on leave" : "at work"}</td><td>${button("move", "Moves", one.staffNumber)} ${button("leave", one.isOnLeave === true ? "Comes back" : "Goes on leave", one.staffNumber)} ${button("go", "Leaves", one.staffNumber)}</td></tr>`,
    );
  const log = sent
    .slice(0, sentShown)
    .map(
      (one) =>
        `<tr><td>${escaped(one.at.slice(0, 19).replace("T", " "))}</td><td>${escaped(one.why)}</td><td><code>${escaped(`${one.method} ${one.path}`)}</code></td><td>${one.status === 0 ? "no answer" : one.status}</td><td>${escaped(one.answer)}</td></tr>`,
    );
  return page(`<p>It ships to try a people feed with. It employs made-up people, and pushes whoever joins, moves or leaves to <code>${escaped(service)}</code> by SCIM 2.0.</p>
<div class="acts">${button("join", "Somebody joins")}${button("everybody", "Tell of everybody")}</div>
<h2>What it sent</h2><table><thead><tr><th>When (UTC)</th><th>Why</th><th>Request</th><th>Answered</th><th></th></tr></thead><tbody>${log.join("") || "<tr><td colspan=5>Nothing yet.</td></tr>"}</tbody></table>
<h2>${people.length} people</h2><table><thead><tr><th>Number</th><th>Name</th><th>Department</th><th>Is</th><th></th></tr></thead><tbody>${rows.join("")}</tbody></table>`);
}

/** The resource that tells of somebody. */
function resourceOf(one: Employee, idOf: (staffNumber: string) => string | undefined): object {
  const manager = one.manager === undefined ? undefined : idOf(one.manager);
  return {
    schemas: [userSchema, enterpriseSchema],
    externalId: one.staffNumber,
    userName: usernameOf(one),
    name: { givenName: one.givenName, familyName: one.familyName, formatted: `${one.givenName} ${one.familyName}` },
    emails: [{ value: one.email, type: "work", primary: true }],
    userType: "Employee",
    active: one.isOnLeave !== true,
    [enterpriseSchema]: { employeeNumber: one.staffNumber, department: one.department, ...(manager !== undefined && { manager: { value: manager } }) },
  };
}

/** A small personnel office on loopback, with a page of its own: it pushes joiners, movers and leavers, and shows what it sent. */
export async function startPersonnelFeed(settings: PersonnelSettings): Promise<{ readonly address: string; readonly stop: () => Promise<void> }> {
  const { folder, service, token } = settings;
  await mkdir(folder, { recursive: true, mode: 0o700 });
  const file = path.join(folder, "office.json");
  const state: State = await readFile(file, "utf8").then(
    (text) => JSON.parse(text) as State,
    () => ({ people: settings.people, joined: 0, sent: [] }),
  );
  const keep = async (): Promise<void> => {
    await writeFile(`${file}.part`, JSON.stringify(state), { mode: 0o600 });
    await rename(`${file}.part`, file);
  };

  async function push(why: string, method: string, at: string, body?: object): Promise<{ readonly status: number; readonly id: string | undefined }> {
    let outcome: { readonly status: number; readonly answer: string; readonly id?: string | undefined };
    try {
      const response = await fetch(`${service}${at}`, {
        method,
        headers: { authorization: `Bearer ${token}`, "content-type": "application/scim+json" },
        signal: AbortSignal.timeout(longestWaitMs),
        ...(body && { body: JSON.stringify(body) }),
      });
      const text = await response.text();
      const told =
        text === "" ? {} : (JSON.parse(text) as { readonly id?: string; readonly detail?: string; readonly Resources?: readonly { readonly id?: string }[] });
      outcome = { status: response.status, answer: told.detail ?? "", id: told.id ?? told.Resources?.[0]?.id };
    } catch (error) {
      outcome = { status: 0, answer: error instanceof Error ? error.message : "" };
    }
    const { status, answer, id } = outcome;
    state.sent = [{ at: new Date().toISOString(), why, method, path: at, status, answer }, ...state.sent].slice(0, sentKept);
    return { status, id };
  }
  const idOf = (staffNumber: string): string | undefined => state.people.find((one) => one.staffNumber === staffNumber)?.told;
  const put = (one: Employee): void => {
    state.people = state.people.map((other) => (other.staffNumber === one.staffNumber ? one : other));
  };

  /** Tells of somebody: of who is known already by changing them, of who is not by creating them. */
  async function tell(one: Employee, why: string): Promise<void> {
    if (one.told !== undefined && (await push(why, "PUT", `/Users/${one.told}`, resourceOf(one, idOf))).status === 200) return put(one);
    const created = await push(why, "POST", "/Users", resourceOf(one, idOf));
    const known =
      created.status === 409
        ? await push("who has this name already", "GET", `/Users?filter=${encodeURIComponent(`userName eq "${usernameOf(one)}"`)}`)
        : created;
    put(known.id === undefined ? one : { ...one, told: known.id });
  }

  async function act(what: string, who: string): Promise<void> {
    const one = state.people.find(({ staffNumber }) => staffNumber === who);
    switch (what) {
      case "join": {
        const joiner = newcomer(state.people, state.joined++);
        state.people = [joiner, ...state.people];
        return tell(joiner, `${joiner.givenName} ${joiner.familyName} joins`);
      }
      case "everybody":
        // Managers first, so that those below can name them.
        for (const each of [...state.people].sort((a, b) => Number(a.manager !== undefined) - Number(b.manager !== undefined)))
          await tell(
            state.people.find(({ staffNumber }) => staffNumber === each.staffNumber) ?? each,
            `${each.givenName} ${each.familyName}, as everybody is told of`,
          );
        return;
      case "move": {
        if (!one) return;
        const departments = [...new Set(state.people.map(({ department }) => department))].sort();
        const department = departments[(departments.indexOf(one.department) + 1) % departments.length] ?? one.department;
        return tell({ ...one, department }, `${one.givenName} ${one.familyName} moves to ${department}`);
      }
      case "leave": {
        if (!one) return;
        const isOnLeave = one.isOnLeave !== true;
        put({ ...one, isOnLeave });
        const why = `${one.givenName} ${one.familyName} ${isOnLeave ? "goes on leave" : "comes back"}`;
        if (one.told !== undefined)
          await push(why, "PATCH", `/Users/${one.told}`, { schemas: [patchSchema], Operations: [{ op: "replace", path: "active", value: !isOnLeave }] });
        return;
      }
      case "go":
        if (!one) return;
        state.people = state.people.filter(({ staffNumber }) => staffNumber !== one.staffNumber);
        if (one.told !== undefined) await push(`${one.givenName} ${one.familyName} leaves`, "DELETE", `/Users/${one.told}`);
    }
  }

  let last: Promise<void> = Promise.resolve();
  async function answer(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const send = (status: number, type: string, text: string): void =>
      void response.writeHead(status, { "content-type": type, "cache-control": "no-store" }).end(text);
    if (request.url !== "/") return send(404, "text/plain", "There is nothing here.");
    if (request.method !== "POST") return send(200, "text/html", shown(state, service));
    const { origin, host } = request.headers;
    if (origin !== undefined && origin !== `http://${host ?? ""}`) return send(403, "text/plain", "This comes from another page.");
    let text = "";
    for await (const piece of request) {
      text += String(piece);
      if (text.length > largestForm) return send(413, "text/plain", "This is too much.");
    }
    const form = new URLSearchParams(text);
    // One after the other: what is told of somebody stands on what was told before.
    last = last.then(() => act(form.get("act") ?? "", form.get("who") ?? "")).then(keep);
    await last;
    response.writeHead(303, { location: "/" }).end();
  }

  const server = createServer((request, response) => {
    answer(request, response).catch((error: unknown) => {
      console.error("The personnel office could not answer:", error);
      if (!response.headersSent) response.writeHead(500).end();
    });
  });
  await new Promise<void>((resolve, reject) => {
    server.once("error", reject);
    server.listen(settings.port, "127.0.0.1", resolve);
  });
  return {
    address: `http://127.0.0.1:${(server.address() as AddressInfo).port}/`,
    stop: () =>
      new Promise((resolve) => {
        server.close(() => resolve());
        server.closeAllConnections();
      }),
  };
}

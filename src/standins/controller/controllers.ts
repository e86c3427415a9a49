import { timingSafeEqual } from "node:crypto";
import { createServer } from "node:http";
import type { IncomingMessage, ServerResponse } from "node:http";
import type { AddressInfo } from "node:net";
import path from "node:path";
import type { ObjectSchema } from "joi";
import type { UnitLimits, UnitMemory } from "@/core/units/unit-memory";
import { memoryParts } from "@/core/units/unit-protocol";
import type { MemoryPart } from "@/core/units/unit-protocol";
import { ControllerUnit, UnitRefusal } from "./controller-unit";
import { acknowledgeRequest, changesRequest, clockRequest, doorEventRequest, lockdownRequest, presentRequest, treatmentRequest } from "./unit-requests";

/** A unit, and how it is when it is started for the first time. */
export interface StandInUnit {
  readonly id: string;
  readonly limits: UnitLimits;
  readonly memory?: UnitMemory;
  readonly isOffline?: boolean;
  readonly clockOff?: number;
  readonly drift?: number;
}

export interface ControllerSettings {
  readonly port: number;
  /** Where each unit has a folder of its own. */
  readonly folder: string;
  readonly token: string;
  readonly units: readonly StandInUnit[];
}

const largestRequest = 2_000_000;
const largestPage = 1000;
const usualPage = 500;

async function bodyOf<T>(request: IncomingMessage, schema: ObjectSchema<T>): Promise<T> {
  let size = 0;
  const pieces: Buffer[] = [];
  for await (const piece of request as AsyncIterable<Buffer>) {
    size += piece.length;
    if (size > largestRequest) throw new UnitRefusal(400, `A request has ${largestRequest} bytes at most.`);
    pieces.push(piece);
  }
  let value: unknown;
  try {
    value = JSON.parse(Buffer.concat(pieces).toString("utf8"));
  } catch {
    throw new UnitRefusal(400, "This is no JSON.");
  }
  const checked = schema.validate(value, { convert: false, abortEarly: false });
  if (checked.error) throw new UnitRefusal(400, checked.error.message);
  return checked.value;
}

const countIn = (query: URLSearchParams, name: string, otherwise: number, most: number): number => {
  const text = query.get(name);
  if (text === null) return otherwise;
  if (!/^\d{1,15}$/.test(text) || Number(text) > most) throw new UnitRefusal(400, `“${name}” is a whole number up to ${most}.`);
  return Number(text);
};

const isPart = (text: string | null): text is MemoryPart => memoryParts.some((part) => part === text);

/** What a unit answers to a request below its own address; undefined where there is nothing by that name. */
async function answerAtUnit(unit: ControllerUnit, request: IncomingMessage, below: string, query: URLSearchParams): Promise<unknown> {
  switch (`${request.method ?? ""} ${below}`) {
    case "GET /":
      return unit.status();
    case "PUT /clock":
      unit.setClock((await bodyOf(request, clockRequest)).at);
      return unit.status();
    case "PUT /lockdown":
      unit.setLockdown((await bodyOf(request, lockdownRequest)).raised);
      return unit.status();
    case "GET /memory": {
      const part = query.get("part");
      if (!isPart(part)) throw new UnitRefusal(400, `“part” is one of ${memoryParts.join(", ")}.`);
      return unit.page(part, query.get("after") ?? undefined, countIn(query, "limit", usualPage, largestPage));
    }
    case "POST /changes":
      return unit.change(await bodyOf(request, changesRequest));
    case "GET /events":
      return unit.eventsAfter(countIn(query, "after", 0, Number.MAX_SAFE_INTEGER), countIn(query, "limit", usualPage, largestPage));
    case "POST /events/acknowledged": {
      const { run, through } = await bodyOf(request, acknowledgeRequest);
      unit.acknowledge(run, through);
      return unit.status();
    }
    default:
      return undefined;
  }
}

/** What somebody does at the doors of a stand-in, which is no part of the protocol. */
async function answerAtDoors(unit: ControllerUnit, request: IncomingMessage, below: string): Promise<unknown> {
  switch (`${request.method ?? ""} ${below}`) {
    case "GET /":
      return { ...unit.status(), isOffline: unit.isOffline };
    case "POST /present":
      return unit.present(await bodyOf(request, presentRequest));
    case "POST /door":
      return unit.happened(...(await bodyOf(request, doorEventRequest).then(({ door, what }): [string, "forced" | "held"] => [door, what])));
    case "PUT /treatment":
      unit.treat(await bodyOf(request, treatmentRequest));
      return { ...unit.status(), isOffline: unit.isOffline };
    default:
      return undefined;
  }
}

/**
 * Small controllers on loopback, each at `/units/ID` as a real one would be at an address of its own; what people do at their doors goes to `/doors/ID`. A unit
 * that is offline does not answer at the first, and goes on deciding at the second.
 */
export async function startControllers(settings: ControllerSettings): Promise<{ readonly address: string; readonly stop: () => Promise<void> }> {
  const units = new Map(
    settings.units.map((unit) => [unit.id, new ControllerUnit(unit.id, path.join(settings.folder, encodeURIComponent(unit.id).replace(/\./g, "%2E")), unit)]),
  );
  const expected = Buffer.from(`Bearer ${settings.token}`);
  const isKnown = ({ headers: { authorization } }: IncomingMessage): boolean => {
    const given = Buffer.from(authorization ?? "");
    return given.length === expected.length && timingSafeEqual(given, expected);
  };

  async function answer(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const send = (status: number, body: unknown): void =>
      void response.writeHead(status, { "content-type": "application/json", "cache-control": "no-store" }).end(JSON.stringify(body));
    const url = new URL(request.url ?? "/", "http://unit");
    const parts = /^\/(units|doors)\/([^/]+)(\/.*)?$/.exec(url.pathname);
    let id: string | undefined;
    try {
      id = parts ? decodeURIComponent(parts[2] ?? "") : undefined;
    } catch {
      id = undefined;
    }
    const unit = id === undefined ? undefined : units.get(id);
    const isUnit = parts?.[1] === "units";
    if (unit?.isOffline && isUnit) return void request.socket.destroy();
    if (!isKnown(request)) return send(401, { error: "The token is missing or wrong." });
    if (!unit) return send(404, { error: "There is no such unit." });
    try {
      const below = parts?.[3] ?? "/";
      const body = isUnit ? await answerAtUnit(unit, request, below, url.searchParams) : await answerAtDoors(unit, request, below);
      return body === undefined ? send(404, { error: "There is nothing here." }) : send(200, body);
    } catch (error) {
      if (!(error instanceof UnitRefusal)) throw error;
      return send(error.status, { error: error.message, ...(error.done !== undefined && { done: error.done }) });
    }
  }

  const server = createServer((request, response) => {
    answer(request, response).catch((error: unknown) => {
      console.error("A stand-in controller could not answer:", error);
      if (!response.headersSent) response.writeHead(500).end();
    });
  });
  await new Promise<void>((resolve, reject) => {
    server.once("error", reject);
    server.listen(settings.port, "127.0.0.1", resolve);
  });
  return {
    address: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    stop: () =>
      new Promise((resolve) => {
        server.close(() => resolve());
        server.closeAllConnections();
      }),
  };
}

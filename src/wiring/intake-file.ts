import { createHash } from "node:crypto";
import { createReadStream } from "node:fs";
import { readFile, stat } from "node:fs/promises";
import { pipeline } from "node:stream/promises";
import { formatMinute } from "@/core/time/instant";
import type { EpochMinute } from "@/core/time/instant";
import { EventRowError, readEvents } from "@/intake/formats/events/read-events";
import { openRegister } from "@/operations/register/open-register";
import type { Actor } from "@/operations/ports/record";
import type { PrintedIssue } from "@/operations/ports/snapshots";
import type { Report } from "@/operations/ports/progress";
import { unwatched } from "@/operations/ports/progress";
import { previewFacility } from "@/operations/intake/preview-intake";
import type { IntakeOutcome, IntakePreview, ReadAs, Services, UnknownInEvents } from "@/operations/services";
import { lookForFindings, storeFacility } from "@/operations/intake/store-intake";
import { eventForm } from "./event-form";
import { isCalendar, previewCalendar, storeCalendar } from "./intake-calendar";
import { asItIs, isBundle, previewBundle, storeBundle } from "./intake-bundle";

const refusedRow = (error: EventRowError): PrintedIssue => ({ level: "error", path: `line ${error.line}, ${error.column}`, code: "malformed", message: error.message });

async function fileHash(path: string): Promise<string> {
  const hash = createHash("sha256");
  await pipeline(createReadStream(path), hash);
  return hash.digest("hex");
}

/** A document is checked as one text, and a text cannot be longer than this; what is larger comes as tables. */
const largestDocument = 500 * 1024 * 1024;

/** The text of a facility document; what is wrong where it is too large to be one. */
async function documentText(path: string, name: string): Promise<{ readonly text: string } | { readonly errors: readonly PrintedIssue[]; readonly errorCount: number }> {
  const { size } = await stat(path);
  if (size <= largestDocument) return { text: await readFile(path, "utf8") };
  const megabytes = (bytes: number): string => `${Math.round(bytes / 2 ** 20).toLocaleString("en-GB")} MB`;
  return { errors: [{ level: "error", path: name, code: "too-large", message: `Found ${megabytes(size)}; expected a facility document of at most ${megabytes(largestDocument)}. A larger register comes as a ZIP of CSV tables.` }], errorCount: 1 };
}

const namedAtMost = 5;

type Named = { readonly door: string; readonly credential: string };

/** Counts the doors and credentials of events that the present register does not know; without a register nothing is unknown yet. */
async function unknownCounter(services: Services): Promise<{ readonly count: (event: Named) => void; readonly found: () => UnknownInEvents }> {
  const register = await openRegister(services);
  if (!register) return { count: () => undefined, found: () => ({ doors: 0, credentials: 0, someDoors: [], someCredentials: [] }) };
  const [doors, credentials] = [new Set<string>(), new Set<string>()];
  return {
    count: ({ door, credential }) => {
      if (!register.compiled.doorById.has(door)) doors.add(door);
      if (!register.compiled.credentialById.has(credential)) credentials.add(credential);
    },
    found: () => ({ doors: doors.size, credentials: credentials.size, someDoors: [...doors].slice(0, namedAtMost), someCredentials: [...credentials].slice(0, namedAtMost) }),
  };
}

async function* counted<T>(items: AsyncIterable<T>, count: (item: T) => void): AsyncGenerator<T> {
  for await (const item of items) {
    count(item);
    yield item;
  }
}

/** What a file would bring: a facility document, events as CSV or JSON Lines, a bundle of CSV tables, or a holiday calendar, by its name. */
export async function previewFile(services: Services, path: string, name: string, report: Report = unwatched, readAs: ReadAs = asItIs): Promise<IntakePreview> {
  report({ step: "reading", done: 0, of: 1 });
  if (isCalendar(name)) return previewCalendar(services, path, name, report, readAs);
  if (await isBundle(path, name)) return previewBundle(services, path, name, report, readAs);
  const form = eventForm(name);
  if (!form) {
    const document = await documentText(path, name);
    return "errors" in document ? { kind: "refused", fileName: name, ...document } : previewFacility(services, document.text, name, report, readAs.owns);
  }
  const unknown = await unknownCounter(services);
  const seen = { rows: 0, from: Infinity, to: -Infinity };
  try {
    for await (const event of readEvents(createReadStream(path), form)) {
      seen.rows++;
      seen.from = Math.min(seen.from, event.at);
      seen.to = Math.max(seen.to, event.at);
      unknown.count(event);
    }
  } catch (error) {
    if (error instanceof EventRowError) return { kind: "refused", fileName: name, errors: [refusedRow(error)], errorCount: 1 };
    throw error;
  }
  const written = (minute: number): string => (Number.isFinite(minute) ? formatMinute(minute as EpochMinute) : "");
  return {
    kind: "events",
    fileName: name,
    rows: seen.rows,
    from: written(seen.from),
    to: written(seen.to),
    unknownDoors: unknown.found().doors,
    unknownCredentials: unknown.found().credentials,
  };
}

export interface StoringChoices {
  /** How many rows of a bundle may be left out. */
  readonly leaveOut: number;
  readonly readAs?: ReadAs;
  /** The snapshot that its effect was shown against, where it was shown; null for none. */
  readonly on?: number | null;
}

/** Takes a file in, all or nothing. */
export async function storeFile(services: Services, path: string, name: string, source: string, who: Actor, { leaveOut, readAs = asItIs, on }: StoringChoices, report: Report = unwatched): Promise<IntakeOutcome> {
  report({ step: "reading", done: 0, of: 1 });
  if (isCalendar(name)) return storeCalendar(services, path, name, source, who, leaveOut, report, readAs, on);
  if (await isBundle(path, name)) return storeBundle(services, path, name, source, who, leaveOut, report, readAs, on);
  const form = eventForm(name);
  if (!form) {
    const document = await documentText(path, name);
    return "errors" in document ? { outcome: "refused", ...document } : storeFacility(services, document.text, source, who, report, { owns: readAs.owns, leaveOut, on });
  }
  try {
    const unknown = await unknownCounter(services);
    const stored = await services.events.store({ name, hash: await fileHash(path) }, counted(readEvents(createReadStream(path), form), unknown.count), who, services.now(), report);
    if (stored.outcome === "unchanged") return { outcome: "unchanged", what: `events of ${name}`, snapshot: undefined };
    report({ step: "findings", done: 0, of: 1 });
    await lookForFindings(services);
    return { outcome: "stored", what: `events of ${name}`, snapshot: undefined, rows: stored.rows, unknown: unknown.found() };
  } catch (error) {
    if (error instanceof EventRowError) return { outcome: "refused", errors: [refusedRow(error)], errorCount: 1 };
    throw error;
  }
}

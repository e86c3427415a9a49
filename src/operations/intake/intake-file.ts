import { formatMinute } from "@/core/time/instant";
import type { EpochMinute } from "@/core/time/instant";
import { ownersIn } from "@/core/events/told-card";
import type { ToldEvent } from "@/core/events/event-book";
import type { EventForm } from "@/intake/formats/events/read-events";
import { EventRowError, storableEvents } from "@/intake/formats/events/read-events";
import { BundleError } from "@/intake/formats/tables/bundle-error";
import type { RefusedRow } from "@/intake/formats/tables/bundle-file";
import { rowsLeftOut } from "@/intake/formats/tables/settle-bundle";
import { openTable } from "@/intake/formats/tables/source-table";
import { eventsOfTables, makesEvents } from "@/intake/profile/events-of-tables";
import { placesOf } from "../findings/judging";
import type { PlaceOf } from "../ports/events";
import type { Actor } from "../ports/record";
import type { PrintedIssue } from "../ports/snapshots";
import type { Report } from "../ports/progress";
import { unwatched } from "../ports/progress";
import type { SourceFile } from "../ports/source-files";
import { openRegister } from "../register/open-register";
import type { IntakeOutcome, IntakePreview, ReadAs, Services, UnknownInEvents } from "../services";
import { asItIs, previewBundle, printedRow, refusedCsv, storeBundle } from "./intake-bundle";
import { previewCalendar, storeCalendar } from "./intake-calendar";
import { keepProfile } from "./keep-profile";
import { kindOfFile, openSource } from "./open-source";
import { previewFacility } from "./preview-contents";
import { openTables } from "./read-tables";
import { storeFacility } from "./store-contents";
import { lookForFindings } from "../findings/look-for-findings";

/** A document is checked as one text, and a text cannot be longer than this; what is larger comes as tables. */
const largestDocument = 500 * 1024 * 1024;

const megabytes = (bytes: number): string => `${Math.round(bytes / 2 ** 20).toLocaleString("en-GB")} MB`;

/** What is wrong with a file that is too large to be a facility document; undefined where it is not. */
function tooLarge({ name, bytes }: SourceFile): { readonly errors: readonly PrintedIssue[]; readonly errorCount: number } | undefined {
  if (bytes <= largestDocument) return undefined;
  const message = `Found ${megabytes(bytes)}; expected a facility document of at most ${megabytes(largestDocument)}. A larger register comes as a ZIP of CSV tables.`;
  return { errors: [{ level: "error", path: name, code: "too-large", message }], errorCount: 1 };
}

const namedAtMost = 5;

/** Counts the doors and credentials of events that the register does not know; without a register nothing is unknown yet. */
async function unknownCounter(services: Services): Promise<{ readonly count: (event: ToldEvent) => void; readonly found: () => UnknownInEvents }> {
  const register = await openRegister(services);
  if (!register) return { count: () => undefined, found: () => ({ doors: 0, credentials: 0, someDoors: [], someCredentials: [] }) };
  const [doors, credentials] = [new Set<string>(), new Set<string>()];
  const owners = ownersIn(register.compiled);
  return {
    count: (event) => {
      if (!register.compiled.doorById.has(event.door)) doors.add(event.door);
      if (owners.ownerOf(event) !== "unknown") return;
      const { credential, number, facilityCode } = event;
      credentials.add(credential ?? [facilityCode, number].filter(Boolean).join("-"));
    },
    found: () => ({
      doors: doors.size,
      credentials: credentials.size,
      someDoors: [...doors].slice(0, namedAtMost),
      someCredentials: [...credentials].slice(0, namedAtMost),
    }),
  };
}

async function* counted<T>(items: AsyncIterable<T>, count: (item: T) => void): AsyncGenerator<T> {
  for await (const item of items) {
    count(item);
    yield item;
  }
}

/** How events are read: from a file of our form, or from tables by a profile. */
type EventSource = { readonly form: EventForm } | { readonly form: "profile" };

/** Whether a text is a table of events as the documentation has it, by its header. */
async function isEventTable(services: Pick<Services, "limits">, file: SourceFile): Promise<boolean> {
  const { headers } = await openTable({ name: file.name, open: () => Promise.resolve(file.stream()) }, services.limits);
  return ["at", "door", "result"].every((column) => headers.includes(column));
}

/** What a file is: events, a calendar, a document, or tables; by what is in it, and by the profile. */
async function natureOf(
  services: Pick<Services, "limits">,
  file: SourceFile,
  { profile }: Pick<ReadAs, "profile">,
): Promise<EventSource | "calendar" | "document" | "tables"> {
  const kind = await kindOfFile(file);
  if (kind === "calendar") return "calendar";
  if (kind === "json-lines") return { form: "jsonl" };
  if (kind === "facility") return "document";
  if (makesEvents(profile)) return { form: "profile" };
  return kind === "text" && (await isEventTable(services, file)) ? { form: "csv" } : "tables";
}

/** Whether a file brings events. */
export async function areEvents(services: Services, path: string, name: string, profile: ReadAs["profile"]): Promise<boolean> {
  return typeof (await natureOf(services, await services.files.open(path, name), { profile })) === "object";
}

const rowsKept = 5000;

/** Events that can be kept, and what cannot be read of them. */
interface ReadEvents {
  readonly events: AsyncIterable<ToldEvent>;
  readonly refused: RefusedRow[];
  readonly count: () => number;
}

async function readEvents(services: Services, file: SourceFile, source: EventSource, { profile }: ReadAs): Promise<ReadEvents> {
  const refused: RefusedRow[] = [];
  const lines = new Set<string>();
  const refuse = (row: RefusedRow): void => {
    if (refused.length < rowsKept || row.whole) refused.push(row);
    lines.add(`${row.line} ${row.file}`);
  };
  const count = (): number => lines.size;
  if (source.form !== "profile") {
    const told = ({ line, column, message }: EventRowError): void =>
      refuse({ file: file.name, line, column, value: "", reason: message.replace(/^Line \d+, column [^:]*: /, "") });
    return { events: storableEvents(file.stream(), source.form, told), refused, count };
  }
  const register = await openRegister(services);
  const { files, close } = await openSource(file, services.limits);
  const doors = new Map<string, string | undefined>();
  for (const { id, name } of register?.compiled.facility.doors ?? []) {
    const key = name.trim().toLowerCase();
    // A name that two doors have names none.
    doors.set(key, doors.has(key) ? undefined : id);
  }
  const doorOf = (text: string): string => (register?.compiled.doorById.has(text) ? text : (doors.get(text.trim().toLowerCase()) ?? text));
  async function* events(): AsyncGenerator<ToldEvent> {
    try {
      if (!profile) return;
      const zone = register?.compiled.facility.timeZone ?? profile.facility?.timeZone ?? "UTC";
      yield* eventsOfTables(await openTables(files, profile, services.limits), profile, { zone, tagOfPin: services.tagOfPin }, doorOf, refuse);
    } finally {
      close();
    }
  }
  return { events: events(), refused, count };
}

const listedAtMost = 200;

async function previewEvents(services: Services, file: SourceFile, source: EventSource, readAs: ReadAs): Promise<IntakePreview> {
  const unknown = await unknownCounter(services);
  const seen = { rows: 0, from: Infinity, to: -Infinity };
  const refusal = (errors: readonly PrintedIssue[], errorCount: number): IntakePreview => ({
    kind: "refused",
    fileName: file.name,
    errors,
    errorCount,
    ...(source.form === "profile" && { isTables: true }),
  });
  try {
    const { events, refused, count } = await readEvents(services, file, source, readAs);
    for await (const event of events) {
      seen.rows++;
      const minute = Math.floor(event.second / 60);
      seen.from = Math.min(seen.from, minute);
      seen.to = Math.max(seen.to, minute);
      unknown.count(event);
    }
    if (refused.length > 0) await services.files.keepRefusedRows(file, refusedCsv(refused));
    // Where nothing at all could be read, there is nothing that the rest could be left out of.
    if (refused.some(({ whole }) => whole) || (seen.rows === 0 && refused.length > 0)) return refusal(refused.slice(0, listedAtMost).map(printedRow), count());
    const written = (minute: number): string => (Number.isFinite(minute) ? formatMinute(minute as EpochMinute) : "");
    const { doors, credentials } = unknown.found();
    return {
      kind: "events",
      fileName: file.name,
      rows: seen.rows,
      from: written(seen.from),
      to: written(seen.to),
      unknownDoors: doors,
      unknownCredentials: credentials,
      leftOut: count(),
      refused: refused.slice(0, listedAtMost),
    };
  } catch (error) {
    if (error instanceof EventRowError) return refusal([brokenFile(error)], 1);
    if (error instanceof BundleError) return refusal([notOpened(error, file.name)], 1);
    throw error;
  }
}

const brokenFile = (error: EventRowError): PrintedIssue => ({
  level: "error",
  path: `line ${error.line}, ${error.column}`,
  code: "malformed",
  message: error.message,
});
const notOpened = (error: BundleError, name: string): PrintedIssue => ({ level: "error", path: name, code: "not-a-bundle", message: error.message });

/** What a file would bring: a facility document, events, tables, or a holiday calendar, by what is in it. */
export async function previewFile(services: Services, path: string, name: string, readAs: ReadAs = asItIs, report: Report = unwatched): Promise<IntakePreview> {
  report({ step: "reading", done: 0, of: 1 });
  const file = await services.files.open(path, name);
  const nature = await natureOf(services, file, readAs);
  if (nature === "calendar") return previewCalendar(services, file, report, readAs);
  if (nature === "tables") return previewBundle(services, file, report, readAs);
  if (nature !== "document") return previewEvents(services, file, nature, readAs);
  const refused = tooLarge(file);
  return refused ? { kind: "refused", fileName: name, ...refused } : previewFacility(services, await file.text(), name, report, readAs.owns);
}

export interface StoringChoices {
  /** How many rows of a bundle may be left out. */
  readonly leaveOut: number;
  readonly readAs?: ReadAs;
  /** The snapshot that its effect was shown against, where it was shown; null for none. */
  readonly on?: number | null;
}

/** Thrown at the end of a stream of events of which other rows cannot be read than may be left out: nothing of it is stored. */
class RefusedEvents extends Error {}

/** Events to their end, if just so many of their rows cannot be read. */
async function* withoutRefused({ events, refused, count }: ReadEvents, leaveOut: number): AsyncGenerator<ToldEvent> {
  yield* events;
  if (refused.some(({ whole }) => whole) || count() !== leaveOut) throw new RefusedEvents();
}

async function storeEvents(
  services: Services,
  file: SourceFile,
  from: EventSource,
  source: string,
  who: Actor,
  { leaveOut, readAs = asItIs }: StoringChoices,
  report: Report,
): Promise<IntakeOutcome> {
  const what = `events of ${file.name}`;
  let read: ReadEvents | undefined;
  try {
    const unknown = await unknownCounter(services);
    read = await readEvents(services, file, from, readAs);
    const stored = await services.events.store(
      { name: file.name, hash: await file.hash(), source },
      counted(withoutRefused(read, leaveOut), unknown.count),
      await placesNow(services),
      who,
      services.now(),
      report,
    );
    await keepProfile(services, source, readAs.profile, who);
    if (source !== "") await services.deliveries.note({ source, name: file.name, at: services.now(), asOf: undefined });
    if (stored.outcome === "unchanged") return { outcome: "unchanged", what, snapshot: undefined };
    report({ step: "findings", done: 0, of: 1 });
    await lookForFindings(services);
    return { outcome: "stored", what, snapshot: undefined, rows: stored.rows, repeated: stored.repeated, unknown: unknown.found() };
  } catch (error) {
    if (error instanceof RefusedEvents && read)
      return { outcome: "refused", errors: read.refused.slice(0, listedAtMost).map(printedRow), errorCount: rowsLeftOut(read.refused) };
    if (error instanceof EventRowError) return { outcome: "refused", errors: [brokenFile(error)], errorCount: 1 };
    if (error instanceof BundleError) return { outcome: "refused", errors: [notOpened(error, file.name)], errorCount: 1 };
    throw error;
  }
}

/** Where the doors of the present register are; without one nobody knows. */
export async function placesNow(services: Services): Promise<PlaceOf> {
  const register = await openRegister(services);
  return register ? await placesOf(services, register.compiled) : () => undefined;
}

/** Takes a file in, all or nothing. */
export async function storeFile(
  services: Services,
  path: string,
  name: string,
  source: string,
  who: Actor,
  choices: StoringChoices,
  report: Report = unwatched,
): Promise<IntakeOutcome> {
  report({ step: "reading", done: 0, of: 1 });
  const { leaveOut, readAs = asItIs, on } = choices;
  const file = await services.files.open(path, name);
  const nature = await natureOf(services, file, readAs);
  if (nature === "calendar") return storeCalendar(services, file, source, who, leaveOut, report, readAs, on);
  if (nature === "tables") return storeBundle(services, file, source, who, leaveOut, report, readAs, on);
  if (nature !== "document") return storeEvents(services, file, nature, source, who, choices, report);
  const refused = tooLarge(file);
  return refused ? { outcome: "refused", ...refused } : storeFacility(services, await file.text(), source, who, report, { owns: readAs.owns, leaveOut, on });
}

import { formatMinute } from "@/core/time/instant";
import type { EpochMinute } from "@/core/time/instant";
import { eventForm } from "@/intake/formats/events/event-form";
import type { EventForm } from "@/intake/formats/events/read-events";
import { EventRowError, storableEvents } from "@/intake/formats/events/read-events";
import { ownersIn } from "@/core/events/told-card";
import type { ToldEvent } from "@/core/events/event-book";
import { placesOf } from "../findings/judging";
import type { PlaceOf } from "../ports/events";
import type { Actor } from "../ports/record";
import type { PrintedIssue } from "../ports/snapshots";
import type { Report } from "../ports/progress";
import { unwatched } from "../ports/progress";
import type { SourceFile } from "../ports/source-files";
import { openRegister } from "../register/open-register";
import type { IntakeOutcome, IntakePreview, ReadAs, Services, UnknownInEvents } from "../services";
import { asItIs, isBundle, previewBundle, storeBundle } from "./intake-bundle";
import { isCalendar, previewCalendar, storeCalendar } from "./intake-calendar";
import { previewFacility } from "./preview-contents";
import { storeFacility } from "./store-contents";
import { lookForFindings } from "../findings/look-for-findings";

const refusedRow = (error: EventRowError): PrintedIssue => ({
  level: "error",
  path: `line ${error.line}, ${error.column}`,
  code: "malformed",
  message: error.message,
});

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

async function previewEvents(services: Services, file: SourceFile, form: EventForm): Promise<IntakePreview> {
  const unknown = await unknownCounter(services);
  const seen = { rows: 0, from: Infinity, to: -Infinity };
  try {
    for await (const event of storableEvents(file.stream(), form)) {
      seen.rows++;
      const minute = Math.floor(event.second / 60);
      seen.from = Math.min(seen.from, minute);
      seen.to = Math.max(seen.to, minute);
      unknown.count(event);
    }
  } catch (error) {
    if (error instanceof EventRowError) return { kind: "refused", fileName: file.name, errors: [refusedRow(error)], errorCount: 1 };
    throw error;
  }
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
  };
}

/** What a file would bring: a facility document, events as CSV or JSON Lines, a bundle of CSV tables, or a holiday calendar, by its name. */
export async function previewFile(services: Services, path: string, name: string, readAs: ReadAs = asItIs, report: Report = unwatched): Promise<IntakePreview> {
  report({ step: "reading", done: 0, of: 1 });
  const file = await services.files.open(path, name);
  if (isCalendar(name)) return previewCalendar(services, file, report, readAs);
  if (isBundle(file)) return previewBundle(services, file, report, readAs);
  const form = eventForm(name);
  if (form) return previewEvents(services, file, form);
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

async function storeEvents(services: Services, file: SourceFile, form: EventForm, source: string, who: Actor, report: Report): Promise<IntakeOutcome> {
  const what = `events of ${file.name}`;
  try {
    const unknown = await unknownCounter(services);
    const stored = await services.events.store(
      { name: file.name, hash: await file.hash(), source },
      counted(storableEvents(file.stream(), form), unknown.count),
      await placesNow(services),
      who,
      services.now(),
      report,
    );
    if (stored.outcome === "unchanged") return { outcome: "unchanged", what, snapshot: undefined };
    report({ step: "findings", done: 0, of: 1 });
    await lookForFindings(services);
    return { outcome: "stored", what, snapshot: undefined, rows: stored.rows, repeated: stored.repeated, unknown: unknown.found() };
  } catch (error) {
    if (error instanceof EventRowError) return { outcome: "refused", errors: [refusedRow(error)], errorCount: 1 };
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
  { leaveOut, readAs = asItIs, on }: StoringChoices,
  report: Report = unwatched,
): Promise<IntakeOutcome> {
  report({ step: "reading", done: 0, of: 1 });
  const file = await services.files.open(path, name);
  if (isCalendar(name)) return storeCalendar(services, file, source, who, leaveOut, report, readAs, on);
  if (isBundle(file)) return storeBundle(services, file, source, who, leaveOut, report, readAs, on);
  const form = eventForm(name);
  if (form) return storeEvents(services, file, form, source, who, report);
  const refused = tooLarge(file);
  return refused ? { outcome: "refused", ...refused } : storeFacility(services, await file.text(), source, who, report, { owns: readAs.owns, leaveOut, on });
}

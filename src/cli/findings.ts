import { createReadStream } from "node:fs";
import { open } from "node:fs/promises";
import { parseArgs } from "node:util";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import { EventBook, eachOnce } from "@/core/events/event-book";
import type { ToldEvent } from "@/core/events/event-book";
import { aheadOf } from "@/core/facility/ahead";
import type { DataIssue } from "@/core/facility/issue";
import { allRules, ruleOf } from "@/core/findings/catalogue";
import { judgeAll } from "@/core/findings/judge";
import type { PrintedFinding, PrintedUntold } from "@/core/findings/judge";
import { Judged } from "@/core/findings/judged";
import type { Earlier } from "@/core/findings/judged";
import { usualSettings } from "@/core/findings/settings";
import type { Result } from "@/core/kernel/result";
import { Horizon } from "@/core/table/horizon";
import { minuteDown } from "@/core/time/instant";
import { instantOf } from "@/core/facility/time-rules";
import { readDecisions } from "@/intake/formats/decisions/read-decisions";
import { EventRowError, readToldEvents } from "@/intake/formats/events/read-events";
import type { EventForm } from "@/intake/formats/events/read-events";
import { readRules } from "@/intake/formats/rules/read-rules";
import { publicHolidaysOf } from "@/wiring/public-holidays";
import { compiledFile, textOfFile } from "./facility-file";
import { linePrinter, printableIssue, Refusal, say, UsageError } from "./output";

const options = {
  events: { type: "string", multiple: true },
  earlier: { type: "string", multiple: true },
  settings: { type: "string" },
  decisions: { type: "string" },
  rule: { type: "string", multiple: true },
  risk: { type: "boolean" },
  snapshot: { type: "string" },
} as const;

/** What was read, or a refusal with all that is wrong, one JSON object a line. */
function accepted<T>(read: Result<T, readonly DataIssue[]>): T {
  if (!read.ok) throw new Refusal(read.error.map((issue) => JSON.stringify(printableIssue(issue))).join("\n"));
  return read.value;
}

/** JSON Lines where the first character that is not blank is `{`, else CSV. */
async function formOf(path: string): Promise<EventForm> {
  const file = await open(path).catch((error: NodeJS.ErrnoException) => {
    throw new UsageError(`The file ${path} cannot be read: ${error.code ?? error.message}.`);
  });
  try {
    const buffer = Buffer.alloc(4096);
    for (let at = 0; ;) {
      const { bytesRead } = await file.read(buffer, 0, buffer.length, at);
      const first = /[^\s\uFEFF]/.exec(buffer.toString("utf8", 0, bytesRead))?.[0];
      if (first !== undefined) return first === "{" ? "jsonl" : "csv";
      if (bytesRead === 0) return "csv";
      at += bytesRead;
    }
  } catch (error) {
    throw new UsageError(`The file ${path} cannot be read: ${(error as NodeJS.ErrnoException).code ?? (error as Error).message}.`);
  } finally {
    await file.close();
  }
}

async function eventsOfFiles(paths: readonly string[]): Promise<ToldEvent[]> {
  const events: ToldEvent[] = [];
  for (const path of paths) {
    const form = await formOf(path);
    try {
      for await (const event of readToldEvents(createReadStream(path), form)) events.push(event);
    } catch (error) {
      if (!(error instanceof EventRowError)) throw error;
      throw new Refusal(JSON.stringify({ level: "error", path: `${path}: line ${error.line}, ${error.column}`, code: "malformed", message: error.message }));
    }
  }
  return events;
}

/** Earlier documents in the order of their exports: before the one that is judged, and no two of one minute. */
async function earlierDocuments(paths: readonly string[], compiled: CompiledFacility): Promise<Earlier[]> {
  const asOf = (one: CompiledFacility) => minuteDown(instantOf(one.facility.asOf));
  const earlier: Earlier[] = [];
  for (const path of paths) {
    const document = await compiledFile(path);
    const minute = asOf(document);
    if (minute >= asOf(compiled)) throw new UsageError(`The document ${path} is not earlier than the one that is judged.`);
    if (earlier.some((other) => other.asOf === minute)) throw new UsageError(`The document ${path} is of the same minute as another.`);
    earlier.push({ compiled: document, asOf: minute });
  }
  return earlier.sort((a, b) => a.asOf - b.asOf);
}

const written = (line: PrintedFinding | PrintedUntold): string =>
  "cannotTell" in line
    ? `{"rule":${JSON.stringify(line.rule)},"cannotTell":${JSON.stringify(line.cannotTell)},"covered":{${[...line.covered]
        // Written by hand: an object would put sites that are called by numbers before the others.
        .map(([site, covered]) => `${JSON.stringify(site)}:${JSON.stringify(covered)}`)
        .join(",")}}}`
    : JSON.stringify(line);

async function printFindings(judged: Judged, keys: readonly string[] | undefined, withRisk: boolean): Promise<number> {
  const printer = linePrinter();
  for (const line of judgeAll(judged, keys, withRisk)) await printer.print(written(line));
  await printer.flush();
  return 0;
}

/** `nomade findings`: what should not be, of a document, or of a snapshot. */
export async function findings(args: readonly string[]): Promise<number> {
  const { values, positionals } = parseArgs({ args: [...args], allowPositionals: true, options });
  const [path, ...more] = positionals;
  if (more.length > 0) throw new UsageError("findings takes one facility document; earlier ones are named with --earlier.");
  const { rule: keys, events = [], earlier = [] } = values;
  for (const key of keys ?? []) if (!ruleOf(key)) throw new UsageError(`There is no rule ${key}; there are ${allRules.map((rule) => rule.key).join(", ")}.`);
  if (path === undefined) {
    if (events.length + earlier.length > 0 || values.settings !== undefined || values.decisions !== undefined)
      throw new UsageError("--events, --settings, --earlier and --decisions go with a facility document.");
    const { judgedSnapshot } = await import("./snapshots");
    return judgedSnapshot(values.snapshot, (judged) => printFindings(judged, keys, !!values.risk));
  }
  if (values.snapshot !== undefined) throw new UsageError("--snapshot goes without a facility document.");
  const compiled = await compiledFile(path);
  const { facility } = compiled;
  const settings = values.settings === undefined ? usualSettings : accepted(readRules(await textOfFile(values.settings), facility));
  const decisions = values.decisions === undefined ? undefined : accepted(readDecisions(await textOfFile(values.decisions)));
  const documents = await earlierDocuments(earlier, compiled);
  const ahead = aheadOf(facility, settings.horizonDays);
  const book = new EventBook(compiled, eachOnce(await eventsOfFiles(events)), ahead.from);
  const ambiguous = book.events.filter(({ owner }) => owner === "one-of-several").length;
  if (ambiguous > 0) say(`${ambiguous} events name a number that several credentials have; they are of none, and count for what events cover only.`);
  const unknown = book.events.filter(({ owner }) => owner === "unknown").length;
  if (unknown > 0) say(`${unknown} events are of credentials or numbers that the document does not have.`);
  const elsewhere = book.events.filter(({ at }) => at === -1).length;
  if (elsewhere > 0) say(`${elsewhere} events are of doors that the document does not have.`);
  const countries = Object.values(settings.sites ?? {}).flatMap(({ country }) => country ?? []);
  const judged = new Judged({
    horizon: new Horizon(compiled, ahead),
    settings,
    events: book,
    earlier: documents,
    decisions,
    publicHolidays: await publicHolidaysOf(countries),
    // A document alone does not say who brought what.
    peopleSources: [],
    houseRules: [],
    unitReports: undefined,
  });
  return printFindings(judged, keys, !!values.risk);
}

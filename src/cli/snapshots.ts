import { parseArgs } from "node:util";
import type { Judged } from "@/core/findings/judged";
import { required } from "@/core/kernel/invariant";
import { calendarFile } from "@/intake/formats/calendar/calendar-file";
import { bundleWorkbook, bundleZip } from "@/intake/formats/tables/bundle-zip";
import type { Snapshot } from "@/operations/ports/snapshots";
import { judgeSnapshot, takeBackSnapshot } from "@/wiring/command-line";
import { printLine, Refusal, UsageError } from "./output";
import { asRefusal, commandLine, snapshotAsked, wholeNumber, withServices, writeTo } from "./with-database";

/** `nomade snapshots`: every snapshot, the latest first. */
export async function snapshots(args: readonly string[]): Promise<number> {
  const { values } = parseArgs({ args: [...args], options: { "take-back": { type: "string" }, reason: { type: "string" } } });
  const { "take-back": wrong, reason } = values;
  if ((wrong === undefined) !== (reason === undefined)) throw new UsageError("--take-back names the snapshot to take back, and goes with --reason.");
  return withServices(async (services) => {
    if (wrong !== undefined) {
      const taken = await takeBackSnapshot(services, wholeNumber("take-back", wrong), reason ?? "", commandLine, () => undefined);
      if (taken.outcome === "refused") throw new Refusal(taken.errors.map(({ message }) => message).join(" "));
      await printLine(taken);
      return 0;
    }
    for (const { noteCount: notes, ...snapshot } of await services.snapshots.list()) await printLine({ ...snapshot, notes });
    return 0;
  });
}

const formats = ["document", "csv", "xlsx", "ics"] as const;

function exported(format: (typeof formats)[number], text: string, { id, takenAt }: Snapshot, calendar: string | undefined): string | Uint8Array {
  if (format === "document") return text;
  if (format === "csv") return bundleZip(text, takenAt);
  if (format === "xlsx") return bundleWorkbook(text);
  const written = calendarFile(text, calendar ?? "");
  if (written === undefined) throw new UsageError(`Snapshot ${id} has no calendar ${calendar ?? ""}.`);
  return written;
}

/** `nomade export`: the frozen document of a snapshot, whose SHA-256 is the snapshot's, or tables (a ZIP of CSV, or a workbook) that read back to it. */
export async function exportSnapshot(args: readonly string[]): Promise<number> {
  const { values } = parseArgs({
    args: [...args],
    options: { format: { type: "string" }, out: { type: "string" }, snapshot: { type: "string" }, calendar: { type: "string" } },
  });
  const { out } = values;
  const format = formats.find((one) => one === values.format);
  if (!format) throw new UsageError("--format takes document, csv, xlsx or ics.");
  if ((format === "ics") !== (values.calendar !== undefined))
    throw new UsageError("--calendar names the calendar to write where the format is ics, and goes with no other.");
  if (out === undefined) throw new UsageError("export needs --out.");
  return withServices(async (services) => {
    const snapshot = await snapshotAsked(services, values.snapshot);
    const text = await asRefusal(() => services.snapshots.frozen(snapshot.id));
    await writeTo(out, await asRefusal(() => Promise.resolve().then(() => exported(format, text, snapshot, values.calendar))));
    await services.record.append(commandLine, services.now(), { what: "snapshot.exported", on: `snapshot ${snapshot.id}` });
    await printLine({ snapshot: snapshot.id, hash: snapshot.hash, out });
    return 0;
  });
}

/** A snapshot as its rules judge it, with what is kept of events, with what was before it and what was decided. */
export const judgedSnapshot = <T>(asked: string | undefined, use: (judged: Judged) => Promise<T>): Promise<T> =>
  withServices(async (services) => {
    const { id } = await snapshotAsked(services, asked);
    return use(required(await judgeSnapshot(services, id), "it was found just now"));
  });

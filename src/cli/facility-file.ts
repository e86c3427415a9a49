import { readFile } from "node:fs/promises";
import { compileFacility } from "@/core/compile/compile-facility";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import type { Facility } from "@/core/facility/facility";
import { minuteDown, parseInstant } from "@/core/time/instant";
import type { EpochMinute, Instant } from "@/core/time/instant";
import { readFacility } from "@/intake/formats/facility/read-facility";
import { printableIssue, Refusal, UsageError } from "./output";

/** Text of a file; wrong usage where it cannot be read. */
export async function textOfFile(path: string): Promise<string> {
  try {
    return await readFile(path, "utf8");
  } catch (error) {
    throw new UsageError(`The file ${path} cannot be read: ${(error as NodeJS.ErrnoException).code ?? (error as Error).message}.`);
  }
}

/** Reads a document; refused with all its errors, one JSON object a line. */
export async function documentFile(path: string): Promise<Facility> {
  const checked = readFacility(await textOfFile(path));
  if (!checked.ok) throw new Refusal(checked.error.map((issue) => JSON.stringify(printableIssue(issue))).join("\n"));
  return checked.value.facility;
}

/** Reads and compiles a document. */
export const compiledFile = async (path: string): Promise<CompiledFacility> => compileFacility(await documentFile(path));

export function instantArgument(option: string, text: string | undefined): Instant {
  const instant = text === undefined ? undefined : parseInstant(text);
  if (!instant) throw new UsageError(`--${option} takes an instant such as 2026-03-02T08:00:00Z, not ${text ?? "nothing"}.`);
  return instant;
}

export const minuteArgument = (option: string, text: string | undefined): EpochMinute => minuteDown(instantArgument(option, text));

import { readFacility } from "@/intake/formats/facility/read-facility";
import { textOfFile } from "./facility-file";
import { exitRefused, printableIssue, printLine, UsageError } from "./output";

/** `nomade check`: every error of a document, or what is odd in it. */
export async function check(args: readonly string[]): Promise<number> {
  const [file, ...more] = args;
  if (file === undefined || more.length > 0 || file.startsWith("-")) throw new UsageError("check takes one facility document.");
  const checked = readFacility(await textOfFile(file));
  for (const issue of checked.ok ? checked.value.notes : checked.error) await printLine(printableIssue(issue));
  return checked.ok ? 0 : exitRefused;
}

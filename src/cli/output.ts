import type { DataIssue } from "@/core/facility/issue";
import { issueWords } from "@/intake/formats/facility/issue-words";

/** Wrong usage: said in a sentence on standard error; the exit status is then 2. */
export class UsageError extends Error {}

/** Something was refused; said on standard error, exit status 1. */
export class Refusal extends Error {}

export const exitRefused = 1;
export const exitWrongUsage = 2;

/** Writes one JSON object a line, waiting where the reader is slower than we are, so that memory stays constant. */
export async function printLine(value: unknown): Promise<void> {
  if (!process.stdout.write(`${JSON.stringify(value)}\n`)) await new Promise((resolve) => process.stdout.once("drain", resolve));
}

const bufferedCharacters = 65_536;

/** Writes many lines in few pieces; `flush` must be awaited at the end. Memory stays constant: the reader's pace is kept. */
export function linePrinter(): { readonly print: (line: string) => Promise<void> | undefined; readonly flush: () => Promise<void> } {
  let waiting = "";
  const flush = async (): Promise<void> => {
    const text = waiting;
    waiting = "";
    if (text !== "" && !process.stdout.write(text)) await new Promise((resolve) => process.stdout.once("drain", resolve));
  };
  return {
    flush,
    print: (line) => {
      waiting += `${line}\n`;
      return waiting.length >= bufferedCharacters ? flush() : undefined;
    },
  };
}

/** An issue as it is printed. */
export const printableIssue = (issue: DataIssue) => ({
  level: issue.level,
  path: issue.path,
  code: issue.code,
  message: issueWords(issue),
});

export const say = (sentence: string): void => {
  process.stderr.write(`${sentence}\n`);
};

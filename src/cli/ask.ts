import { createReadStream } from "node:fs";
import { access } from "node:fs/promises";
import { parseArgs } from "node:util";
import Joi from "joi";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import { askVerdict } from "@/core/paths/trace";
import { minuteDown, parseInstant } from "@/core/time/instant";
import { checkInput } from "@/wiring/web/check-input";
import { compiledFile, minuteArgument } from "./facility-file";
import { exitRefused, linePrinter, printLine, UsageError } from "./output";

interface Question {
  readonly credential: string;
  readonly door: string;
  readonly at: string;
  readonly lockdown?: boolean;
  readonly asIfLive?: boolean;
}

const questionSchema = Joi.object<Question>({
  credential: Joi.string().allow("").required(),
  door: Joi.string().allow("").required(),
  at: Joi.string().required(),
  lockdown: Joi.boolean(),
  asIfLive: Joi.boolean(),
});

function answer(compiled: CompiledFacility, line: string): { error: string } | ReturnType<typeof askVerdict> {
  let value: unknown;
  try {
    value = JSON.parse(line);
  } catch {
    return { error: "This line is no JSON; expected an object with credential, door and at." };
  }
  const asked = checkInput(questionSchema, value);
  if (!asked.ok) return { error: asked.error };
  const question = asked.value;
  const at = parseInstant(question.at);
  if (!at) return { error: `"at" is ${JSON.stringify(question.at)}; expected an instant such as 2026-03-02T08:00:00Z.` };
  return askVerdict(compiled, {
    credential: question.credential,
    door: question.door,
    at: minuteDown(at),
    mode: { lockdown: !!question.lockdown, asIfLive: !!question.asIfLive },
  });
}

/** The lines of a file. Only a line feed ends one: JSON text may hold U+2028 and other separators as they are. */
async function* linesOf(path: string): AsyncGenerator<string> {
  let rest = "";
  for await (const piece of createReadStream(path, "utf8") as AsyncIterable<string>) {
    const lines = (rest + piece).split("\n");
    rest = lines.pop() ?? "";
    yield* lines;
  }
  if (rest !== "") yield rest;
}

async function answerBatch(compiled: CompiledFacility, path: string): Promise<number> {
  await access(path).catch(() => {
    throw new UsageError(`The file ${path} cannot be read.`);
  });
  let status = 0;
  const printer = linePrinter();
  for await (const line of linesOf(path)) {
    const answered = answer(compiled, line);
    if ("error" in answered) status = exitRefused;
    await printer.print(JSON.stringify(answered));
  }
  await printer.flush();
  return status;
}

/** `nomade ask`: one verdict with its paths, or a batch of them. */
export async function ask(args: readonly string[]): Promise<number> {
  const { values, positionals } = parseArgs({
    args: [...args],
    allowPositionals: true,
    options: {
      credential: { type: "string" },
      door: { type: "string" },
      at: { type: "string" },
      batch: { type: "string" },
      lockdown: { type: "boolean" },
      "as-if-live": { type: "boolean" },
    },
  });
  const [file, ...more] = positionals;
  if (file === undefined || more.length > 0) throw new UsageError("ask takes one facility document.");
  if (values.batch !== undefined) {
    if (values.credential ?? values.door ?? values.at ?? values.lockdown ?? values["as-if-live"])
      throw new UsageError("--batch takes its questions from the file and no other option.");
    return answerBatch(await compiledFile(file), values.batch);
  }
  if (values.credential === undefined || values.door === undefined) throw new UsageError("ask needs --credential, --door and --at, or --batch.");
  const at = minuteArgument("at", values.at);
  const mode = { lockdown: !!values.lockdown, asIfLive: !!values["as-if-live"] };
  await printLine(askVerdict(await compiledFile(file), { credential: values.credential, door: values.door, at, mode }));
  return 0;
}

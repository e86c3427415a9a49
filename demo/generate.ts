import { createWriteStream } from "node:fs";
import { writeFile } from "node:fs/promises";
import { once } from "node:events";
import { parseArgs } from "node:util";
import { plansOf } from "./drawings/plans";
import { earlierExports, instituteAt } from "./earlier";
import { eventLines } from "./events";
import { verraneInstitute } from "./institute";
import { rules } from "./rules";

const usage = `npm run demo -- --cardholders N --doors M --seed S --out FILE

Writes the Verrane Institute, which is invented, as a facility document to FILE, and thirteen months of its events
as CSV beside it (FILE with .events.csv for .json). With --history also what it was at two earlier exports (.earlier-1.json,
.earlier-2.json), how its rules judge (.rules.json), and the plans of its buildings (.plans.json). The same seed writes the same bytes.`;

function wholeNumber(option: string, text: string): number {
  if (!/^\d{1,7}$/.test(text)) {
    process.stderr.write(`--${option} takes a whole number, not ${text}.\n${usage}\n`);
    process.exit(2);
  }
  return Number(text);
}

function optionsGiven() {
  try {
    return parseArgs({
      options: {
        cardholders: { type: "string", default: "420" },
        doors: { type: "string", default: "95" },
        seed: { type: "string", default: "7" },
        out: { type: "string" },
        "no-events": { type: "boolean", default: false },
        history: { type: "boolean", default: false },
      },
    }).values;
  } catch (error) {
    process.stderr.write(`${(error as Error).message}\n${usage}\n`);
    process.exit(2);
  }
}

const values = optionsGiven();
if (values.out === undefined) {
  process.stderr.write(`${usage}\n`);
  process.exit(2);
}
const size = {
  cardholders: wholeNumber("cardholders", values.cardholders),
  doors: wholeNumber("doors", values.doors),
  seed: wholeNumber("seed", values.seed),
};
const institute = verraneInstitute(size);
await writeFile(values.out, JSON.stringify(institute));
process.stderr.write(`${values.out}: ${institute.cardholders?.length} cardholders, ${institute.doors?.length} doors\n`);
const base = values.out.replace(/\.json$/, "");
if (values.history) {
  for (const [i, earlier] of earlierExports.entries()) await writeFile(`${base}.earlier-${i + 1}.json`, JSON.stringify(instituteAt(institute, earlier)));
  await writeFile(`${base}.rules.json`, JSON.stringify(rules));
  await writeFile(`${base}.plans.json`, JSON.stringify(plansOf(institute)));
}
if (!values["no-events"]) {
  const path = `${base}.events.csv`;
  const file = createWriteStream(path);
  let count = -1;
  for (const line of eventLines(institute, size.seed)) {
    count++;
    if (!file.write(`${line}\r\n`)) await once(file, "drain");
  }
  file.end();
  await once(file, "finish");
  process.stderr.write(`${path}: ${count} events\n`);
}

import { readFileSync } from "node:fs";
import { parseArgs } from "node:util";
import { required } from "@/core/kernel/invariant";
import { Institute, from, to } from "./institute";
import { Measurements } from "./measuring";
import { peakMemory } from "./memory";
import { measureComparison } from "./questions/comparison";
import { measureFindings } from "./questions/findings";
import { measureReading, measureSecondDocument } from "./questions/reading";
import { measureSummary } from "./questions/summary";
import { measureTimetables } from "./questions/timetables";
import { measureVerdicts } from "./questions/verdicts";
import { measureWho } from "./questions/who";
import { SqlPeer } from "./sql";

const { values } = parseArgs({ options: { file: { type: "string" }, size: { type: "string", default: "s" }, memory: { type: "string" } } });
const text = readFileSync(required(values.file, "--file names a document"), "utf8");

async function measure(): Promise<unknown> {
  const measurements = new Measurements();
  const institute = new Institute(text, values.size);
  const { compiled, table } = institute;
  measureReading(institute, measurements);
  measureSecondDocument(institute, measurements);
  const sql = await SqlPeer.load(compiled, from, to);
  const { asked, answers, others } = await measureVerdicts(institute, sql, measurements);
  await measureWho(institute, sql, measurements);
  await measureTimetables(institute, sql, asked.filter((_, i) => answers[i]).slice(0, 400), others.slice(0, 1000), measurements);
  await sql.close();
  measureSummary(institute, measurements);
  measureComparison(institute, measurements);
  measureFindings(institute, measurements);
  return {
    cardholders: compiled.facility.cardholders.length,
    doors: compiled.facility.doors.length,
    fileBytes: text.length,
    rows: table.rows.count,
    timelines: table.timelines.size,
    measured: measurements.lines,
  };
}

process.stdout.write(`${JSON.stringify(values.memory === undefined ? await measure() : peakMemory(text, values.memory === "rows"))}\n`);

import { readFileSync } from "node:fs";
import { setTimeout as wait } from "node:timers/promises";
import { parseArgs } from "node:util";
import { usualTerms } from "@/core/certification/round-terms";
import type { FacilityDocument } from "@/core/facility/document";
import { required } from "@/core/kernel/invariant";
import { decideLine } from "@/operations/certification/decide-line";
import { openRound } from "@/operations/certification/open-round";
import { verifyAll } from "@/operations/evidence/verify-all";
import { storeFacility } from "@/operations/intake/store-contents";
import type { Account } from "@/operations/ports/accounts";
import { unwatched } from "@/operations/ports/progress";
import type { DocketLine } from "@/operations/ports/rounds";
import { openServices } from "@/wiring/services";

/** So many certifiers decide at once, each line by line: how many decisions a second, how long each takes, and whether all of them stand, each once. */
const { values } = parseArgs({ options: { file: { type: "string" }, certifiers: { type: "string", default: "200" }, lines: { type: "string", default: "20" } } });
const [count, each] = [Number(values.certifiers), Number(values.lines)];

const tell = (line: string): void => void process.stderr.write(`  ${line}\n`);
const document = JSON.parse(readFileSync(required(values.file, "--file names a document"), "utf8")) as FacilityDocument;
// Everybody answers to one of the first so many, in turn.
const managers = (document.cardholders ?? []).slice(0, count).map(({ id }) => id);
const managed: FacilityDocument = {
  ...document,
  cardholders: (document.cardholders ?? []).map((one, i) => ({ ...one, manager: managers[(i + 1) % count] ?? one.id })),
};

const services = openServices();
await storeFacility(services, JSON.stringify(managed), "bench", { signIn: "bench" }, unwatched);
const account = async (signIn: string, role: Account["role"], cardholder?: string): Promise<Account> => {
  await services.accounts.put({ signIn, name: signIn, role, cardholder, passwordHash: "none" }, { signIn: "bench" }, services.now());
  return required(await services.accounts.bySignIn(signIn), "the account was put");
};
const reviewer = await account("reviewer", "reviewer");
const certifiers = new Map<string, Account>();
for (const id of managers) certifiers.set(id, await account(`certifier-${id}`, "manager", id));
const snapshot = required(await services.snapshots.latest(), "the register was stored").id;
const began = performance.now();
const round = await openRound(services, reviewer, { name: "Bench", due: "2099-01-01", snapshot, terms: usualTerms }, unwatched);
const openedMs = performance.now() - began;
const dockets = await services.rounds.dockets({ round });
tell(`round opened in ${(openedMs / 1000).toFixed(1)} s: ${dockets.length} dockets, ${dockets.reduce((sum, { lines }) => sum + lines, 0)} lines`);

const work: { readonly by: Account; readonly lines: DocketLine[] }[] = [];
for (const docket of dockets) {
  const by = certifiers.get(docket.certifier ?? "");
  if (by) work.push({ by, lines: (await services.rounds.lines({ docket: docket.id })).slice(0, 2 * each) });
}

/** Everybody decides so many of their lines, thinking that long between two; gives how long each decision took. */
async function decideAll(from: number, to: number, thinkMs: number): Promise<{ readonly seconds: number; readonly took: number[] }> {
  const took: number[] = [];
  const start = performance.now();
  await Promise.all(
    work.map(async ({ by, lines }, i) => {
      // They do not all begin at the same moment.
      if (thinkMs > 0) await wait((thinkMs * i) / work.length);
      for (const { id } of lines.slice(from, to)) {
        const asked = performance.now();
        const done = await decideLine(services, by, id, { decision: "withdraw", reason: `decided by ${by.signIn}` });
        if (done.outcome !== "decided") throw new Error(`line ${id} was ${done.why}`);
        took.push(performance.now() - asked);
        if (thinkMs > 0) await wait(thinkMs);
      }
    }),
  );
  return { seconds: (performance.now() - start) / 1000, took: took.sort((a, b) => a - b) };
}

const at = (sorted: readonly number[], share: number): number => sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] ?? 0;
const rows: (readonly string[])[] = [];
for (const [words, from, to, thinkMs] of [
  ["three seconds of thinking between two", 0, each, 3000],
  ["without a pause", each, 2 * each, 0],
] as const) {
  const { seconds, took } = await decideAll(from, to, thinkMs);
  rows.push([
    `${work.length} certifiers, ${words}`,
    `${Math.round(took.length / seconds)} decisions/s`,
    `p50 ${Math.round(at(took, 0.5))} ms`,
    `p95 ${Math.round(at(took, 0.95))} ms`,
    `${took.length} decided`,
  ]);
  tell(rows.at(-1)?.join(" | ") ?? "");
}
const decided = (await services.rounds.lines({ round })).filter(({ decision }) => decision !== undefined);
const wanted = new Set(work.flatMap(({ lines }) => lines.map(({ id }) => id)));
if (decided.length !== wanted.size || decided.some(({ id }) => !wanted.has(id))) throw new Error(`${decided.length} lines stand decided; ${wanted.size} were.`);
const record = await services.record.verify();
if (!record.sound) throw new Error(record.why);
const { problems } = await verifyAll(services);
if (problems.length > 0) throw new Error(problems[0]);
rows.push(["the record and every decision against it", "sound", "", "", `${wanted.size} lines, each decided once`]);
process.stdout.write(JSON.stringify(rows));
process.exit(0);

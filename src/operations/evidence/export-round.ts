import { packTexts } from "@/core/evidence/pack-files";
import { packNames, stampNames, sumsText } from "@/core/evidence/pack-names";
import type { Account } from "../ports/accounts";
import type { Report } from "../ports/progress";
import type { Actor } from "../ports/record";
import { demand } from "../rights";
import type { Services } from "../services";
import { StampRefused } from "../ports/time-stamps";
import { roundEvidence } from "./round-evidence";
import { stampRecord } from "./stamp-record";

export interface RoundPack {
  /** The archive. */
  readonly bytes: Uint8Array;
  /** SHA-256 of its `SHA256SUMS`, which stands in the record. */
  readonly packHash: string;
  readonly files: number;
}

/** Where the authority does not answer the pack has the last time stamp that there is, or none: it is made all the same. */
async function stampForPack(services: Services): Promise<void> {
  await stampRecord(services).catch((error: unknown) => {
    if (!(error instanceof StampRefused)) throw error;
    console.error(`The record was not stamped for the evidence pack: ${error.message}`);
  });
}

/** The evidence pack of a round as it stands now, for whoever may; undefined where there is no such round. Its hash goes into the record. */
export async function packRound(services: Services, actor: Actor, roundId: number, report: Report, seed?: string): Promise<RoundPack | undefined> {
  report({ step: "evidence", done: 0, of: 3 });
  if (services.timeStamps.isSet && (await services.rounds.byId(roundId))) await stampForPack(services);
  const evidence = await roundEvidence(services, roundId, { by: actor.signIn, seed });
  if (!evidence) return undefined;
  const stamp = await services.timeStamps.latest(evidence.entries[0]?.number ?? 0, evidence.entries.at(-1)?.number ?? 0);
  const files = new Map<string, Uint8Array>();
  for (const [name, text] of packTexts(evidence, services.digest)) files.set(name, new TextEncoder().encode(text));
  report({ step: "evidence", done: 1, of: 3 });
  for (const [name, bytes] of await services.papers.packPapers(evidence, stamp?.number)) files.set(name, bytes);
  if (stamp) {
    files.set(stampNames.head, new TextEncoder().encode(stamp.text));
    files.set(stampNames.response, stamp.response);
    files.set(stampNames.certificates, new TextEncoder().encode(stamp.certificates));
  }
  report({ step: "evidence", done: 2, of: 3 });
  const sums = sumsText(new Map([...files].map(([name, bytes]) => [name, services.digestOfBytes(bytes)])));
  files.set(packNames.sums, new TextEncoder().encode(sums));
  const packHash = services.digest(sums);
  const after = { packHash, lines: evidence.lines.length, seed: evidence.seed };
  await services.record.append(actor, services.now(), { what: "round.exported", on: `round ${roundId}`, after });
  return { bytes: services.papers.archive(files, evidence.madeAt), packHash, files: files.size };
}

/** The same for an account. */
export async function exportRound(services: Services, account: Account, roundId: number, report: Report): Promise<RoundPack | undefined> {
  demand(account, "read-rounds");
  // The pack has the whole document and the whole record.
  demand(account, "read-whole");
  return packRound(services, account, roundId, report);
}

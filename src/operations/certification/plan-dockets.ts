import { certifiersOfLines } from "@/core/certification/certifier";
import { holderOfLine } from "@/core/certification/holder-of-line";
import type { Line } from "@/core/certification/line";
import { linesByHolder } from "@/core/certification/lines-of-register";
import type { LineContent } from "@/core/certification/line-content";
import { aboutKey, aboutOfLine, isDefinition, lineKey } from "@/core/certification/line-content";
import { inScope, saysTheSame } from "@/core/certification/round-scope";
import type { RoundTerms } from "@/core/certification/round-terms";
import type { EarlierRegister } from "@/core/certification/since";
import { sinceOf } from "@/core/certification/since";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import { localDateText } from "@/core/time/zone";
import { earlierSnapshots } from "../findings/judging";
import { aheadOf } from "@/core/facility/ahead";
import type { HolderId } from "@/core/facility/holder-id";
import { holderKey } from "@/core/facility/holder-id";
import { credentialLabel } from "@/core/facility/labels";
import { groupBy } from "@/core/kernel/compare";
import type { Report } from "../ports/progress";
import type { AccessDocketLine, Docket, DocketLine, LineHolder, NewDocket } from "../ports/rounds";
import { isAccessLine } from "./orders-of-lines";
import type { DefinitionOfRound } from "./plan-definitions";
import { planDefinitions } from "./plan-definitions";
import { todayOf } from "../findings/today";
import { useOf } from "../findings/use-of";
import type { OpenRegister } from "../register/open-register";
import type { Services } from "../services";

/** Of so many holders the use of their cards is at hand at once. */
const holdersAtOnce = 1000;

/** A line that a round could have: who certifies it, and whether it belongs to the round. */
export interface PlannedLine {
  readonly line: Line;
  readonly changed: boolean;
  readonly included: boolean;
}

export interface PlannedDockets {
  readonly dockets: readonly (Omit<NewDocket, "held"> & { readonly hasAccount: boolean })[];
  /** Every line that there is about whom it is about, within its scope or not. */
  readonly lines: readonly PlannedLine[];
  /** Every definition that there is, within its scope or not; none where it is about some holders only. */
  readonly definitions: readonly DefinitionOfRound[];
}

/** Lines of the last round that a reviewer opened about everybody, by what they are about, of some cardholders. */
async function lastLines(services: Services, last: LastRound | undefined, cardholders: readonly string[]): Promise<ReadonlyMap<string, AccessDocketLine>> {
  if (!last || cardholders.length === 0) return new Map();
  const lines = (await services.rounds.lines({ round: last.id, cardholders })).filter(isAccessLine);
  // Where several certified the same, what was signed last counts.
  const signedAt = ({ docket }: DocketLine): string => last.dockets.get(docket)?.signedAt ?? "";
  lines.sort((a, b) => (signedAt(a) < signedAt(b) ? -1 : 1));
  return new Map(lines.map((line) => [lineKey(line.line), line]));
}

interface LastRound {
  readonly id: number;
  readonly dockets: ReadonlyMap<number, Docket>;
}

async function lastRound(services: Services): Promise<LastRound | undefined> {
  const round = (await services.rounds.list()).find(
    ({ terms: { scope, occasion } }) => scope.about === undefined && scope.definitions !== "only" && occasion === undefined,
  );
  return round && { id: round.id, dockets: new Map((await services.rounds.dockets({ round: round.id })).map((docket) => [docket.id, docket])) };
}

/** When this certifier kept a line just so last time, and signed it. */
function keptBefore(last: LastRound | undefined, before: AccessDocketLine | undefined, line: Line, certifier: string | undefined): string | undefined {
  const docket = before && last?.dockets.get(before.docket);
  const isKept = before?.decision === "keep" && certifier !== undefined && docket?.certifier === certifier;
  return isKept && saysTheSame(before.line, line) ? docket.signedAt : undefined;
}

/** The registers before one, the latest first, as far as all their rows were read: of others it cannot be said what they did not have. */
async function earlierRegisters(services: Services, { compiled, snapshot }: OpenRegister): Promise<EarlierRegister[]> {
  const earlier: EarlierRegister[] = [];
  for (const before of (await earlierSnapshots(services, snapshot.id, compiled)).reverse()) {
    if (before.leftOut > 0) break;
    const register = await services.compiled(before);
    await services.layOut(before, register);
    earlier.push({ compiled: register, date: dateOf(register) });
  }
  return earlier;
}

const dateOf = ({ facility, vocabulary }: CompiledFacility): string => localDateText(vocabulary.zone, aheadOf(facility).from);

/** Some holders and which of their lines are asked about. */
export interface Among {
  readonly holders: readonly HolderId[];
  readonly asks: (line: Line) => boolean;
}

/** The places of some holders, or of all, as stretches of which each is worked out at once. */
function placesAsked(
  asked: readonly HolderId[] | undefined,
  holders: number,
  placeOf: (holder: HolderId) => number | undefined,
): readonly (readonly [from: number, to: number])[] {
  if (asked) return [...new Set(asked.flatMap((holder) => placeOf(holder) ?? []))].sort((a, b) => a - b).map((place) => [place, place + 1] as const);
  return Array.from({ length: Math.ceil(holders / holdersAtOnce) }, (_, i) => [i * holdersAtOnce, Math.min((i + 1) * holdersAtOnce, holders)] as const);
}

const ofDefinitions = (lines: readonly LineContent[]): number => Number(lines[0] !== undefined && isDefinition(lines[0]));

const worst = (lines: readonly LineContent[]): number => Math.max(0, ...lines.flatMap(({ findings }) => findings.map(({ risk }) => risk)));

/** The dockets that a round over a register would have, by whom it is certified and what it is about. */
export async function planDockets(
  services: Services,
  register: OpenRegister,
  { scope, by }: Pick<RoundTerms, "scope" | "by">,
  report: Report,
  among?: Among,
): Promise<PlannedDockets> {
  const { compiled, snapshot } = register;
  const { facility } = compiled;
  // What is waived was accepted with a reason: it speaks against nobody.
  const today = todayOf(services);
  const findings = await services.findings.page(snapshot.id, {}, today, await services.findings.count(snapshot.id, {}, today));
  report({ step: "access", done: 0, of: 1 });
  const { holders, placeOf, credentialsOf, lines: linesFrom } = linesByHolder(compiled, findings, (await services.ruleSettings.current()).settings);
  const places = placesAsked(among?.holders ?? (scope.about && [scope.about]), holders, placeOf);
  const [last, earlier] = [await lastRound(services), await earlierRegisters(services, register)];
  const present = dateOf(compiled);
  const [isIncluded, certifiersOf] = [inScope(compiled, scope), certifiersOfLines(facility, by)];
  const planned: PlannedLine[] = [];
  const byCertifier = new Map<string | undefined, LineContent[]>();
  for (const [from, to] of places) {
    report({ step: "lines", done: from, of: holders });
    const use = await useOf(services, compiled, { credentials: credentialsOf(from, to), upTo: aheadOf(facility).from });
    const found = linesFrom(from, to, use);
    const before = await lastLines(services, last, [...new Set(found.flatMap(({ cardholder }) => cardholder ?? []))]);
    for (const own of groupBy(found, (line) => holderKey(holderOfLine(line))).values()) {
      const certifiers = certifiersOf(own);
      own.forEach((line, i) => {
        const was = before.get(lineKey(line));
        const changed = !was || !saysTheSame(was.line, line);
        const included = isIncluded({ line, changed }) && (among?.asks(line) ?? true);
        planned.push({ line, changed, included });
        if (!included) return;
        const asked = certifiers[i]?.length ? certifiers[i] : [undefined];
        for (const certifier of asked) {
          const [kept, since] = [keptBefore(last, was, line, certifier), sinceOf(line, present, earlier)];
          const lines = byCertifier.get(certifier) ?? [];
          lines.push({ ...line, ...(since && { since }), ...(kept !== undefined && { keptBefore: kept }) });
          byCertifier.set(certifier, lines);
        }
      });
    }
  }
  const isAboutAll = among === undefined && scope.about === undefined;
  const definitions = isAboutAll ? await planDefinitions(services, register, scope, findings) : [];
  for (const { line, certifiers, keptBefore: since, included } of definitions) {
    if (!included) continue;
    for (const certifier of certifiers.length > 0 ? certifiers : [undefined]) {
      const kept = since(certifier);
      const lines = byCertifier.get(certifier) ?? [];
      lines.push(kept === undefined ? line : { ...line, keptBefore: kept });
      byCertifier.set(certifier, lines);
    }
  }
  const cardholders = new Map(facility.cardholders.map((cardholder) => [cardholder.id, cardholder]));
  const departments = new Map(facility.groups.map(({ id, name }) => [id, name]));
  const nameOf = (line: LineContent): string => {
    if (isDefinition(line)) return "";
    const { cardholder, credential } = line;
    const held = facility.credentials[compiled.credentialById.get(credential ?? "") ?? -1];
    return cardholders.get(cardholder ?? "")?.name ?? (held ? credentialLabel(held) : "");
  };
  const lineHolder = (line: LineContent): LineHolder | undefined => {
    const holder = isDefinition(line) ? undefined : cardholders.get(line.cardholder ?? "");
    const department = departments.get(holder?.department ?? "");
    return (
      holder && {
        status: holder.status,
        ...(holder.type && { type: holder.type }),
        ...(department !== undefined && { department }),
        ...(holder.staffNumber !== undefined && { staffNumber: holder.staffNumber }),
      }
    );
  };
  const accounts = new Set((await services.accounts.all()).map(({ cardholder }) => cardholder));
  const dockets = [...byCertifier].map(([certifier, own]) => ({
    certifier,
    certifierName: certifier === undefined ? undefined : cardholders.get(certifier)?.name,
    account: undefined,
    hasAccount: certifier !== undefined && accounts.has(certifier),
    // Whoever has findings comes first; the lines of one holder stay together, and so do definitions of one kind, after all people.
    lines: [...groupBy(own, (line) => aboutKey(aboutOfLine(line))).values()]
      .sort((a, b) => ofDefinitions(a) - ofDefinitions(b) || (ofDefinitions(a) === 0 ? worst(b) - worst(a) : 0))
      .flatMap((lines) => (ofDefinitions(lines) === 0 ? lines : [...lines].sort((a, b) => worst([b]) - worst([a]) || b.sensitivity - a.sensitivity)))
      .map((line) => ({ line, holderName: nameOf(line), holder: lineHolder(line), flagged: line.findings.length > 0 })),
  }));
  return { dockets, lines: planned, definitions };
}

/** What a holder is called; undefined of one that the register does not have, and of a card that somebody holds. */
export function holderName({ compiled }: OpenRegister, { kind, id }: HolderId): string | undefined {
  const { facility, cardholderById, credentialById } = compiled;
  if (kind === "cardholder") return facility.cardholders[cardholderById.get(id) ?? -1]?.name;
  const card = facility.credentials[credentialById.get(id) ?? -1];
  return card?.cardholder === undefined ? card && credentialLabel(card) : undefined;
}

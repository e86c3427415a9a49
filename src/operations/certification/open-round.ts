import { groupBy } from "@/core/kernel/compare";
import { certifiers } from "@/core/certification/certifier";
import type { Line } from "@/core/certification/line";
import { holderOfLine } from "@/core/certification/holder-of-line";
import { holderKey } from "@/core/facility/holder-id";
import type { HolderId } from "@/core/facility/holder-id";
import { credentialLabel } from "@/core/facility/labels";
import { linesByHolder } from "@/core/certification/line";
import type { OpenRegister } from "../register/open-register";
import { aheadOf } from "@/core/facility/ahead";
import { openRegister } from "../register/open-register";
import type { Account } from "../ports/accounts";
import type { LineHolder, NewDocket } from "../ports/rounds";
import type { Report } from "../ports/progress";
import { demand } from "../rights";
import type { RoundPreview, Services } from "../services";
import { todayOf } from "../findings/today";
import { useOf } from "../findings/use-of";

/** What a certifier needs for a line, with nothing against it and with a finding; for the preview only. */
const secondsALine = { plain: 6, flagged: 25 };

/** Of so many holders the use of their cards is at hand at once. */
const holdersAtOnce = 1000;

/** Whom a round is about; everybody where nobody is named. */
export interface RoundScope {
  readonly about?: HolderId | undefined;
}

async function plannedDockets(
  services: Services,
  register: OpenRegister,
  { about }: RoundScope,
  report: Report,
): Promise<(NewDocket & { readonly hasAccount: boolean })[]> {
  const { compiled, snapshot } = register;
  const { facility } = compiled;
  // What is waived was accepted with a reason: it speaks against nobody.
  const today = todayOf(services);
  const findings = await services.findings.page(snapshot.id, {}, today, await services.findings.count(snapshot.id, {}, today));
  report({ step: "access", done: 0, of: 1 });
  const { holders, placeOf, credentialsOf, lines: linesFrom } = linesByHolder(compiled, findings);
  const place = about && placeOf(about);
  const [first, end] = about === undefined ? [0, holders] : place === undefined ? [0, 0] : [place, place + 1];
  const lines: Line[] = [];
  for (let from = first; from < end; from += holdersAtOnce) {
    report({ step: "lines", done: from, of: end });
    const to = Math.min(from + holdersAtOnce, end);
    const use = await useOf(services, compiled, { credentials: credentialsOf(from, to), upTo: aheadOf(facility).from });
    for (const line of linesFrom(from, to, use)) lines.push(line);
  }
  const certifierOf = certifiers(facility);
  const cardholders = new Map(facility.cardholders.map((cardholder) => [cardholder.id, cardholder]));
  const holderName = ({ cardholder, credential }: Line): string => {
    const held = facility.credentials[compiled.credentialById.get(credential ?? "") ?? -1];
    return cardholders.get(cardholder ?? "")?.name ?? (held ? credentialLabel(held) : "");
  };
  const departments = new Map(facility.groups.map(({ id, name }) => [id, name]));
  const lineHolder = ({ cardholder }: Line): LineHolder | undefined => {
    const holder = cardholders.get(cardholder ?? "");
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
  const certifierId = ({ cardholder }: Line): string | undefined => {
    const holder = cardholders.get(cardholder ?? "");
    return holder && certifierOf(holder)?.cardholder;
  };
  const accounts = new Set((await services.accounts.all()).map(({ cardholder }) => cardholder));
  return [...groupBy(lines, certifierId)].map(([certifier, own]) => ({
    certifier,
    certifierName: certifier === undefined ? undefined : cardholders.get(certifier)?.name,
    account: undefined,
    hasAccount: certifier !== undefined && accounts.has(certifier),
    // Whoever has findings comes first; the lines of one holder stay together.
    lines: [...groupBy(own, (line) => holderKey(holderOfLine(line))).values()]
      .sort((a, b) => worst(b) - worst(a))
      .flat()
      .map((line) => ({ line, holderName: holderName(line), holder: lineHolder(line), flagged: line.findings.length > 0 })),
  }));
}

const worst = (lines: readonly Line[]): number => Math.max(0, ...lines.flatMap(({ findings }) => findings.map(({ risk }) => risk)));

/** What a holder is called; undefined of one that the register does not have, and of a card that somebody holds. */
function holderName({ compiled }: OpenRegister, { kind, id }: HolderId): string | undefined {
  const { facility, cardholderById, credentialById } = compiled;
  if (kind === "cardholder") return facility.cardholders[cardholderById.get(id) ?? -1]?.name;
  const card = facility.credentials[credentialById.get(id) ?? -1];
  return card?.cardholder === undefined ? card && credentialLabel(card) : undefined;
}

/** What a round over the latest snapshot would be, before it starts. */
export async function previewRound(services: Services, account: Account, scope: RoundScope, report: Report): Promise<RoundPreview | undefined> {
  demand(account, "run-rounds");
  const register = await openRegister(services);
  if (!register) return undefined;
  const dockets = await plannedDockets(services, register, scope, report);
  const names = new Map(register.compiled.facility.cardholders.map(({ id, name }) => [id, name]));
  return {
    snapshot: register.snapshot.id,
    about: scope.about && holderName(register, scope.about),
    lines: dockets.reduce((sum, { lines }) => sum + lines.length, 0),
    flagged: dockets.reduce((sum, { lines }) => sum + lines.filter(({ flagged }) => flagged).length, 0),
    dockets: dockets
      .filter(({ certifier }) => certifier !== undefined)
      .map((docket) => {
        const flagged = docket.lines.filter((line) => line.flagged).length;
        const seconds = flagged * secondsALine.flagged + (docket.lines.length - flagged) * secondsALine.plain;
        return {
          certifier: names.get(docket.certifier ?? "") ?? "",
          lines: docket.lines.length,
          flagged,
          minutes: Math.max(1, Math.round(seconds / 60)),
          hasAccount: docket.hasAccount,
        };
      })
      .sort((a, b) => b.flagged - a.flagged || b.lines - a.lines),
    uncertified: dockets.find(({ certifier }) => certifier === undefined)?.lines.length ?? 0,
  };
}

/** Opens a round over a snapshot: one docket for each certifier; what nobody certifies goes to who opens it. Gives its number. */
export async function openRound(
  services: Services,
  account: Account,
  asked: { readonly name: string; readonly due: string; readonly snapshot: number } & RoundScope,
  report: Report,
): Promise<number> {
  demand(account, "run-rounds");
  const register = await openRegister(services, asked.snapshot);
  if (!register) throw new Error(`There is no snapshot ${asked.snapshot}.`);
  const dockets = (await plannedDockets(services, register, asked, report)).map((docket) =>
    docket.certifier === undefined ? { ...docket, account: account.id } : docket,
  );
  report({ step: "opening", done: 0, of: 1 });
  return services.rounds.open({ name: asked.name, due: asked.due, snapshot: asked.snapshot, openedAt: services.now(), openedBy: account }, dockets);
}

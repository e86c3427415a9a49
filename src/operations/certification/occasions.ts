import type { Occasion, OccasionKind } from "@/core/certification/occasions";
import { asksAbout, occasionKinds, occasionsBetween } from "@/core/certification/occasions";
import { usualTerms } from "@/core/certification/round-terms";
import { holderOfFinding } from "@/core/findings/about";
import { groupBy } from "@/core/kernel/compare";
import { horizonOf } from "@/core/table/horizon";
import { todayOf } from "../findings/today";
import type { Account } from "../ports/accounts";
import { unwatched } from "../ports/progress";
import type { OccasionRule } from "../ports/rounds";
import type { OpenRegister } from "../register/open-register";
import { openRegister } from "../register/open-register";
import { demand } from "../rights";
import type { Services } from "../services";
import { daysAfter } from "./orders-of-lines";
import { planDockets } from "./plan-dockets";

/** What asks for a decision between rounds, and within how many days; what is not among them asks for none. */
export async function listOccasions(services: Services, account: Account): Promise<OccasionRule[]> {
  demand(account, "read-rounds");
  demand(account, "read-whole");
  return services.rounds.occasions();
}

const longestDays = 365;

/** Sets within how many days an occasion asks for a decision, or that it asks for none; gives whether it could be. */
export async function setOccasion(services: Services, account: Account, kind: OccasionKind, days: number | undefined): Promise<boolean> {
  demand(account, "run-rounds");
  if (!occasionKinds.includes(kind) || (days !== undefined && !(Number.isInteger(days) && days >= 1 && days <= longestDays))) return false;
  await services.rounds.setOccasion(kind, days, account, services.now());
  return true;
}

/** Waivers that ran out since an earlier snapshot was taken, or were ended, and whom their findings are about. */
async function endedWaivers(services: Services, { snapshot }: OpenRegister, since: string): Promise<Occasion[]> {
  const occasions: Occasion[] = [];
  for (const fingerprint of await services.triage.endedBetween(since, todayOf(services))) {
    const finding = await services.findings.byFingerprint(snapshot.id, fingerprint);
    const holder = finding && holderOfFinding(finding);
    if (holder) occasions.push({ kind: "waiver-ended", holder, fingerprint });
  }
  return occasions;
}

const named: Readonly<Record<OccasionKind, string>> = {
  moved: "Changed department",
  renewed: "Contract renewed",
  sensitive: "New access to sensitive places",
  "waiver-ended": "Waiver ended",
};

/**
 * Opens a small round for each kind of occasion that a register which was just stored gives, with just the lines that it asks about. Each is opened by whoever
 * set that it asks for a decision.
 */
export async function openOccasions(services: Services, register: OpenRegister): Promise<number[]> {
  const rules = await services.rounds.occasions();
  if (rules.length === 0) return [];
  const { snapshot } = register;
  const earlier = (await services.snapshots.list()).filter(({ id }) => id < snapshot.id).reduce((last, { id }) => Math.max(last, id), 0);
  const before = earlier === 0 ? undefined : await openRegister(services, earlier);
  if (!before) return [];
  const kinds = new Set(rules.map(({ kind }) => kind));
  const found = occasionsBetween(before.compiled, horizonOf(register.compiled), kinds);
  if (kinds.has("waiver-ended")) found.push(...(await endedWaivers(services, register, before.snapshot.takenAt)));
  const rounds: number[] = [];
  for (const [kind, occasions] of groupBy(found, (occasion) => occasion.kind)) {
    const rule = rules.find((one) => one.kind === kind);
    if (!rule) continue;
    const terms = { ...usualTerms, occasion: kind };
    const holders = occasions.map(({ holder }) => holder);
    const among = { holders, asks: (line: Parameters<typeof asksAbout>[1]) => occasions.some((occasion) => asksAbout(occasion, line)) };
    const { dockets } = await planDockets(services, register, terms, unwatched, among);
    if (dockets.length === 0) continue;
    const at = services.now();
    rounds.push(
      await services.rounds.open(
        { name: `${named[kind]}, snapshot ${snapshot.id}`, due: daysAfter(at, rule.days), snapshot: snapshot.id, terms, openedAt: at, openedBy: rule.setBy },
        dockets.map((docket) => ({ ...docket, account: docket.certifier === undefined ? rule.setBy.id : docket.account, held: false })),
      ),
    );
  }
  return rounds;
}

import type { ListKey } from "@/core/facility/document";
import { allRules } from "@/core/findings/catalogue";
import { changedFindings } from "@/core/findings/changed-findings";
import type { BeyondCount } from "@/core/findings/changed-findings";
import { findAll } from "@/core/findings/find";
import type { Finding, RuleKey } from "@/core/findings/finding";
import { own } from "@/core/findings/settings";
import type { RuleSettings } from "@/core/findings/settings";
import { issueWords } from "@/intake/formats/facility/issue-words";
import { readRules } from "@/intake/formats/rules/read-rules";
import type { ProposedSettings } from "../ports/rule-settings";
import type { Account } from "../ports/accounts";
import type { Actor } from "../ports/record";
import type { Report } from "../ports/progress";
import { openRegister } from "../register/open-register";
import type { OpenRegister } from "../register/open-register";
import { demand } from "../rights";
import type { Services } from "../services";
import type { NamedFinding } from "./list-findings";
import { namer } from "./list-findings";
import { judged, judgedHorizon, judgingOf } from "./judging";
import { lookForFindings } from "./look-for-findings";
import { todayOf } from "./today";

/** How a rule judges at present, and how much it finds. */
export interface RuleInForce {
  readonly base: number;
  readonly parameters: Readonly<Record<string, number>>;
  readonly found: number;
}

/** Every rule as it judges at present. */
export async function rulesInForce(services: Services, account: Account): Promise<Readonly<Record<RuleKey, RuleInForce>>> {
  demand(account, "read-findings");
  const { settings } = await services.ruleSettings.current();
  const snapshot = await services.snapshots.latest();
  const counts = snapshot && (await services.findings.counts(snapshot.id, todayOf(services)));
  return Object.fromEntries(
    allRules.map(({ key, base, parameters }): [RuleKey, RuleInForce] => [
      key,
      {
        base: own(settings.weights?.base, key) ?? base,
        parameters: Object.fromEntries(Object.entries(parameters).map(([name, usual]) => [name, own(own(settings.parameters, key), name) ?? usual])),
        found: counts?.beyond[key] ?? counts?.byRule[key] ?? 0,
      },
    ]),
  ) as Record<RuleKey, RuleInForce>;
}

/** The settings in force, as they are written. */
export async function settingsInForce(services: Services, account: Account): Promise<RuleSettings> {
  demand(account, "read-findings");
  return (await services.ruleSettings.current()).settings;
}

/** A thing that settings can name: its id and what it is called. */
export interface Named {
  readonly id: string;
  readonly name: string;
}

/** What settings are made of: those in force, and what in the register they can speak of. */
export interface SettingsSheet {
  readonly version: number;
  readonly settings: RuleSettings;
  readonly secondPersonFrom: number;
  readonly sites: readonly Named[];
  readonly areas: readonly Named[];
  readonly levels: readonly Named[];
  /** What waits for a second person, and whether it was this account that proposes it. */
  readonly proposed: (Omit<ProposedSettings, "instead"> & { readonly isOwn: boolean }) | undefined;
  /** Schedules whose hours can be taken for business hours. */
  readonly schedules: readonly (Named & { readonly rows: NonNullable<RuleSettings["sites"]>[string]["business"] })[];
}

/** The settings of rules over a register; its lists are short enough to be chosen from. */
export async function showRuleSettings(services: Services, account: Account, { compiled }: OpenRegister): Promise<SettingsSheet> {
  demand(account, "read-findings");
  const named = (list: ListKey & ("sites" | "areas" | "levels")): Named[] => compiled.facility[list].map(({ id, name }) => ({ id, name }));
  const proposed = await services.ruleSettings.proposed();
  return {
    ...(await services.ruleSettings.current()),
    proposed: proposed && {
      settings: proposed.settings,
      secondPersonFrom: proposed.secondPersonFrom,
      madeBy: proposed.madeBy,
      madeAt: proposed.madeAt,
      isOwn: proposed.madeBy === account.signIn,
    },
    sites: named("sites"),
    areas: named("areas"),
    levels: named("levels"),
    schedules: compiled.facility.schedules.map(({ id, name, ...rows }) => ({ id, name, rows })),
  };
}

/** What is wrong with settings, in words with its place each. */
export interface RefusedSettings {
  readonly outcome: "refused";
  readonly errors: readonly string[];
}

export interface SettingsEffect {
  readonly outcome: "worked-out";
  /** Findings that would come and go, how many of each rule, and the riskiest of them. */
  readonly come: readonly NamedFinding[];
  readonly comeCount: number;
  readonly gone: readonly NamedFinding[];
  readonly goneCount: number;
  readonly byRule: readonly { readonly rule: RuleKey; readonly come: number; readonly gone: number }[];
  /** Rules that find more than is looked through: of these it is not said what comes and goes. */
  readonly beyond: readonly BeyondCount[];
  /** How many would weigh something else, as far as findings are looked through. */
  readonly weighed: number;
}

const effectShown = 30;

function readFor({ compiled }: OpenRegister, text: string): RuleSettings | RefusedSettings {
  const read = readRules(text, compiled.facility);
  if (read.ok) return read.value;
  return { outcome: "refused", errors: read.error.map((issue) => `${issue.path === "" ? "The settings" : issue.path}: ${issueWords(issue)}`) };
}

/** Which findings of the present register would come and go with settings, written as `nomade.rules/1`. Cost: that of looking for findings, twice. */
export async function previewRuleSettings(
  services: Services,
  account: Account,
  text: string,
  report: Report,
): Promise<SettingsEffect | RefusedSettings | undefined> {
  demand(account, "set-rules");
  report({ step: "reading", done: 0, of: 1 });
  const register = await openRegister(services);
  if (!register) return undefined;
  const settings = readFor(register, text);
  if ("outcome" in settings) return settings;
  const { compiled, snapshot } = register;
  report({ step: "findings", done: 0, of: 1 });
  const present = await judgingOf(services, compiled, snapshot.id);
  const was = findAll(judged(judgedHorizon(compiled, present.settings), present));
  const changed = await judgingOf(services, compiled, snapshot.id, settings);
  const is = findAll(judged(judgedHorizon(compiled, changed.settings), changed));
  const { come, gone, beyond } = changedFindings(was, is);
  const risks = new Map(was.findings.map(({ fingerprint, risk }) => [fingerprint, risk]));
  const count = (findings: readonly Finding[], key: RuleKey): number => findings.filter(({ rule }) => rule === key).length;
  const named = namer(register);
  const shown = (findings: readonly Finding[]): NamedFinding[] => findings.slice(0, effectShown).map((finding, position) => named({ ...finding, position }));
  return {
    outcome: "worked-out",
    come: shown(come),
    comeCount: come.length,
    gone: shown(gone),
    goneCount: gone.length,
    byRule: allRules.map(({ key }) => ({ rule: key, come: count(come, key), gone: count(gone, key) })).filter((one) => one.come + one.gone > 0),
    beyond,
    weighed: is.findings.filter(({ fingerprint, risk }) => (risks.get(fingerprint) ?? risk) !== risk).length,
  };
}

export type KeepOutcome = { readonly outcome: "kept" | "changed-meanwhile" } | RefusedSettings;

/** Keeps settings for whoever works on this machine, and looks for the findings of the present register anew; undefined without a register. */
export async function keepSettings(services: Services, who: Actor, text: string): Promise<KeepOutcome | undefined> {
  const register = await openRegister(services);
  if (!register) return undefined;
  const settings = readFor(register, text);
  if ("outcome" in settings) return settings;
  const { version, secondPersonFrom } = await services.ruleSettings.current();
  if (!(await services.ruleSettings.put({ settings, secondPersonFrom }, version, who, services.now()))) return { outcome: "changed-meanwhile" };
  await lookForFindings(services);
  return { outcome: "kept" };
}

/** Proposes settings in the place of those of a version: how rules judge is changed by two. */
export async function keepRuleSettings(
  services: Services,
  account: Account,
  asked: { readonly text: string; readonly secondPersonFrom: number; readonly instead: number },
  report: Report,
): Promise<KeepOutcome | { readonly outcome: "proposed" } | undefined> {
  demand(account, "set-rules");
  report({ step: "reading", done: 0, of: 1 });
  const register = await openRegister(services);
  if (!register) return undefined;
  const settings = readFor(register, asked.text);
  if ("outcome" in settings) return settings;
  const kept = { settings, secondPersonFrom: asked.secondPersonFrom };
  const isProposed = await services.ruleSettings.propose(kept, asked.instead, { signIn: account.signIn }, services.now());
  return { outcome: isProposed ? "proposed" : "changed-meanwhile" };
}

export type ConfirmOutcome = KeepOutcome | { readonly outcome: "same-person" | "nothing-proposed" };

/** Confirms what somebody else proposes: it is in force, and the findings of the present register are looked for anew. */
export async function confirmRuleSettings(services: Services, account: Account, report: Report): Promise<ConfirmOutcome | undefined> {
  demand(account, "set-rules");
  report({ step: "reading", done: 0, of: 1 });
  const [register, proposed] = [await openRegister(services), await services.ruleSettings.proposed()];
  if (!register) return undefined;
  if (!proposed) return { outcome: "nothing-proposed" };
  if (proposed.madeBy === account.signIn) return { outcome: "same-person" };
  // The register may have changed since: what it does not have any more is told.
  const settings = readFor(register, JSON.stringify(proposed.settings));
  if ("outcome" in settings) return settings;
  const { secondPersonFrom, instead } = proposed;
  if (!(await services.ruleSettings.put({ settings, secondPersonFrom }, instead, { signIn: account.signIn }, services.now())))
    return { outcome: "changed-meanwhile" };
  report({ step: "findings", done: 0, of: 1 });
  await lookForFindings(services);
  return { outcome: "kept" };
}

/** Drops what is proposed: one’s own, or as the second person. */
export async function dropRuleSettings(services: Services, account: Account): Promise<boolean> {
  demand(account, "set-rules");
  return services.ruleSettings.dropProposed({ signIn: account.signIn }, services.now());
}

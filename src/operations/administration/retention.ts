import type { RetentionKind } from "@/core/evidence/retention";
import { fewestMonths, monthsBefore, mostMonths, retentionKinds } from "@/core/evidence/retention";
import type { Account } from "../ports/accounts";
import { system } from "../ports/record";
import type { RetentionSetting } from "../ports/retention";
import { demand } from "../rights";
import type { Services } from "../services";

/** For how long one kind is kept, and how many of it are past that by now and go at the next turn of the clock that may take them. */
export interface ShownRetention {
  readonly kind: RetentionKind;
  readonly setting: RetentionSetting | undefined;
  readonly due: number;
  /** From when on it is applied; an ISO text of UTC. */
  readonly appliesFrom: string | undefined;
}

const dayMs = 86_400_000;

/** A time that was set is applied a day later, so that a slip can be taken back. */
const appliesFrom = ({ setAt }: RetentionSetting): string => new Date(Date.parse(setAt) + dayMs).toISOString();

/** For how long everything is kept. */
export async function showRetention(services: Services, account: Account): Promise<ShownRetention[]> {
  demand(account, "read-record");
  const settings = new Map((await services.retention.settings()).map((setting) => [setting.kind, setting]));
  const shown: ShownRetention[] = [];
  for (const kind of retentionKinds) {
    const setting = settings.get(kind);
    shown.push({
      kind,
      setting,
      due: setting ? await services.retention.due(kind, monthsBefore(services.now(), setting.months)) : 0,
      appliesFrom: setting && appliesFrom(setting),
    });
  }
  return shown;
}

export type RetentionOutcome = { readonly outcome: "set" } | { readonly outcome: "refused"; readonly fewest: number; readonly most: number };

/** Sets for how many months a kind is kept; undefined: for ever. */
export async function setRetention(services: Services, account: Account, kind: RetentionKind, months: number | undefined): Promise<RetentionOutcome> {
  demand(account, "keep-accounts");
  const fewest = fewestMonths[kind];
  if (months !== undefined && !(Number.isInteger(months) && months >= fewest && months <= mostMonths)) return { outcome: "refused", fewest, most: mostMonths };
  await services.retention.set(kind, months, account, services.now());
  return { outcome: "set" };
}

/** Rounds first: a snapshot stays as long as a round of it does. */
const order: readonly RetentionKind[] = ["rounds", "snapshots", "events", "leavers", "values"];

/** Lets go what is past its time, by what was set at least a day ago. */
export async function applyRetention(services: Services): Promise<Partial<Record<RetentionKind, number>>> {
  const at = services.now();
  const settings = new Map((await services.retention.settings()).map((setting) => [setting.kind, setting]));
  const done: Partial<Record<RetentionKind, number>> = {};
  for (const kind of order) {
    const setting = settings.get(kind);
    if (setting && appliesFrom(setting) <= at) done[kind] = await services.retention.drop(kind, monthsBefore(at, setting.months), system, at);
  }
  return done;
}

let appliedOn = "";

/** The same once a date of UTC, and when the server starts. */
export async function applyRetentionDaily(services: Services): Promise<void> {
  const today = services.now().slice(0, 10);
  if (today === appliedOn) return;
  await applyRetention(services);
  appliedOn = today;
}

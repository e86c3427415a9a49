import { writeFile } from "node:fs/promises";
import { parseArgs } from "node:util";
import { compileFacility } from "@/core/compile/compile-facility";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import { aheadOf } from "@/core/facility/ahead";
import { withChanges } from "@/core/facility/facility-change";
import type { Facility } from "@/core/facility/facility";
import type { HolderId } from "@/core/facility/holder-id";
import { normalFacility, normalText } from "@/core/facility/normal-form";
import { parseCivilDay } from "@/core/time/civil-day";
import { planReturn, planWithdrawal } from "@/core/certification/withdrawal/plan-withdrawal";
import type { WithdrawalPlan } from "@/core/certification/withdrawal/plan-withdrawal";
import { withdrawalEffects } from "@/core/certification/withdrawal/withdrawal-effects";
import { Horizon } from "@/core/table/horizon";
import type { EffectsOf, WithdrawalEffects } from "@/core/certification/withdrawal/withdrawal-effects";
import { holderOf } from "@/core/certification/withdrawal/wish";
import { documentFile } from "./facility-file";
import { exitRefused, printLine, UsageError } from "./output";

const options = {
  cardholder: { type: "string", multiple: true },
  credential: { type: "string", multiple: true },
  door: { type: "string", multiple: true },
  area: { type: "string", multiple: true },
  return: { type: "string", multiple: true },
  "keep-schedule": { type: "string", multiple: true },
  "keep-until": { type: "string", multiple: true },
  "horizon-days": { type: "string", multiple: true },
  out: { type: "string", multiple: true },
  "without-blocks": { type: "boolean" },
} as const;

type Values = { readonly [Name in Exclude<keyof typeof options, "without-blocks">]?: string[] } & { readonly "without-blocks"?: boolean };

/** The value of an option that is given at most once. */
function once(values: Values, name: Exclude<keyof Values, "door" | "without-blocks">): string | undefined {
  const [value, ...more] = values[name] ?? [];
  if (more.length > 0) throw new UsageError(`--${name} is given once.`);
  return value;
}

function horizonOf(text: string | undefined): number | undefined {
  if (text === undefined) return undefined;
  const days = /^\d{1,4}$/.test(text) ? Number(text) : 0;
  if (days < 1 || days > 3660) throw new UsageError(`--horizon-days takes a whole number from 1 to 3660, not ${text}.`);
  return days;
}

/** The holder whose doors are asked: a cardholder, or a credential that nobody holds. */
function holderAsked(compiled: CompiledFacility, cardholder: string | undefined, credential: string | undefined): HolderId {
  if ((cardholder === undefined) === (credential === undefined))
    throw new UsageError("withdraw takes one of --cardholder and --credential, or --return in place of them.");
  const holder: HolderId = cardholder === undefined ? { kind: "credential", id: credential ?? "" } : { kind: "cardholder", id: cardholder };
  if (holder.kind === "credential" && compiled.credentialById.has(holder.id) && !holderOf(compiled, holder))
    throw new UsageError(`The credential ${holder.id} has a cardholder: --cardholder is asked for.`);
  if (!holderOf(compiled, holder)) throw new UsageError(`There is no ${holder.kind} ${holder.id} in the document.`);
  return holder;
}

function doorsAsked(compiled: CompiledFacility, doors: readonly string[], area: string | undefined): string[] {
  if ((doors.length === 0) === (area === undefined)) throw new UsageError("withdraw takes doors (--door, once or more) or an area (--area).");
  for (const door of doors) if (!compiled.doorById.has(door)) throw new UsageError(`There is no door ${door} in the document.`);
  if (area === undefined) return [...doors];
  const position = compiled.indexes.of("areas").get(area);
  if (position === undefined) throw new UsageError(`There is no area ${area} in the document.`);
  return compiled.doors.filter(({ areas }) => areas.includes(position)).map(({ door: { id } }) => id);
}

function staysAsked(compiled: CompiledFacility, schedule: string | undefined, until: string | undefined): EffectsOf["stays"] {
  if (schedule !== undefined && !compiled.indexes.of("schedules").has(schedule)) throw new UsageError(`There is no schedule ${schedule} in the document.`);
  if (until !== undefined && parseCivilDay(until) === undefined) throw new UsageError(`--keep-until takes a date YYYY-MM-DD, not ${until}.`);
  return { ...(schedule !== undefined && { schedule }), ...(until !== undefined && { until }) };
}

const nothing: WithdrawalEffects = { lost: [], narrowed: [], staysLess: [], others: [] };

/** What is printed, and the changed document; where no plan is right, there is none. */
export interface WithdrawalAnswer {
  readonly line: Readonly<Record<string, unknown>>;
  readonly after: Facility | undefined;
}

/** Answers the options of `withdraw` on a document. */
export function answerWithdrawal(document: Facility, values: Values): WithdrawalAnswer {
  const [cardholder, credential, returned, area, schedule, until] = (
    ["cardholder", "credential", "return", "area", "keep-schedule", "keep-until"] as const
  ).map((name) => once(values, name));
  const horizonDays = horizonOf(once(values, "horizon-days"));
  const doors = values.door ?? [];
  if (returned !== undefined && (cardholder ?? credential ?? area ?? schedule ?? until ?? doors[0] ?? values["without-blocks"]) !== undefined)
    throw new UsageError("--return stands in place of holder, doors and what may stay.");
  const compiled = compileFacility(normalFacility(document));
  const ahead = aheadOf(compiled.facility, horizonDays);
  let plan: WithdrawalPlan;
  let of: EffectsOf;
  if (returned === undefined) {
    of = { holder: holderAsked(compiled, cardholder, credential), doors: doorsAsked(compiled, doors, area), stays: staysAsked(compiled, schedule, until) };
    plan = planWithdrawal(compiled, ahead, of, { withBlocks: !values["without-blocks"] });
  } else {
    const card = compiled.facility.credentials[compiled.credentialById.get(returned) ?? -1];
    if (!card) throw new UsageError(`There is no credential ${returned} in the document.`);
    of = { holder: card.cardholder === undefined ? { kind: "credential", id: card.id } : { kind: "cardholder", id: card.cardholder }, doors: [], stays: {} };
    plan = planReturn(compiled, ahead, returned);
  }
  const { changes, searched } = plan;
  const { lost, narrowed, staysLess, others } = changes.length === 0 ? nothing : withdrawalEffects(new Horizon(compiled, ahead), changes, of);
  return {
    line: {
      changes,
      lost,
      narrowed,
      staysLess,
      others: others.map(({ holder, door, minutesLess }) => ({ [holder.kind]: holder.id, door, minutesLess })),
      searched,
    },
    after: searched === "none" ? undefined : normalFacility(withChanges(compiled.facility, changes)),
  };
}

/** The options of `withdraw`, and what stands beside them. */
export const withdrawalArguments = (args: readonly string[]): { readonly values: Values; readonly positionals: readonly string[] } =>
  parseArgs({ args: [...args], allowPositionals: true, options });

/** `nomade withdraw`: the changes by which doors shut for somebody, or a card is returned, and all that they do to access. */
export async function withdraw(args: readonly string[]): Promise<number> {
  const { values, positionals } = withdrawalArguments(args);
  const [file, ...more] = positionals;
  if (file === undefined || more.length > 0) throw new UsageError("withdraw takes one facility document.");
  const out = once(values, "out");
  const { line, after } = answerWithdrawal(await documentFile(file), values);
  if (out !== undefined && after)
    await writeFile(out, normalText(after)).catch((error: NodeJS.ErrnoException) => {
      throw new UsageError(`The file ${out} cannot be written: ${error.code ?? error.message}.`);
    });
  await printLine(line);
  return after ? 0 : exitRefused;
}

import { present } from "@/core/kernel/invariant";
import type { Position } from "@/core/kernel/position-index";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import { isUnremarkable } from "@/core/certification/decide-line";
import type { Withdrawal } from "@/core/certification/withdrawal";
import { planReturn, planWithdrawal } from "@/core/certification/withdrawal";
import { ordinary } from "@/core/resolve/paths";
import { candidateDoors } from "@/core/resolve/reach";
import { exactReading } from "@/core/resolve/reading";
import { aheadOf } from "@/core/facility/ahead";
import type { Account } from "./ports/accounts";
import type { Docket, DocketLine, Round } from "./ports/rounds";
import type { Snapshot } from "./ports/snapshots";
import { demand, may } from "./rights";
import type { Services } from "./services";

/** The changes that a line's withdrawal comes to: every door of its subject that the holder's grants cover, awake or asleep. */
export function withdrawalOf(compiled: CompiledFacility, line: DocketLine["line"]): Withdrawal {
  const holder = line.cardholder === undefined ? undefined : compiled.cardholders.at(compiled.cardholderById.get(line.cardholder) ?? -1);
  const positions: readonly Position[] = holder ? holder.credentials : [present(compiled.credentialById.get(line.credential ?? ""), "a line names a holder")];
  const credentials = positions.map((position) => present(compiled.credentials.at(position), "positions are valid"));
  const { kind, id } = line.subject;
  const { from, to } = aheadOf(compiled.facility);
  if (kind === "credential") {
    const credential = present(compiled.credentials.at(compiled.credentialById.get(id) ?? -1), "a line names a credential");
    return planReturn(compiled, exactReading(compiled, from, to, ordinary), credential);
  }
  const concerned = (door: Position): boolean => {
    const at = present(compiled.doors[door], "positions are valid");
    const nearest = at.areas[0];
    return kind === "area" ? nearest !== undefined && compiled.facility.areas[nearest]?.id === id : nearest === undefined && at.door.site === id;
  };
  const doors = [...new Set(credentials.flatMap((credential) => candidateDoors(compiled, credential)))].filter(concerned);
  return planWithdrawal(compiled, exactReading(compiled, from, to, { lockdown: false, asIfLive: true }), credentials, doors);
}

export interface ShownLine extends DocketLine {
  readonly holderDetail: string;
  readonly unremarkable: boolean;
  readonly withdrawal: Withdrawal;
}

export interface ShownDocket {
  readonly docket: Docket;
  readonly round: Round;
  readonly snapshot: Snapshot;
  readonly certifierName: string;
  readonly mine: boolean;
  readonly lines: readonly ShownLine[];
  /** Names of groups, grants and doors that withdrawals speak of, by kind and id. */
  readonly names: Readonly<Record<string, string>>;
}

/** A docket with its lines and what withdrawing each would come to; undefined where there is none that this account may see. */
export async function showDocket(services: Services, account: Account, id: number): Promise<ShownDocket | undefined> {
  const [docket] = await services.rounds.dockets({ id });
  if (!docket) return undefined;
  const mine = docket.account === account.id;
  if (!mine && !may(account, "read-rounds")) return undefined;
  const round = present(await services.rounds.byId(docket.round), "a docket belongs to a round");
  const snapshot = present(await services.snapshots.byId(round.snapshot), "a round has a snapshot");
  const compiled = await services.compiled(snapshot);
  const { facility } = compiled;
  const departments = new Map(facility.groups.map((group) => [group.id, group.name]));
  const names: Record<string, string> = {};
  const lines = (await services.rounds.lines({ docket: id })).map((line): ShownLine => {
    const holder = facility.cardholders[compiled.cardholderById.get(line.line.cardholder ?? "") ?? -1];
    const type = holder?.type === undefined || holder.type === "employee" ? "" : `, ${holder.type}`;
    const withdrawal = withdrawalOf(compiled, line.line);
    for (const change of withdrawal.changes) {
      if (change.kind === "end-membership") names[`group ${change.group}`] = departments.get(change.group) ?? change.group;
      if (change.kind === "end-credential") names[`credential ${change.credential}`] = line.line.subject.name.toLowerCase();
      if (change.kind === "end-grant") names[`grant ${change.grant}`] = grantName(compiled, change.grant);
    }
    for (const door of [...withdrawal.alsoLost, ...withdrawal.alsoNarrowed])
      names[`door ${door}`] = facility.doors[compiled.doorById.get(door) ?? -1]?.name ?? door;
    return {
      ...line,
      holderDetail: holder ? `${departments.get(holder.department ?? "") ?? "No department"}${type}${holder.status === "active" ? "" : `, ${holder.status}`}` : "no cardholder",
      unremarkable: isUnremarkable(line.line),
      withdrawal,
    };
  });
  const certifier = facility.cardholders[compiled.cardholderById.get(docket.certifier ?? "") ?? -1];
  return { docket, round, snapshot, certifierName: certifier?.name ?? "The reviewer", mine, lines, names };
}

function grantName({ facility }: CompiledFacility, id: string): string {
  const grant = facility.grants.find((one) => one.id === id);
  const { level, bundle, door, doorGroup, area } = grant?.open ?? {};
  const nameIn = (list: readonly { readonly id: string; readonly name: string }[], wanted: string | undefined) => list.find((object) => object.id === wanted)?.name;
  return nameIn(facility.levels, level) ?? nameIn(facility.bundles, bundle) ?? nameIn(facility.doors, door) ?? nameIn(facility.doorGroups, doorGroup) ?? nameIn(facility.areas, area) ?? id;
}

/** The dockets of an account, the open ones first. */
export async function myDockets(services: Services, account: Account): Promise<{ docket: Docket; round: Round }[]> {
  demand(account, "certify");
  const dockets = await services.rounds.dockets({ account: account.id });
  const withRounds = await Promise.all(
    dockets.map(async (docket) => ({ docket, round: present(await services.rounds.byId(docket.round), "a docket belongs to a round") })),
  );
  return withRounds.sort((a, b) => Number(a.docket.signedAt !== undefined) - Number(b.docket.signedAt !== undefined) || b.docket.id - a.docket.id);
}

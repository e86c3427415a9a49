import { compileFacility } from "@/core/compile/compile-facility";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import type { FacilityDocument } from "@/core/facility/document";
import { withAllLists } from "@/core/facility/facility";
import { required } from "@/core/kernel/invariant";
import type { Position } from "@/core/compile/position-index";
import { doorsOfRow } from "@/core/table/access-rows";
import type { AccessTable } from "@/core/table/access-table";
import { accessTable } from "@/core/table/access-table";
import { AccessWorld } from "@/core/table/access-world";
import { ordinary } from "@/core/paths/paths";
import { exactTimeframe } from "@/core/paths/timeframe";
import type { EpochMinute } from "@/core/time/instant";
import { seeded } from "~/demo/random";
import { isPeerCredential, peerDoors } from "./peer-data";
import { PlainLoop, minuteOf } from "./plain";

/** The year that everything is asked about. */
export const [from, to] = [minuteOf("2026-01-01T00:00:00Z"), minuteOf("2027-01-01T00:00:00Z")];

const seed = 20260225;

export const tableOf = (compiled: CompiledFacility, world = new AccessWorld()): AccessTable =>
  accessTable(compiled, exactTimeframe(compiled, from, to, ordinary), world);

/** A question by positions and by ids. */
export interface Question {
  readonly credential: Position;
  readonly door: Position;
  readonly at: EpochMinute;
  readonly ids: { readonly credential: string; readonly door: string };
}

/** A generated document of some size, laid out, with all that its questions are drawn from. */
export class Institute {
  readonly document: FacilityDocument;
  readonly world = new AccessWorld();
  readonly table: AccessTable;
  readonly compiled: CompiledFacility;
  readonly plain: PlainLoop;
  /** Doors and credentials that every peer can be asked about. */
  readonly doors: readonly Position[];
  readonly credentials: readonly Position[];
  readonly random = seeded(seed);

  constructor(
    readonly text: string,
    readonly size: string,
  ) {
    this.document = JSON.parse(text) as FacilityDocument;
    this.table = tableOf(compileFacility(withAllLists(this.document)), this.world);
    this.compiled = this.table.compiled;
    this.plain = new PlainLoop(this.document, from, to);
    this.doors = peerDoors(this.compiled);
    // Cedar and Casbin are asked of cards that are live throughout: status and windows would only be more conditions for them.
    const whole = this.table.timelines.number(this.table.timeframe.span);
    this.credentials = this.compiled.credentials
      .all()
      .filter((credential) => isPeerCredential(credential) && this.table.liveOfCredential[credential.position] === whole)
      .map(({ position }) => position);
  }

  readonly credentialId = (position: Position): string => required(this.compiled.facility.credentials[position], "valid").id;
  readonly doorId = (position: Position): string => required(this.compiled.facility.doors[position], "valid").id;

  moment(): EpochMinute {
    return (from + this.random.below(to - from)) as EpochMinute;
  }

  /** Half of the questions are about doors that the card does open at some time, so that none is decided by an empty look-up alone. */
  question(): Question {
    const { random, table, doors } = this;
    const credential = random.pick(this.credentials);
    const opened = doorsOfRow(table.rows, table.rowOfCredential[credential] as number);
    const open = opened.length > 0 && random.chance(0.5) ? (opened[random.below(opened.length)] as number) : undefined;
    const door = open !== undefined && doors.includes(open) ? open : random.pick(doors);
    return { credential, door, at: this.moment(), ids: { credential: this.credentialId(credential), door: this.doorId(door) } };
  }

  questions(count: number): Question[] {
    return Array.from({ length: count }, () => this.question());
  }

  /** Ids of cardholders for a peer that is too slow for all of them, and by how much its time on them is scaled. */
  samplePeople(): { readonly people: readonly string[]; readonly others: readonly string[]; readonly share: number; readonly words: string } {
    const { cardholders } = this.compiled.facility;
    const count = Math.min(cardholders.length, this.size === "s" ? 200 : this.size === "m" ? 60 : 25);
    const draw = (): string[] => Array.from({ length: count }, () => this.random.pick(cardholders).id);
    return { people: draw(), others: draw(), share: cardholders.length / count, words: `${count} cardholders` };
  }
}

/** The same institute a while later: some have left, some have changed department, some grants are gone, one schedule is longer. */
export function later(document: FacilityDocument): FacilityDocument {
  const random = seeded(seed);
  const departments = (document.groups ?? []).filter(({ kind }) => kind === "department").map(({ id }) => id);
  return {
    ...document,
    cardholders: (document.cardholders ?? []).map((cardholder) => {
      if (random.chance(0.01)) return { ...cardholder, status: "left" as const, statusSince: "2026-06-01T00:00:00Z" };
      return random.chance(0.01) ? { ...cardholder, department: random.pick(departments) } : cardholder;
    }),
    grants: (document.grants ?? []).filter(({ to: receiver }) => receiver.cardholder === undefined || !random.chance(0.02)),
    schedules: (document.schedules ?? []).map((schedule) =>
      schedule.id === "late" ? { ...schedule, week: { ...schedule.week, sat: [["13:00", "18:00"] as const] } } : schedule,
    ),
  };
}

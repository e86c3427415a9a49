import { firstFew } from "@/core/kernel/compare";
import { required } from "@/core/kernel/invariant";
import { doorSensitivity } from "@/core/compile/door-sensitivity";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import type { Position } from "@/core/compile/position-index";
import type { DoorUse, UseRecord } from "@/core/findings/use";
import { useOfDoors } from "@/core/findings/use";
import { credentialLabel } from "@/core/facility/labels";
import type { HolderNumber } from "@/core/questions/asked-people";
import { bearerOf } from "@/core/questions/asked-people";
import { totalMinutes } from "@/core/time/intervals";
import { findingsOf } from "../findings/findings-of";
import type { FindingsAgainst } from "../findings/findings-of";
import { useOf } from "../findings/use-of";
import type { OpenRegister } from "../register/open-register";
import type { Account } from "../ports/accounts";
import { demand } from "../rights";
import type { Services } from "../services";
import type { Answer, AnswerRow, Inquiry } from "./inquiry";
import { compareNames } from "./compare-names";
import type { InquiryContext } from "./inquiry-context";
import { contextOf, credentialsOf, restsOnUses } from "./inquiry-context";
import { holderKey, namedDoor, namedHolder, namesOfQuestion } from "./inquiry-names";
import { openedPairs } from "./opened-pairs";
import type { OpenedPair, OpenedPairs } from "./opened-pairs";

/** So many rows are laid out in words at a time. */
export const rowsOfAnswer = 80;
/** Of so many cards the use of a door is not counted together. */
const cardsCounted = 5000;

const nameOf = ({ facility }: CompiledFacility, holder: HolderNumber): string => {
  const bearer = bearerOf(holder);
  return "card" in bearer
    ? credentialLabel(required(facility.credentials[bearer.card], "positions are valid"))
    : (facility.cardholders[bearer.cardholder]?.name ?? "");
};

/** The most sensitive of some doors, by position where several are. */
const mostSensitive = (compiled: CompiledFacility, doors: readonly Position[]): Position =>
  doors.reduce((best, door) => (doorSensitivity(compiled, door) > doorSensitivity(compiled, best) ? door : best), required(doors[0], "a row has doors"));

/** Orders rows: people by risk and doors by sensitivity, the highest first; then by name. */
class Ranking {
  constructor(
    private readonly compiled: CompiledFacility,
    private readonly by: OpenedPairs["by"],
    private readonly risks: ReadonlyMap<string, number>,
  ) {}

  risk(holder: HolderNumber): number {
    return this.risks.get(holderKey(this.compiled, holder)) ?? 0;
  }

  /** Whoever of a row is shown where it stands for several: who is most at risk. */
  riskiest(holders: readonly HolderNumber[]): HolderNumber {
    let best = required(holders[0], "a row has holders");
    for (const holder of holders) if (this.risk(holder) > this.risk(best)) best = holder;
    return best;
  }

  page(pairs: readonly OpenedPair[], offset: number, limit: number): OpenedPair[] {
    const { compiled } = this;
    const ranked = pairs.map((pair, place) => {
      const door = required(pair.doors[0], "a row has doors");
      if (this.by === "doors")
        return { pair, place, rank: doorSensitivity(compiled, door), label: required(compiled.facility.doors[door], "positions are valid").name };
      const holder = required(pair.holders[0], "a row has holders");
      return { pair, place, rank: this.risk(holder), label: nameOf(compiled, holder) };
    });
    return firstFew(ranked, offset + limit, (a, b) => b.rank - a.rank || compareNames(a.label, b.label) || a.place - b.place)
      .slice(offset)
      .map(({ pair }) => pair);
  }
}

function useOfRow(context: InquiryContext, use: UseRecord | undefined, { holders, doors }: OpenedPair): DoorUse | undefined {
  const { compiled, now } = context;
  if (!use || holders.length > cardsCounted) return undefined;
  const credentials = holders.flatMap((holder) => credentialsOf(compiled, holder).map(({ credential }) => credential.id));
  return credentials.length > cardsCounted ? undefined : useOfDoors(compiled, use, credentials, doors, now);
}

function rowOf(context: InquiryContext, pair: OpenedPair, ranking: Ranking, asleep: boolean, use: UseRecord | undefined, against: FindingsAgainst): AnswerRow {
  const { compiled } = context;
  const { holders, doors } = pair;
  const door = mostSensitive(compiled, doors);
  const holder = ranking.riskiest(holders);
  const named = namedHolder(compiled, holder);
  const week = context.drawnWeek(holders, doors, asleep);
  const zones = new Set(doors.map((one) => required(compiled.doors[one], "positions are valid").zone));
  return {
    holder: named,
    door: namedDoor(compiled, door),
    furtherDoors: doors.length - 1,
    furtherHolders: holders.length - 1,
    opens: !asleep,
    asleep,
    week,
    // One sentence cannot speak of several clocks.
    words:
      zones.size > 1
        ? undefined
        : context.describe(context.timetable(holders, doors, asleep), holders.length === 1 ? credentialsOf(compiled, holder)[0] : undefined, door),
    weekMinutes: totalMinutes(week.open),
    outOfHoursMinutes: totalMinutes(week.outside),
    use: useOfRow(context, use, pair),
    findings: holders.length > 1 ? [] : [...new Set(against(named).map(({ rule }) => rule))],
  };
}

/** How the shown rows were used; undefined where they stand for too many cards together. */
async function useOfShown(services: Services, context: InquiryContext, by: OpenedPairs["by"], shown: readonly OpenedPair[]): Promise<UseRecord | undefined> {
  const { compiled } = context;
  const doorIds = (doors: readonly Position[]): string[] => doors.map((door) => required(compiled.facility.doors[door], "positions are valid").id);
  const isFew = shown.reduce((count, { holders }) => count + holders.length, 0) <= cardsCounted;
  if (by === "doors" && !isFew) return useOf(services, compiled, { doors: doorIds(shown.flatMap(({ doors }) => doors)) });
  const credentials = new Set(
    shown.flatMap(({ holders }) => holders.flatMap((holder) => credentialsOf(compiled, holder).map(({ credential }) => credential.id))),
  );
  const doors = context.inquiry.where?.kind === "door" ? { doors: doorIds(context.doors ?? []) } : {};
  return useOf(services, compiled, { credentials: [...credentials], ...doors });
}

/** Answers a question of who, where and when over a snapshot: the rows from `offset` on, as many as are laid out at a time, or as `limit` says. */
export async function answerInquiry(
  services: Services,
  account: Account,
  register: OpenRegister,
  inquiry: Inquiry,
  offset = 0,
  limit = rowsOfAnswer,
): Promise<Answer> {
  demand(account, "ask");
  const { compiled } = register;
  const context = await contextOf(services, compiled, inquiry);
  const { by, awake, asleep, holders, askedDoors } = openedPairs(context);
  const isOneHolder = holders.length === 1;
  const ranking = new Ranking(compiled, by, isOneHolder ? new Map<string, number>() : await services.findings.risks(register.snapshot.id));
  const shown = ranking.page(awake, offset, limit);
  // Those that are asleep follow those that are not.
  const shownAsleep = ranking.page(asleep, Math.max(0, offset - awake.length), Math.max(0, limit - shown.length));
  const all = [...shown, ...shownAsleep];
  const [use, against] = await Promise.all([
    useOfShown(services, context, by, all),
    findingsOf(
      services,
      register,
      all.filter(({ holders }) => holders.length === 1).map(({ holders }) => namedHolder(compiled, required(holders[0], "a row has holders"))),
    ),
  ]);
  // People who open the same share their list of doors.
  const concerned = context.doors ?? [...new Set([...new Set(awake.map(({ doors }) => doors))].flat())];
  const zones = [...new Set(concerned.map((door) => required(compiled.doors[door], "positions are valid").zone))];
  const [first] = concerned;
  const at = first === undefined ? undefined : context.instantAt(first);
  return {
    names: namesOfQuestion(compiled, inquiry),
    by,
    askedHolders: holders.length,
    askedDoors,
    offset,
    rows: shown.map((pair) => rowOf(context, pair, ranking, false, use, against)),
    total: awake.length,
    asleep: shownAsleep.map((pair) => rowOf(context, pair, ranking, true, use, against)),
    asleepTotal: asleep.length,
    holderless: by === "doors" ? 0 : awake.filter(({ holders: [holder] }) => holder !== undefined && isHolderless(compiled, holder)).length,
    zones: zones.map((zone) => ({ name: zone.name, offset: zone.offsetAt(at ?? context.asOf) })),
    at,
    free: inquiry.where?.kind === "door" && first !== undefined ? context.free(first) : undefined,
    asOf: context.asOf,
    now: context.now,
    uses: restsOnUses(register, holders),
  };
}

/** Whether a holder is a card that nobody is written down for. */
function isHolderless({ objects: { cards } }: CompiledFacility, holder: HolderNumber): boolean {
  const bearer = bearerOf(holder);
  return "card" in bearer && cards.holderOf[bearer.card] === -1;
}

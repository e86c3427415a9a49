import { required } from "@/core/kernel/invariant";
import { firstFew, groupBy } from "@/core/kernel/compare";
import type { Position } from "@/core/compile/position-index";
import type { CompiledCredential, CompiledFacility } from "@/core/compile/compiled-facility";
import { outOfHours } from "@/core/findings/business-hours";
import { doorSensitivity } from "@/core/findings/reach";
import { candidateCredentials, candidateDoors } from "@/core/paths/candidates";
import type { IntervalSet } from "@/core/time/intervals";
import { totalMinutes, union } from "@/core/time/intervals";
import type { UseRecord } from "@/core/findings/use";
import { useOfDoors } from "@/core/findings/use";
import { findingsOf } from "../findings/findings-of";
import type { FindingsAgainst } from "../findings/findings-of";
import type { OpenRegister } from "../register/open-register";
import type { Account } from "../ports/accounts";
import { demand } from "../rights";
import type { Services } from "../services";
import type { AnswerableInquiry, AnswerRow, Answer } from "./inquiry";
import { Holder, InquiryContext, doorsOf, credentialsOf, minuteNow } from "./inquiry-context";
import { namedDoor, whoNamed } from "./inquiry-names";
import { useOf } from "../findings/use-of";

/** Names as people sort them: "Glasshouse 2" before "Glasshouse 10". */
const byName = new Intl.Collator("en", { numeric: true });

/** At most as many rows are laid out in words; the others are counted. */
const rowsShown = 80;

interface Pair {
  readonly holder: Holder;
  readonly doors: readonly Position[];
}

const holderKey = (credential: CompiledCredential): string => (credential.holder ? `h ${credential.holder.position}` : `c ${credential.position}`);

/** The pairs that the question is about: each candidate holder with the doors asked for, or the one holder with each door. */
function pairsOf(compiled: CompiledFacility, { who, where }: AnswerableInquiry): Pair[] {
  const doors = where && doorsOf(compiled, where);
  if (who) {
    const credentials = credentialsOf(compiled, who);
    if (credentials.length === 0) return [];
    const holder = new Holder(compiled, credentials, who.kind === "credential");
    const reached = [...new Set(credentials.flatMap((credential) => candidateDoors(compiled, credential)))];
    return (doors ? reached.filter((door) => doors.includes(door)) : reached).map((door) => ({ holder, doors: [door] }));
  }
  const credentials = new Set((doors ?? []).flatMap((door) => candidateCredentials(compiled, door)));
  return [...groupBy(credentials, holderKey).values()].map((own) => ({ holder: new Holder(compiled, own), doors: doors ?? [] }));
}

function rowOf(context: InquiryContext, { holder, doors }: Pair, asleep: boolean, use: UseRecord, against: FindingsAgainst): AnswerRow {
  const { compiled } = context;
  const door = required(doors[0], "a pair has doors");
  const open = doors.reduce<IntervalSet>((set, one) => union(set, context.timetable(holder, one, asleep)), []);
  const week = doors.reduce<IntervalSet>((set, one) => union(set, context.week(holder, one, asleep)), []);
  return {
    holder: holder.named,
    door: namedDoor(compiled, door),
    furtherDoors: doors.length - 1,
    opens: !asleep,
    asleep,
    week,
    words: context.describe(open, holder.credentials[0], door),
    weekMinutes: totalMinutes(week),
    outOfHoursMinutes: totalMinutes(outOfHours(week)),
    use: useOfDoors(
      compiled,
      use,
      holder.credentials.map(({ credential }) => credential.id),
      doors,
      context.now,
    ),
    findings: [...new Set(against(holder.named).map(({ rule }) => rule))],
  };
}

/** Answers a question of who, where and when over a snapshot. One of who and where must be given. */
export async function answerInquiry(services: Services, account: Account, register: OpenRegister, inquiry: AnswerableInquiry): Promise<Answer> {
  demand(account, "ask");
  const { compiled } = register;
  const context = new InquiryContext(compiled, minuteNow(services), inquiry);
  const awake: Pair[] = [];
  const sleeping: Pair[] = [];
  for (const { holder, doors } of pairsOf(compiled, inquiry)) {
    const open = doors.filter((door) => context.opens(holder, door, false));
    if (open.length > 0) awake.push({ holder, doors: open });
    else {
      const woken = doors.filter((door) => context.opens(holder, door, true));
      if (woken.length > 0) sleeping.push({ holder, doors: woken });
    }
  }
  const risks = inquiry.who ? new Map<string, number>() : await services.findings.risks(register.snapshot.id);
  const use = await useOf(
    services,
    compiled,
    inquiry.who
      ? { credentials: credentialsOf(compiled, inquiry.who).map(({ credential }) => credential.id) }
      : inquiry.where
        ? { doors: doorsOf(compiled, inquiry.where).map((door) => required(compiled.facility.doors[door], "positions are valid").id) }
        : {},
  );
  const rank = ({ holder, doors }: Pair): number =>
    inquiry.who ? Math.max(...doors.map((door) => doorSensitivity(compiled, door))) : (risks.get(`${holder.named.kind} ${holder.named.id}`) ?? 0);
  const firstOf = (pairs: readonly Pair[]): Pair[] => {
    const ranked = pairs.map((pair) => ({
      pair,
      rank: rank(pair),
      label: `${pair.holder.named.name} ${required(compiled.facility.doors[pair.doors[0] ?? -1], "a pair has doors").name}`,
    }));
    return firstFew(ranked, rowsShown, (a, b) => b.rank - a.rank || byName.compare(a.label, b.label)).map(({ pair }) => pair);
  };
  const [shown, shownAsleep] = [firstOf(awake), firstOf(sleeping)];
  const against = await findingsOf(
    services,
    register,
    [...shown, ...shownAsleep].map(({ holder }) => holder.named),
  );
  const asked = inquiry.where ? doorsOf(compiled, inquiry.where) : awake.flatMap(({ doors }) => doors);
  const zones = [...new Set(asked.map((door) => required(compiled.doors[door], "positions are valid").zone))];
  const at = asked[0] === undefined ? undefined : context.instantAt(asked[0]);
  const area = inquiry.where?.kind === "area" ? compiled.facility.areas.find(({ id }) => id === inquiry.where?.id) : undefined;
  return {
    asked: {
      who: inquiry.who && whoNamed(compiled, inquiry.who),
      // An area may have no door, and a cardholder no card: they are there all the same.
      where:
        inquiry.where && (area || asked[0] !== undefined)
          ? { ...inquiry.where, name: area?.name ?? namedDoor(compiled, required(asked[0], "checked")).name }
          : undefined,
    },
    rows: shown.map((pair) => rowOf(context, pair, false, use, against)),
    total: awake.length,
    asleep: shownAsleep.map((pair) => rowOf(context, pair, true, use, against)),
    asleepTotal: sleeping.length,
    holderless: awake.filter(({ holder }) => holder.named.kind === "credential" && !holder.credentials[0]?.holder).length,
    zones: zones.map((zone) => ({ name: zone.name, offset: zone.offsetAt(at ?? context.asOf) })),
    at,
    free: inquiry.where?.kind === "door" && asked[0] !== undefined ? context.free(asked[0]) : undefined,
    asOf: context.asOf,
    now: context.now,
  };
}

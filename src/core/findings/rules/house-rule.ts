import { required } from "../../kernel/invariant";
import { remembered } from "../../kernel/remembered";
import type { HolderNumber } from "../../questions/asked-people";
import { bearerOf } from "../../questions/asked-people";
import type { Flag, FlagOf, Subject, Untold } from "../flag";
import type { HouseQuestion, HouseRule } from "../house-rule";
import type { Counterexample } from "../house-rules";
import { fewestAt, peopleOfRule, PlaceAtTime, questionIn } from "../house-rules";
import type { Judged } from "../judged";
import { rule } from "../rule";
import { writtenMinute, writtenThere } from "../written";

type HouseFlag = FlagOf<"house-rule">;

/** So many of those who are too many are named. */
const holdersNamed = 10;

const subjectOf = ({ facility }: Judged, holder: HolderNumber): Subject => {
  const bearer = bearerOf(holder);
  return "card" in bearer
    ? { kind: "credential", id: required(facility.credentials[bearer.card], "positions are valid").id }
    : { kind: "cardholder", id: required(facility.cardholders[bearer.cardholder], "positions are valid").id };
};

/** What a rule about a number is about: the place that it names, or, of several places, the site of the first of their doors. */
function placeOf({ facility, compiled }: Judged, { where }: HouseQuestion, place: PlaceAtTime): Subject | undefined {
  if (where.kind === "door" || where.kind === "area" || where.kind === "level" || where.kind === "site") return { kind: where.kind, id: where.id };
  const site = compiled.doors[place.doors[0] ?? -1]?.door.site ?? facility.sites[0]?.id;
  return site === undefined ? undefined : { kind: "site", id: site };
}

/** Those who break a rule that speaks of each person by themself. */
function* brokenByEach(judged: Judged, { id, name, demand }: HouseRule, { who, when }: HouseQuestion, place: PlaceAtTime): Generator<HouseFlag> {
  const told = { name, must: demand.must };
  const doorId = (door: number): string => required(judged.facility.doors[door], "positions are valid").id;
  const there = ({ door, at }: Counterexample): string => writtenThere(at, required(judged.compiled.doors[door], "positions are valid").zone);
  const other = demand.must === "not-both" ? new PlaceAtTime(judged, demand.other, when) : undefined;
  const allowed = demand.must === "only" ? new Set(peopleOfRule(judged, who)) : undefined;
  const proofOf = remembered((row: number): HouseFlag["proof"] | undefined => {
    const first = place.first(row);
    const second = other?.first(row);
    if (!first || (other && !second)) return undefined;
    return {
      ...told,
      door: doorId(first.door),
      at: writtenMinute(first.at),
      there: there(first),
      doors: judged.doorIds(place.doorsOf(row)),
      ...(second && { otherDoor: doorId(second.door), otherAt: writtenMinute(second.at), otherThere: there(second) }),
    };
  });
  for (const holder of peopleOfRule(judged, allowed ? undefined : who)) {
    const proof = allowed?.has(holder) ? undefined : proofOf(place.rowOf(holder));
    if (proof) yield { subject: subjectOf(judged, holder), distinct: [id], proof };
  }
}

/** What breaks a rule about how many there are. */
function brokenByNumber(judged: Judged, { id, name, demand }: HouseRule, asks: HouseQuestion, place: PlaceAtTime, count: number): HouseFlag[] {
  const subject = placeOf(judged, asks, place);
  if (!subject) return [];
  const people = peopleOfRule(judged, asks.who);
  const told = { name, must: demand.must, count };
  if (demand.must === "at-least") {
    const fewest = fewestAt(judged.ahead, place, people, count);
    const zone = judged.compiled.doors[place.doors[0] ?? -1]?.zone;
    return fewest && zone
      ? [{ subject, distinct: [id], proof: { ...told, found: fewest.found, at: writtenMinute(fewest.at), there: writtenThere(fewest.at, zone) } }]
      : [];
  }
  const opening = people.filter((holder) => place.doorsOf(place.rowOf(holder)).length > 0);
  if (opening.length <= count) return [];
  const named = opening.map((holder) => subjectOf(judged, holder).id).sort();
  return [{ subject, distinct: [id], proof: { ...told, found: opening.length, among: named.slice(0, holdersNamed) } }];
}

/** What the house has written down that must always be so, and is not, with a counterexample. */
export const houseRule = rule({
  key: "house-rule",
  base: 30,
  source: "a rule of the house itself, no source beyond it",
  parameters: {},
  find: (judged) => {
    const untold: Untold[] = [];
    const flags: Flag<HouseFlag["proof"]>[] = [];
    for (const one of judged.houseRules) {
      const asks = questionIn(judged.compiled, one);
      if (!asks) {
        untold.push({ id: one.name });
        continue;
      }
      const place = new PlaceAtTime(judged, asks.where, asks.when);
      const { demand } = one;
      if (demand.must === "at-least" || demand.must === "at-most") flags.push(...brokenByNumber(judged, one, asks, place, demand.count));
      else flags.push(...brokenByEach(judged, one, asks, place));
    }
    return { flags, untold };
  },
});

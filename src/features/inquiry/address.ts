import { formatCivilDay, formatClock, parseCivilDay, parseClock } from "@/core/time/civil-day";
import type { Inquiry, TimeBand, When } from "@/operations/inquiry";

/** The part of the address that holds a question; a part left open is left out. */
export interface QuestionAddress {
  readonly who?: string | undefined;
  readonly where?: string | undefined;
  readonly when?: string | undefined;
  readonly lockdown?: string | undefined;
  readonly snapshot?: string | undefined;
}

const bands: readonly TimeBand[] = ["nights", "weekends", "out-of-hours"];

function whenOf(text: string | undefined): When {
  if (text === undefined) return { kind: "any" };
  if (text === "now") return { kind: "now" };
  const band = bands.find((one) => one === text);
  if (band) return { kind: "band", band };
  const [dateText = "", clockText = ""] = text.split("T");
  const [date, minuteOfDay] = [parseCivilDay(dateText), parseClock(clockText, false)];
  return date === undefined || minuteOfDay === undefined ? { kind: "any" } : { kind: "moment", date, minuteOfDay };
}

function partOf<K extends string>(text: string | undefined, kinds: readonly K[]): { kind: K; id: string } | undefined {
  const colon = text?.indexOf(":") ?? -1;
  if (text === undefined || colon < 0) return undefined;
  const kind = kinds.find((one) => one === text.slice(0, colon));
  return kind && { kind, id: text.slice(colon + 1) };
}

/** The question that an address holds; a part that cannot be read is left open. */
export const inquiryOf = (address: QuestionAddress): Inquiry => ({
  who: partOf(address.who, ["cardholder", "credential"]),
  where: partOf(address.where, ["door", "area"]),
  when: whenOf(address.when),
  lockdown: address.lockdown === "1",
  ...(/^[1-9][0-9]{0,8}$/.test(address.snapshot ?? "") && { snapshot: Number(address.snapshot) }),
});

const whenAddress = (when: When): string | undefined => {
  if (when.kind === "any") return undefined;
  if (when.kind === "now") return "now";
  return when.kind === "band" ? when.band : `${formatCivilDay(when.date)}T${formatClock(when.minuteOfDay)}`;
};

/** The query of the address that holds a question. */
export function questionQuery({ who, where, when, lockdown, snapshot }: Inquiry): string {
  const query = new URLSearchParams();
  if (who) query.set("who", `${who.kind}:${who.id}`);
  if (where) query.set("where", `${where.kind}:${where.id}`);
  const time = whenAddress(when);
  if (time !== undefined) query.set("when", time);
  if (lockdown) query.set("lockdown", "1");
  if (snapshot !== undefined) query.set("snapshot", String(snapshot));
  return query.toString();
}

export const questionAddress = (inquiry: Inquiry): string => `/inquiry?${questionQuery(inquiry)}`;

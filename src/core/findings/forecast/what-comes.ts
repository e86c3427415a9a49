import { inactiveFrom } from "../../compile/lives";
import type { Position } from "../../compile/position-index";
import type { CompiledFacility } from "../../compile/compiled-facility";
import { compareCodePoints } from "../../kernel/compare";
import { parseCivilDay } from "../../time/civil-day";
import type { EpochMinute } from "../../time/instant";
import type { Window } from "../../time/window";
import { endOfMinutesThrough, firstMinuteFrom } from "../../time/zone";
import { Lives } from "../lives";

/** Something that begins or ends by itself. */
export interface Coming {
  readonly at: EpochMinute;
  readonly change: "begins" | "ends";
  readonly list: "cardholders" | "credentials" | "memberships" | "grants" | "schedules";
  /** Its id; of a membership that of its group. */
  readonly id: string;
  /** Whom it concerns, where that is one: the cardholder, or the credential that nobody is written down for. */
  readonly holder: { readonly kind: "cardholder" | "credential"; readonly position: Position } | undefined;
  /** By its window, by its status, or so long after it was first, or last, used: the latter if it is not used again. */
  readonly by: "window" | "status" | "first-use" | "last-use";
  /** Whether it is a block: its end opens doors. */
  readonly isBlock?: true;
}

/** The first minute of a span of a status that makes it inactive, and its window: what is in use from when until when. */
interface InUse {
  readonly window: Window;
  readonly inactiveFrom: EpochMinute;
}

/** What begins and ends by itself after the export and before a minute, in the order of time, then of lists and ids. Source: `access-semantics.md`, 2 to 5. */
export function whatComes(compiled: CompiledFacility, from: EpochMinute, to: EpochMinute): readonly Coming[] {
  const { facility, vocabulary, cardholderById, credentialById } = compiled;
  const lives = new Lives(compiled, from);
  const found: Coming[] = [];
  const isWithin = (at: EpochMinute): boolean => at > from && at < to;
  type Of = Pick<Coming, "list" | "id" | "holder" | "isBlock">;
  const note = (of: Of, { window, inactiveFrom: inactive }: InUse, endsBy: Coming["by"]): void => {
    if (window.from >= window.until) return;
    if (isWithin(window.from) && window.from < inactive) found.push({ ...of, at: window.from, change: "begins", by: "window" });
    const end = Math.min(window.until, inactive) as EpochMinute;
    if (isWithin(end) && end > window.from) found.push({ ...of, at: end, change: "ends", by: inactive < window.until ? "status" : endsBy });
  };
  const always = Infinity as EpochMinute;
  const holderOf = (credential: Position): Coming["holder"] => {
    const cardholder = lives.holderOf(credential);
    return cardholder === undefined ? { kind: "credential", position: credential } : { kind: "cardholder", position: cardholder };
  };
  for (const [position, cardholder] of facility.cardholders.entries())
    note(
      { list: "cardholders", id: cardholder.id, holder: { kind: "cardholder", position } },
      { window: lives.windowOfCardholder(position), inactiveFrom: inactiveFrom(cardholder) },
      "window",
    );
  for (const [position, credential] of facility.credentials.entries()) {
    const window = lives.windowOfCredential(position);
    const isByUse = window.until < vocabulary.windows.of(credential).outward.until;
    note(
      { list: "credentials", id: credential.id, holder: holderOf(position) },
      { window, inactiveFrom: inactiveFrom(credential) },
      isByUse && credential.expiry ? credential.expiry.after : "window",
    );
  }
  for (const membership of facility.memberships) {
    const position = cardholderById.get(membership.cardholder) ?? -1;
    note(
      { list: "memberships", id: membership.group, holder: { kind: "cardholder", position } },
      { window: lives.windowOfMembership(membership), inactiveFrom: always },
      "window",
    );
  }
  for (const grant of facility.grants) {
    const { to: receiver } = grant;
    const holder: Coming["holder"] =
      receiver.cardholder !== undefined
        ? { kind: "cardholder", position: cardholderById.get(receiver.cardholder) ?? -1 }
        : receiver.credential !== undefined
          ? holderOf(credentialById.get(receiver.credential) ?? -1)
          : undefined;
    const isBlock = grant.effect === "block" ? { isBlock: true as const } : {};
    note({ list: "grants", id: grant.id, holder, ...isBlock }, { window: lives.windowOfGrant(grant), inactiveFrom: always }, "window");
  }
  for (const { id, from: first, until: last } of facility.schedules) {
    // Each door reads them on its own clock; what is told is the facility's.
    const [firstDay, lastDay] = [first === undefined ? undefined : parseCivilDay(first), last === undefined ? undefined : parseCivilDay(last)];
    const window = {
      from: firstDay === undefined ? (-Infinity as EpochMinute) : firstMinuteFrom(vocabulary.zone, firstDay),
      until: lastDay === undefined ? always : endOfMinutesThrough(vocabulary.zone, lastDay),
    };
    note({ list: "schedules", id, holder: undefined }, { window, inactiveFrom: always }, "window");
  }
  return found.sort((a, b) => a.at - b.at || compareCodePoints(a.list, b.list) || compareCodePoints(a.id, b.id));
}

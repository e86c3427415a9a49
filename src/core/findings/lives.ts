import { inactiveFrom } from "../compile/lives";
import { credentialsOf } from "../compile/holdings";
import type { CompiledFacility } from "../compile/compiled-facility";
import type { Position } from "../compile/position-index";
import type { Cardholder, Credential, Grant, Membership } from "../facility/document";
import { instantOf } from "../facility/time-rules";
import { required } from "../kernel/invariant";
import { minuteDown, never } from "../time/instant";
import type { EpochMinute } from "../time/instant";
import { intersectWindows } from "../time/window";
import type { Window } from "../time/window";

/** The minute in which an instant of the document lies; undefined for none. */
export const minuteOf = (text: string | undefined): EpochMinute | undefined => (text === undefined ? undefined : minuteDown(instantOf(text)));

/**
 * Since when and until when things are in use, at a minute. `start` and `end` are the rounded bounds of a window, a credential's end with its expiry
 * taken in; a missing one is earlier, or later, than everything. Source: `findings.md`, 1.2.
 */
export class Lives {
  constructor(
    readonly compiled: CompiledFacility,
    readonly at: EpochMinute,
  ) {}

  cardholder(position: Position): Cardholder {
    return required(this.compiled.facility.cardholders[position], "positions are valid");
  }

  credential(position: Position): Credential {
    return required(this.compiled.facility.credentials[position], "positions are valid");
  }

  windowOfCardholder(position: Position): Window {
    return this.compiled.vocabulary.windows.of(this.cardholder(position)).outward;
  }

  windowOfCredential(position: Position): Window {
    const credential = this.credential(position);
    // Hardly any end by their use; those that do not are not laid out for it.
    return credential.expiry
      ? required(this.compiled.credentials.at(position), "positions are valid").life.window
      : this.compiled.vocabulary.windows.of(credential).outward;
  }

  windowOfGrant(grant: Grant): Window {
    const window = this.compiled.vocabulary.windows.of(grant);
    return grant.effect === "block" ? window.inward : window.outward;
  }

  windowOfMembership(membership: Membership): Window {
    return this.compiled.vocabulary.windows.of(membership).outward;
  }

  isOver(window: Window): boolean {
    return window.until <= this.at;
  }

  isMarkedActive(credential: Position): boolean {
    return this.at < inactiveFrom(this.credential(credential));
  }

  hasActiveStatus(cardholder: Position): boolean {
    return this.at < inactiveFrom(this.cardholder(cardholder));
  }

  /** Whether the status of a cardholder is `left` at the minute. */
  hasStatusLeft(cardholder: Position): boolean {
    const said = this.cardholder(cardholder);
    return said.status === "left" && inactiveFrom(said) <= this.at;
  }

  hasLeft(cardholder: Position): boolean {
    // Nearly everybody is in use still, and needs no second look.
    if ((this.compiled.objects.holders.until[cardholder] as number) > this.at) return false;
    return this.hasStatusLeft(cardholder) || this.isOver(this.windowOfCardholder(cardholder));
  }

  /** From when on the status of a cardholder is not `active`. */
  statusSince(cardholder: Position): EpochMinute {
    return inactiveFrom(this.cardholder(cardholder));
  }

  /** When a cardholder left; undefined where that is not known. Promises that they have left. */
  leftAt(cardholder: Position): EpochMinute | undefined {
    const said = this.cardholder(cardholder);
    const byStatus = this.hasStatusLeft(cardholder);
    if (byStatus && said.statusSince === undefined) return undefined;
    const { until } = this.windowOfCardholder(cardholder);
    return Math.min(byStatus ? inactiveFrom(said) : never, until <= this.at ? until : never) as EpochMinute;
  }

  /** The window in which a credential is live, its holder's life taken in. */
  liveWindow(credential: Position): Window {
    const { cards, holders } = this.compiled.objects;
    const own = { from: cards.from[credential], until: cards.until[credential] } as Window;
    const holder = cards.holderOf[credential] as number;
    return holder === -1 ? own : intersectWindows(own, { from: holders.from[holder], until: holders.until[holder] } as Window);
  }

  isLiveAt(credential: Position, minute: EpochMinute): boolean {
    const { cards, holders } = this.compiled.objects;
    if ((cards.from[credential] as number) > minute || (cards.until[credential] as number) <= minute) return false;
    const holder = cards.holderOf[credential] as number;
    return holder === -1 || ((holders.from[holder] as number) <= minute && (holders.until[holder] as number) > minute);
  }

  isLive(credential: Position): boolean {
    return this.isLiveAt(credential, this.at);
  }

  holderOf(credential: Position): Position | undefined {
    const holder = this.compiled.objects.cards.holderOf[credential] as number;
    return holder === -1 ? undefined : holder;
  }

  /** The later of the beginnings of a credential and its holder. */
  laterStart(credential: Position): EpochMinute {
    const holder = this.holderOf(credential);
    const { from } = this.windowOfCredential(credential);
    return holder === undefined ? from : (Math.max(from, this.windowOfCardholder(holder).from) as EpochMinute);
  }

  credentialsOf(cardholder: Position): readonly Position[] {
    return Array.from(credentialsOf(this.compiled.holdings, cardholder));
  }
}

import { required } from "../kernel/invariant";
import { addSeconds, always, minuteUp, never, parseMoment } from "../time/instant";
import type { EpochMinute, Instant } from "../time/instant";
import { firstMinuteFrom } from "../time/zone";
import type { Zone } from "../time/zone";
import type { Cardholder, Credential } from "../facility/document";
import { instantOf } from "../facility/time-rules";
import type { Life } from "./compiled-facility";
import type { Vocabulary } from "./vocabulary";

/** From when on a status other than `active` holds; never, where it is `active`. */
export function inactiveFrom(object: Cardholder | Credential): EpochMinute {
  if (object.status === "active") return never;
  return object.statusSince === undefined ? always : minuteUp(instantOf(object.statusSince));
}

const secondsADay = 86400;

/** End by use: `days` × 24 h after the unrounded instant of the use, rounded up; never where nothing starts the count. */
function expiryEnd(credential: Credential, zone: Zone): EpochMinute {
  const { expiry } = credential;
  if (!expiry) return never;
  const use = expiry.after === "first-use" ? credential.firstUse : credential.lastUse;
  let start: Instant | undefined = use === undefined ? undefined : instantOf(use);
  if (!start && expiry.after === "last-use" && credential.from !== undefined) {
    const from = required(parseMoment(credential.from), "a well-formed document has possible moments");
    start = from.kind === "instant" ? from.instant : { seconds: firstMinuteFrom(zone, from.date) * 60, fraction: "" };
  }
  return start ? minuteUp(addSeconds(start, expiry.days * secondsADay)) : never;
}

/** When a credential itself is in use; its window ends at the earlier of `until` and the usage expiry. */
export function credentialLife(credential: Credential, { zone, windows }: Vocabulary): Life {
  const window = windows.of(credential).outward;
  return {
    inactiveFrom: inactiveFrom(credential),
    window: credential.expiry ? { from: window.from, until: Math.min(window.until, expiryEnd(credential, zone)) as EpochMinute } : window,
  };
}

import { present } from "../kernel/invariant";
import { addSeconds, always, minuteUp, never, parseMoment } from "../time/instant";
import type { EpochMinute, Instant } from "../time/instant";
import { unbounded } from "../time/window";
import type { Rounding, Window } from "../time/window";
import { firstMinuteFrom } from "../time/zone";
import type { Zone } from "../time/zone";
import type { Cardholder, Credential } from "../facility/draft";
import { instantOf, objectWindow } from "../facility/time-rules";
import type { Life } from "./compiled-facility";

/** Reads the window of an object with `from` and `until`. */
export type WindowReader = (object: { readonly from?: string; readonly until?: string }, rounding: Rounding) => Window;

/** Windows by how they are written: a large register writes few different ones, and most write none. Equal texts give one object. */
export function windowReader(zone: Zone): WindowReader {
  const known = new Map<string, Window>();
  return (object, rounding) => {
    const { from, until } = object;
    if (from === undefined && until === undefined) return unbounded;
    const key = `${rounding} ${from ?? ""} ${until ?? ""}`;
    let window = known.get(key);
    if (!window) {
      window = objectWindow(object, zone, rounding);
      known.set(key, window);
    }
    return window;
  };
}

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
    const from = present(parseMoment(credential.from), "a well-formed document has possible moments");
    start = from.kind === "instant" ? from.instant : { seconds: firstMinuteFrom(zone, from.date) * 60, fraction: "" };
  }
  return start ? minuteUp(addSeconds(start, expiry.days * secondsADay)) : never;
}

/** When a credential itself is in use; its window ends at the earlier of `until` and the usage expiry. */
export function credentialLife(credential: Credential, zone: Zone, windowOf: WindowReader): Life {
  const window = windowOf(credential, "outward");
  return {
    inactiveFrom: inactiveFrom(credential),
    window: credential.expiry ? { from: window.from, until: Math.min(window.until, expiryEnd(credential, zone)) as EpochMinute } : window,
  };
}

import type { UnitReason } from "@/core/units/decide-at-unit";

const words: Readonly<Record<UnitReason | "forced" | "held" | "duress", string>> = {
  right: "has the right",
  free: "stands open to anybody",
  "unknown-door": "the unit has no such door",
  "unknown-card": "not known to the unit",
  "not-valid-yet": "not valid yet, by the unit’s clock",
  "no-longer-valid": "not valid any more, by the unit’s clock",
  "no-right": "no right to this door",
  "out-of-hours": "outside the hours that the unit holds",
  lockdown: "shut in a lockdown",
  "card-wanted": "asks for a card",
  "pin-wanted": "asks for a PIN",
  "pin-wrong": "wrong PIN",
  passback: "went in before and did not come out",
  forced: "the door was forced",
  held: "the door was held open for too long",
  duress: "let in under duress",
};

/** Why a unit decided as it did, in words; what another system says of its events stays as it says it. */
export const unitReasonWords = (reason: string): string => (Object.hasOwn(words, reason) ? words[reason as keyof typeof words] : reason);

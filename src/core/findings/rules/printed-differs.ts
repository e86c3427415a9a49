import { present } from "../../events/told-card";
import { groupBy } from "../../kernel/compare";
import { rule, standards } from "../rule";

/** A card on which the number of another card is printed. */
export const printedDiffers = rule({
  key: "printed-differs",
  base: 10,
  source: standards.practice,
  parameters: {},
  find: ({ lives, facility }) => {
    const key = (number: string, facilityCode: string | undefined): string => JSON.stringify([number, present(facilityCode) ?? null]);
    const active = facility.credentials.filter((_, i) => lives.isMarkedActive(i));
    const byNumber = groupBy(
      active.filter(({ number }) => present(number) !== undefined),
      ({ number = "", facilityCode }) => key(number, facilityCode),
    );
    return {
      flags: active.flatMap(({ id, printedNumber, number, facilityCode }) => {
        const printed = present(printedNumber);
        if (printed === undefined || printed === number) return [];
        const credentials = (byNumber.get(key(printed, facilityCode)) ?? []).map((other) => other.id);
        return credentials.length === 0 ? [] : [{ subject: { kind: "credential" as const, id }, proof: { credentials } }];
      }),
    };
  },
});

import { rule, standards } from "../rule";

/** A visitor who opens sensitive doors. */
export const visitorSensitive = rule({
  key: "visitor-sensitive",
  base: 30,
  source: standards.pci("9.3.2"),
  parameters: { sensitivity: 2 },
  find: (judged, { sensitivity }) => ({
    flags: judged.holders.flatMap((holder) => {
      if (holder.cardholder === undefined || judged.lives.cardholder(holder.cardholder).type !== "visitor") return [];
      const doors = judged.doorsOf(holder).filter((door) => judged.isSensitive(door, sensitivity));
      if (doors.length === 0) return [];
      const proof = { areas: judged.sensitiveAreasOf(doors, sensitivity), doors: doors.length };
      return [{ subject: { kind: "cardholder" as const, id: holder.id }, proof }];
    }),
  }),
});

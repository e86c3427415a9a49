import type { Cardholder } from "../../facility/document";
import { present } from "../../events/told-card";
import { compareCodePoints, groupBy } from "../../kernel/compare";
import { rule, standards } from "../rule";

/** A–Z as a–z; blanks at the ends left off, and several as one. Only ASCII is folded: what else is the same letter is not for us to say. */
const folded = (text: string | undefined): string | undefined =>
  present(
    text
      ?.replace(/[A-Z]/g, (letter) => letter.toLowerCase())
      .replace(/ +/g, " ")
      .replace(/^ | $/g, ""),
  );

/** What tells that two cardholders are one person; undefined where it is not there. */
const likeness: Readonly<Record<string, (cardholder: Cardholder) => string | undefined>> = {
  staffNumber: ({ staffNumber }) => present(staffNumber),
  email: ({ email }) => folded(email),
  name: ({ name, department }) => {
    const text = folded(name);
    return text === undefined || department === undefined ? undefined : JSON.stringify([text, department]);
  },
};

/** Cardholders that seem to be one person. */
export const samePerson = rule({
  key: "same-person",
  base: 14,
  source: standards.practice,
  parameters: {},
  find: ({ lives, facility }) => {
    const present = facility.cardholders.filter((_, i) => !lives.hasLeft(i));
    return {
      flags: Object.entries(likeness).flatMap(([by, keyOf]) =>
        [...groupBy(present, keyOf)].flatMap(([key, those]) => {
          if (key === undefined || those.length < 2) return [];
          const cardholders = those.map(({ id }) => id).sort(compareCodePoints);
          return [{ subject: { kind: "cardholder" as const, id: cardholders[0] ?? "" }, distinct: [by], proof: { cardholders } }];
        }),
      ),
    };
  },
});

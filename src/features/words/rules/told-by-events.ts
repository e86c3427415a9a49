import type { SomeRules } from "./told-rule";

/** What only events can show. */
export const toldByEvents = {
  "not-at-door": {
    title: "The door decides otherwise",
    flags:
      "By what the unit at a door last told that it holds, it opens for a credential when the register says that it does not, or stays shut when it should open. A unit that has not answered for {reportDays|day|days} cannot be told of.",
    why: "What is saved may never have arrived: until the unit has heard it, whoever was shut out still comes in.",
    needs: "units",
    isSilentWithout: true,
    blind: "What a unit does not tell, and doors of which no unit is known.",
  },
  "opened-against-record": {
    title: "Let in against the record",
    flags: "A door let somebody in within the last {days|day|days}, and the snapshots before and after both say that it does not open for them then.",
    why: "The door works by something else than what is reviewed here.",
    needs: "earlier snapshots",
    blind: "What was changed and changed back between two snapshots.",
  },
  "refused-against-record": {
    title: "Refused against the record",
    flags: "A door refused somebody within the last {days|day|days}, and the snapshots before and after both say that it opens for them then.",
    why: "The door does not know what was granted; it may not know either what was taken away.",
    needs: "earlier snapshots",
    blind: "What was changed and changed back between two snapshots.",
  },
  "tried-again": {
    title: "Refused again and again",
    flags:
      "Within the last {days|day|days} a credential was refused {times|time|times} or more within {minutes|minute|minutes}, or on {dates|date|dates} or more of one week.",
    why: "Somebody tries to come in where they should not, or should come in and cannot.",
    needs: "events",
    isSilentWithout: true,
    blind: "Tries with several cards, and at doors that report no refusals.",
  },
  "unknown-tried": {
    title: "Something unknown was tried",
    flags: "A number or credential that the register does not have was presented at a sensitive door within the last {days|day|days}.",
    why: "It may be a card of long ago, one of another house, or one that was made up.",
    needs: "events",
    isSilentWithout: true,
    blind: "Cards that a reader cannot read at all.",
  },
  "two-places": {
    title: "In two places at once",
    flags:
      "Within the last {days|day|days} somebody came in at two sites in less time than the way takes ({minutes|minute|minutes} where nothing else is set), or twice within {hours|hour|hours} into an area without leaving it.",
    why: "One card in two hands, or a copy of it.",
    needs: "events",
    isSilentWithout: true,
    blind: "Leaving through doors that report nothing, behind somebody else, and clocks that differ from door to door.",
  },
  "let-in": {
    title: "Let in by somebody else",
    flags:
      "Within the last {days|day|days} somebody was refused, another came through within {seconds|second|seconds}, and within {minutes|minute|minutes} of that the first one was seen inside.",
    why: "A door that is held for a colleague is open to all whom the record keeps out.",
    needs: "events",
    isSilentWithout: true,
    blind: "Whoever is let in and uses no door inside.",
  },
} as const satisfies SomeRules;

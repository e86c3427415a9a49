import { unreachable } from "@/core/kernel/invariant";
import type { GroupRemoval } from "@/core/table/group-removals";
import type { Need } from "@/core/paths/needs";
import type { Names } from "./changes";
import { listWords, plural } from "./numbers";

const named = (names: Names, kind: string, id: string): string => names[`${kind} ${id}`] ?? id;
const moment = (text: string): string => text.replace(/T(\d\d:\d\d)Z$/, " $1 UTC");

/** Something that would have to be otherwise, as a clause after "if". */
function needWords(need: Need, names: Names): string {
  switch (need.need) {
    case "credential-active":
      return "the credential were active";
    case "cardholder-active":
      return "the cardholder were active";
    case "valid-earlier":
      return `it were valid before ${moment(need.bound)}`;
    case "valid-longer":
      return `it did not end on ${moment(need.bound)}`;
    case "known-at-site":
      return `they were known at ${named(names, "site", need.site)}`;
    case "without-block":
      return `the block of ${named(names, "grant", need.grant)} were lifted`;
    case "a-grant":
      return "some grant led here";
    case "grant-in-force":
      return `the grant of ${named(names, "grant", need.grant)} were in force then`;
    case "schedule-open":
      return `${named(names, "schedule", need.schedule)} were open then${need.holiday ? ", which the holiday shuts" : ""}`;
    case "hours-open":
      return `their own hours (${named(names, "schedule", need.schedule)}) were open then`;
    case "lockdown-pass":
      return "the grant or the person counted in a lockdown";
    case "a-card":
      return "a card were shown";
    case "a-pin":
      return "there were a PIN";
    case "door-before":
      return `${named(names, "door", need.door)} before it opened too (${needsWords(need.needs, names)})`;
    default:
      return unreachable(need);
  }
}

export const needsWords = (needs: readonly Need[], names: Names): string => listWords(needs.map((need) => needWords(need, names)));

/** The ways to shut a door without a block, with whom each would touch. */
export const removalWords = (removals: readonly GroupRemoval[], names: Names): string =>
  listWords(
    removals.map(
      ({ grant, group, others }) =>
        `ending what ${named(names, "group", group)} has of ${named(names, "grant", grant)} would take access from ${plural(others, "other", "others")}`,
    ),
  );

import type { WhyCannotTell } from "@/core/certification/closing-check";
import type { PathLeft } from "@/core/certification/withdrawal/described-change";
import { unreachable } from "@/core/kernel/invariant";
import type { ClosingCheck } from "@/operations/ports/orders";
import type { RunRefusal } from "@/operations/certification/run-round";
import type { WishState } from "@/core/certification/wish-state";
import type { Wish, WishCounts } from "@/operations/certification/wishes";
import type { Names } from "./changes";
import { subjectWords } from "./line-subjects";
import { capital, countWords, listWords, plural, someWords } from "./numbers";
import { momentWords } from "./times";

/** Wishes in each state, after their number, in the order in which they are told. */
const told: readonly (readonly [WishState, string])[] = [
  ["in-part", "in part"],
  ["returned", "returned"],
  ["record-gone", "gone from the record and open still"],
  ["asleep", "only asleep"],
  ["altered", "changed, to be looked at"],
  ["cannot-tell", "cannot be told"],
];

const open: readonly WishState[] = ["not-done", "awaited", "sent"];

const openWords = (days: number | undefined): string => (days === undefined ? "" : days === 0 ? " since today" : ` for ${days} ${days === 1 ? "day" : "days"}`);

/** "2 of 4 done, 1 in part, 1 open for 12 days". */
export function wishCountsWords({ of, by, openDays }: WishCounts): string {
  if (of === 0) return "nothing to withdraw";
  const count = (states: readonly WishState[]): number => states.reduce((sum, state) => sum + (by[state] ?? 0), 0);
  const [waiting, unsent] = [count(open), count(["not-sent"])];
  return [
    `${by.done ?? 0} of ${of} done`,
    ...told.flatMap(([state, words]) => (by[state] ? [`${by[state]} ${words}`] : [])),
    ...(waiting > 0 ? [`${waiting} open${openWords(openDays)}`] : []),
    ...(unsent > 0 ? [`${unsent} not sent yet`] : []),
  ].join(", ");
}

const whyWords: Readonly<Record<WhyCannotTell, string>> = {
  "rows-not-read": "rows of that intake were not read",
  "before-sending": "that intake was exported before the order was sent",
  "holder-missing": "the register does not have them any more",
  "holder-other": "the register has somebody else under their id",
  "door-missing": "a door is missing from the register",
  "door-other": "a door is at another site now",
  "schedule-missing": "the schedule of what may stay is missing from the register",
  "credential-elsewhere": "the card is in other hands",
};

/** What a wish's state is called in a list. */
export const stateWords: Readonly<Record<WishState, string>> = {
  "not-sent": "not sent",
  sent: "sent",
  awaited: "waits for others",
  done: "done",
  returned: "returned",
  "record-gone": "record gone, access remains",
  asleep: "access asleep, record remains",
  "in-part": "in part",
  "not-done": "not done",
  altered: "changed",
  "cannot-tell": "cannot tell",
};

/** How a state is to be taken: as an end, as something wrong, or as under way. */
export function stateTone(state: WishState): "good" | "bad" | "none" {
  if (state === "done") return "good";
  return state === "not-sent" || state === "sent" || state === "awaited" || state === "altered" || state === "cannot-tell" ? "none" : "bad";
}

const shown = 3;

function pathWords(path: PathLeft, names: Names): string {
  if (path.kind === "override") return "a standing override";
  const grant = `the grant of ${names[`grant ${path.grant}`] ?? path.grant}`;
  return path.group === undefined ? grant : `${grant} through ${names[`group ${path.group}`] ?? path.group}`;
}

/** What the latest register says of a wish, as a sentence. */
export function checkWords({ found, names }: ClosingCheck): string {
  const doors = (ids: readonly string[]): string =>
    someWords(
      ids.map((id) => names[`door ${id}`] ?? id),
      shown,
    );
  switch (found.outcome) {
    case "done":
      return found.otherwise
        ? "Done, otherwise than ordered: what was to go opens no more, by other changes."
        : "Done as ordered: what was to go opens no more, not in a lockdown either, nor with every card made active.";
    case "awaited":
      return `Gone; still to speak: ${listWords(found.sources)}.`;
    case "returned":
      return found.doors.length === 0
        ? "It was returned, and is in use again."
        : `It was done, and ${doors(found.doors)} ${found.doors.length === 1 ? "opens" : "open"} again.`;
    case "record-gone":
      return `What was ordered was done, and ${doors(found.doors)} ${found.doors.length === 1 ? "opens" : "open"} still, by ${
        found.by.length === 0
          ? "another way"
          : someWords(
              found.by.map((path) => pathWords(path, names)),
              shown,
            )
      }.`;
    case "asleep":
      return found.doors.length === 0
        ? "The card is not in use and was not returned: made active again, it opens."
        : `The record remains: ${doors(found.doors)} would open again with one change.`;
    case "in-part":
      return [
        found.shut.length > 0 ? `Shut: ${doors(found.shut)}.` : "",
        found.fewer.length > 0 ? `Fewer hours: ${doors(found.fewer)}.` : "",
        found.left.length > 0 ? `As before: ${doors(found.left)}.` : "",
        found.lost.length > 0 ? `Too much was taken: nothing is left at ${doors(found.lost)}, where something was to stay.` : "",
      ]
        .filter(Boolean)
        .join(" ");
    case "not-done":
      return `It still opens, ${found.days} ${found.days === 1 ? "day" : "days"} after it was sent.`;
    case "cannot-tell":
      return `Cannot tell: ${whyWords[found.why]}${"id" in found && found.id !== undefined ? ` (${names[`door ${found.id}`] ?? found.id})` : ""}.`;
    case "task-done":
      return "It is otherwise than when it was certified, and its source says that it did what was asked.";
    case "unaltered":
      return `It is as it was when it was certified, ${found.days} ${found.days === 1 ? "day" : "days"} after it was sent.`;
    case "altered":
      return `It is otherwise than when it was certified, in ${plural(found.changes, "part", "parts")}; whether as asked, its source has not said.`;
    default:
      return unreachable(found);
  }
}

/** What a wish takes, in words. */
export function wishWords({ decision, narrowing, subject: about }: Pick<Wish, "decision" | "subject"> & { readonly narrowing?: Wish["narrowing"] }): string {
  const subject = subjectWords(about);
  if (decision !== "narrow" || !narrowing) return subject;
  if (narrowing.kind === "doors") return `${subject}, but for ${countWords(narrowing.shut.length)} of its doors`;
  const { schedule, scheduleName, until } = narrowing;
  return `${subject}, narrowed ${[schedule === undefined ? "" : `to ${scheduleName ?? schedule}`, until === undefined ? "" : `until ${momentWords(until)}`].filter(Boolean).join(", ")}`;
}

/** Why a change of a round was not made. */
export const runRefusals: Readonly<Record<RunRefusal, string>> = {
  "no-round": "There is no such round or docket any more.",
  closed: "The round is closed.",
  signed: "The docket was signed meanwhile and does not change any more.",
  "reason-needed": "Say in words why.",
  "same-person": "That has to be somebody else: nobody certifies or confirms their own.",
  "not-asked": "Nobody asked for the round to be closed.",
  "changed-meanwhile": "Somebody decided or signed just now. Look again, then close it.",
  nobody: "There is no such person who could.",
  dates: "Write two dates, the second not before the first.",
  "not-signed": "Only a signed docket is corrected; one that is not can simply be changed.",
};

export const ordersWords = (count: number): string => capital(plural(count, "order", "orders"));

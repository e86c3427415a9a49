import type { CredentialLife, LifeBound } from "@/core/certification/line";
import { daysOfUse } from "@/core/findings/use";
import { unreachable } from "@/core/kernel/invariant";
import { formatClock } from "@/core/time/civil-day";
import { withdrawalWords } from "../changes";
import { sentenceOfLineFinding } from "../finding-names";
import { holderWords } from "../holders";
import { capital, countWords, listWords, plural, timesWords } from "../numbers";
import { agoText, clockText, dateText, momentWords } from "../times";
import { englishDefinitions } from "./english-definitions";
import type { DocketWords } from "./docket-words";

const boundWords = ({ date, minuteOfDay }: LifeBound): string =>
  minuteOfDay === undefined ? `on ${dateText(date)}` : `on ${dateText(date)} at ${formatClock(minuteOfDay)}`;

function lifeWords(life: CredentialLife): string {
  switch (life.kind) {
    case "live":
      return "In use, with no end in the coming 13 months.";
    case "ends":
      return `In use; ends ${boundWords(life.last)}.`;
    case "begins":
      return `Not in use yet; begins ${boundWords(life.first)}.`;
    case "asleep":
      return life.places === undefined
        ? "Not in use, and does not begin by itself. Made active again, it would open nothing more."
        : `Not in use, and does not begin by itself. Made active again, it would open ${life.places} besides.`;
    default:
      return unreachable(life);
  }
}

const doorsShown = 3;

/** The docket in English. */
export const english: DocketWords = {
  language: "en",
  called: "English",
  locale: "en-GB",

  dockets: (open) => (open === 0 ? "Nothing waits for you" : capital(`${plural(open, "docket waits", "dockets wait")} for you`)),
  due: (date) => `Due ${momentWords(date)}.`,
  progress: (decided, of) => `${decided} of ${of} lines decided`,
  flaggedAmong: (flagged) => `${capital(plural(flagged, "line has something against it", "lines have something against them"))}.`,
  signedThen: "Signed.",
  closedThen: "Closed without a signature.",
  waitsFor: (certifier) => `You stand in for ${certifier}.`,
  signOut: "Sign out",
  yourAccount: "Your account",

  personOf: (person, of) => `Person ${person} of ${of}`,
  docketOf: (certifier) => `docket of ${certifier ?? "the reviewer"}`,
  notDecidedByYou: ", which you see but do not decide",
  correctsEarlier: "It corrects a docket that was signed before, which stays as it is.",
  holder: holderWords,
  definitions: englishDefinitions,
  back: "Back",
  nextPerson: "Next person",
  toSignature: "To the signature",
  keepAll: (open) => `Keep ${open === 1 ? "the one" : `all ${countWords(open)}`} like most colleagues’`,
  keysHint: "K keep, N narrow, W withdraw, P pass on, U undo; ↓ ↑ line, → ← person, A keep those like most colleagues’.",

  override: "Passes here by a standing override: no grant is needed.",
  hours: ({ words }) => `${words}.`,
  doors: (names) => (names.length <= doorsShown ? names.join(", ") : `${names.length} doors: ${names.slice(0, 2).join(", ")} and ${names.length - 2} more`),
  use: ({ use: { count, last, coveredDays }, subject }, asOf) => {
    const isCard = subject.kind === "credential";
    if (last !== undefined) return `${isCard ? "Used" : "Came in"} ${timesWords(count)}, last ${agoText(last, asOf)}.`;
    if (!(coveredDays > 0)) return "No events of this place: whether it was used cannot be told.";
    const not = `Not ${isCard ? "used" : "seen here"}`;
    return coveredDays >= daysOfUse ? `${not} in ${daysOfUse} days.` : `${not}; the events cover ${countWords(coveredDays)} of the last ${daysOfUse} days.`;
  },
  peers: ({ peers }) => {
    if (!peers || peers.of === 0) return "Nobody in the department to compare with.";
    const { same, of } = peers;
    if (same === 0) return `None of ${countWords(of)} colleagues can do the same.`;
    return same === of ? `All ${countWords(of)} colleagues have it too.` : `${capital(countWords(same))} of ${countWords(of)} colleagues can do the same.`;
  },
  since: ({ from, notYet }) =>
    notYet === undefined ? `Could get in on ${momentWords(from)} already.` : `Could get in by ${momentWords(from)}, and not yet on ${momentWords(notYet)}.`,
  keptBefore: (at) => `Kept on ${clockText(at).split(",")[0] ?? ""}, just as it is now.`,
  life: lifeWords,
  finding: sentenceOfLineFinding,
  usualWeek: (words) => `Usual week: ${words}`,
  more: "More",
  showKeys: "Keys",
  aboutYourself: "This line is about you. Nobody certifies themself: pass it on.",
  passedOnToYou: "Passed on to you.",

  keep: (isCard) => (isCard ? "Keep the card" : "Keep"),
  narrow: "Narrow …",
  withdraw: (isCard) => (isCard ? "Return the card" : "Withdraw"),
  passOn: "Pass on …",
  undo: "Undo",
  keepNamed: (subject) => `Keep ${subject}`,
  withdrawNamed: (subject) => `Withdraw ${subject}`,
  withdrawnKeep: "withdrawn; keep",
  showMore: (lines) => `Show ${plural(lines, "line", "lines")}`,
  sameAsColleagues: (lines) => `Same as most colleagues: ${plural(lines, "line", "lines")}`,
  nothingChanges: "Nothing changes.",
  notDecided: "not decided",
  decided: (decision) => ({ keep: "kept", withdraw: "withdrawn", narrow: "narrowed", "pass-on": "passed on" })[decision],

  why: "Why is it needed?",
  whyHint: "Something speaks against this line: say more than that it is right.",
  narrowTo: "What stays",
  inHours: "Only in the hours of",
  inHoursNone: "As it is",
  share: (stays, of) => `leaves ${Math.max(1, Math.round((100 * stays) / of))} %`,
  untilDate: "Until",
  untilHint: "The last date on which it opens",
  untilUnread: (typed) => `${typed} could not be read as one date. Write it as 31 Dec 2026.`,
  onlyDoors: "Only at these doors",
  onlyDoorsHint: "Take away the doors that are not needed.",
  doNarrow: "Narrow it so",
  stays: "stays",
  goes: "goes",
  narrowedTo: ({ schedule, until, shut }) =>
    shut.length > 0
      ? `Stays, but for ${listWords(shut)}.`
      : `Stays ${[schedule === undefined ? "" : `in the hours of ${schedule}`, until === undefined ? "" : `until ${momentWords(until)}`].filter(Boolean).join(", ")}.`,
  passOnTo: "Who should decide it?",
  passOnWhy: "Why (if you like)",
  doPassOn: "Pass it on",
  passedOnTo: (name) => `Passed on to ${name}, who decides it. It is in their docket now.`,
  reviewer: "The reviewer",

  workingOut: "Working out what else this takes away …",
  notWorkedOut: "What else this takes away could not be worked out. Load the page again to see it.",
  withdrawal: withdrawalWords,

  comments: (count) => (count === 0 ? "Ask the reviewer" : plural(count, "comment", "comments")),
  comment: "Comment",
  send: "Send",

  saved: "Saved",
  inRecord: "In the record",
  saving: "Saving …",
  waiting: (count) => `${capital(plural(count, "decision waits", "decisions wait"))} to be saved`,
  refusals: {
    "reason-needed": "Say in words why it is needed: something speaks against this line, and “ok” says nothing.",
    "task-needed": "Say in words what should be changed.",
    "docket-signed": "This docket was signed meanwhile and does not change any more.",
    "not-yours": "This docket is not yours to decide.",
    "about-yourself": "This line is about you, and nobody certifies themself. Pass it on.",
    "passed-on-already": "This line was passed on to you: it cannot be passed on again.",
    "nothing-to-narrow": "That would leave all as it is, or is no longer possible. Choose other hours, a date to come, or some of the doors.",
    "not-a-certifier": "It cannot be passed on to them: choose another certifier of this round.",
    "round-closed": "This docket was closed: nothing can be decided in it any more.",
    "taken-up": "Whoever you passed this line on to has decided it already.",
  },
  unread: "This decision could not be read; load the page again.",

  signHeading: "Sign your docket",
  signedHeading: "Signed",
  closedHeading: "Closed without a signature",
  closedSays: "The reviewer closed this docket. What nobody had decided counts as the round’s rule says.",
  counts: (counts) =>
    `${[
      plural(counts.keep, "line stays", "lines stay"),
      ...(counts.narrow > 0 ? [`${plural(counts.narrow, "stays", "stay")} in part`] : []),
      plural(counts.withdraw, "is withdrawn", "are withdrawn"),
      ...(counts["pass-on"] > 0 ? [`${plural(counts["pass-on"], "was", "were")} passed on`] : []),
    ]
      .map((part, i) => (i === 0 ? capital(part) : part))
      .join(", ")}.`,
  goingHeading: "Goes, whole or in part:",
  undecidedHeading: "Not decided yet:",
  sign: (lines) => (lines === 1 ? "Sign the one line" : `Sign ${lines} lines`),
  forGood: "Signing is for good: a signed docket does not change any more, and what you withdrew or narrowed goes out as orders.",
  notSigned: {
    "already-signed": "This docket was signed meanwhile and does not change any more.",
    "not-yours": "This docket is not yours to decide.",
    "changed-meanwhile": "A decision changed while you signed. Look again, then sign.",
    closed: "This docket was closed: nothing can be decided in it any more.",
  },
  undecided: (count) => `${capital(plural(count, "line is", "lines are"))} not decided yet.`,
};

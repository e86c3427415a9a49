import type { RuleKey } from "@/core/findings/proofs";

/** What a rule needs beside the register. */
export type RuleNeed = "events" | "earlier snapshots" | "decisions" | "countries of sites" | "duty pairs";

export interface RuleWords {
  readonly title: string;
  /** What it flags, as a sentence. */
  readonly flags: string;
  readonly needs?: RuleNeed;
  /** Without it the rule finds nothing and does not say that it cannot tell: what nobody reported cannot be missed. */
  readonly isSilentWithout?: true;
  /** What it cannot see, where that is not plain. */
  readonly blind?: string;
}

const people = {
  "leaver-live": {
    title: "Has left, and a credential is still active",
    flags: "Somebody has left, by their status or by the end of their time, and a credential of theirs is marked active.",
    blind: "Whoever left and was never marked so, nor given an end.",
  },
  "removed-late": {
    title: "Was removed late",
    flags: "An earlier snapshot shows a live credential of somebody more than a day after they left.",
    needs: "earlier snapshots",
    blind: "What happened between two snapshots: it is told by the last one that shows a live credential.",
  },
  "mover-kept": {
    title: "Changed department and kept access",
    flags: "Somebody changed department a month ago or more, and still opens doors that only the former department gave them.",
    needs: "earlier snapshots",
  },
  "not-certified": {
    title: "Not certified for too long",
    flags: "Nobody decided within the last six months that somebody keeps their access to an area.",
    needs: "decisions",
  },
  "not-authorised": {
    title: "Nobody authorised it",
    flags: "A grant, a credential or a membership says nothing of who authorised it, although others in its list do.",
    blind: "Whether the one who is named was allowed to authorise it.",
  },
  "requirement-over": {
    title: "A requirement has ended",
    flags: "An induction, a vetting or something else that somebody must have is over, and they still open doors.",
  },
  "no-sponsor": {
    title: "Nobody answers for a contractor or visitor",
    flags: "A contractor or visitor opens doors and has no sponsor, or one who has left; or a contractor has no company.",
  },
  "expired-active": {
    title: "Past its end, and still marked active",
    flags: "A credential has ended, by its last date or by its expiry after use, and is still marked active.",
    blind: "It opens nothing; one changed date brings it back.",
  },
  "ends-soon": {
    title: "In use, and ends soon",
    flags: "A credential that was used lately, or a contractor who came lately, ends within two weeks.",
    needs: "events",
  },
  "no-end-date": {
    title: "Has no end",
    flags: "A contractor, a visitor or a card for the day never ends, or only after ten years, which means the same.",
  },
  "outlives-holder": { title: "Ends after its holder does", flags: "A credential ends later than the cardholder whose it is." },
  "spare-outstanding": {
    title: "A card for the day is still out",
    flags: "A temporary card has been with somebody for longer than a day.",
    blind: "A card of which nobody wrote down when it was handed out.",
  },
  unused: {
    title: "Active, and not used for a long time",
    flags: "A live credential has not been used for 90 days.",
    needs: "events",
    blind: "Uses at doors that report no events.",
  },
  "never-used": {
    title: "Given, and never used",
    flags: "A credential was given a month ago or more and has never been used.",
    needs: "events",
  },
  "stock-active": { title: "Active, and nobody has it", flags: "A credential without a cardholder is marked active, as cards in a box should not be." },
  "lost-in-use": {
    title: "Tried after it was lost or ended",
    flags: "A credential was presented at a door after it was taken out of use or had ended.",
    needs: "events",
    isSilentWithout: true,
  },
  "dead-card-tried": {
    title: "A dead card is tried again and again",
    flags: "A credential that is not live was refused three times or more within a month.",
    needs: "events",
    isSilentWithout: true,
  },
  "sleeping-access": {
    title: "Would open something sensitive if it were woken",
    flags: "A credential that is out of use would open a sensitive door the moment somebody marks it active.",
  },
  waking: { title: "Will open something sensitive soon", flags: "A credential begins within a month and then opens a sensitive door." },
  "holder-of-nothing": {
    title: "Was given something and opens nothing",
    flags: "A live credential has grants that are not over, and no door opens for it.",
  },
  "same-number": {
    title: "Several cards with one number",
    flags: "Two or more credentials have one number, facility code and issue, and at least one of them is active.",
  },
  "number-out-of-format": {
    title: "A number that its format cannot hold",
    flags: "The number or facility code of an active card is not made of digits, or is greater than its format can carry.",
    blind: "Formats that are not told in the settings; 26 bits are known.",
  },
  "printed-differs": {
    title: "Another card’s number is printed on it",
    flags: "The number printed on an active card is not its own but that of another active card.",
  },
  "same-pin": {
    title: "One PIN for several holders",
    flags: "Active credentials of several holders have one PIN, and at some door a PIN alone is enough.",
    blind: "Which PIN it is: only that they are equal is ever known.",
  },
  "pin-missing": { title: "Lacks a PIN", flags: "A credential would open doors if it had a PIN, and nothing else of its holder opens them." },
  "via-missing": { title: "Cannot get through the door before", flags: "A credential would open doors behind another one that does not open for it." },
  "many-credentials": { title: "More credentials than anybody needs", flags: "Somebody has more than two live credentials." },
  "same-person": {
    title: "Seems to be there twice",
    flags: "Cardholders who have not left share a staff number, an e-mail address, or a name within a department.",
  },
  "no-department": {
    title: "Nobody answers for them",
    flags: "Somebody opens doors, and neither they nor their department or a group above it has a manager who is there.",
  },
  "no-certifier": { title: "An area without an owner", flags: "People reach an area of which nobody who is there is the owner, nor of one above it." },
} as const satisfies Partial<Record<RuleKey, RuleWords>>;

const access = {
  "standing-override": { title: "Passes everywhere", flags: "Somebody opens doors by a standing override, without any grant and at all times." },
  privilege: {
    title: "Has a privilege",
    flags:
      "Somebody who opens doors passes in a lockdown, needs no PIN, has longer opening times, may hold a door open, starts the day’s unlocking, or is not asked to leave before coming back; or a level that is held carries an action of its own.",
  },
  "around-the-clock": {
    title: "Opens a sensitive area at all hours",
    flags: "Somebody opens doors into a sensitive area so that in some week not a minute is left out.",
  },
  "out-of-hours": {
    title: "Opens a sensitive area out of hours, and never comes then",
    flags: "Somebody can enter a sensitive area for more than four hours a week outside of business hours, and did not do so in 90 days.",
    needs: "events",
  },
  "unlike-peers": {
    title: "Reaches what hardly a colleague does",
    flags: "Somebody reaches an area that at most one in ten of their department does, of at least five others.",
    blind: "Departments of fewer, and people without one.",
  },
  "right-unused": {
    title: "Uses few of the doors that a right opens",
    flags: "Of the doors that a level or a grant opens for somebody they have used fewer than half within 180 days.",
    needs: "events",
  },
  "by-exception": {
    title: "Opens something sensitive by an exception",
    flags: "A single grant, not a level, opens sensitive doors straight for a person or a card.",
  },
  "hidden-path": {
    title: "Stays open by a second path",
    flags: "Two or more grants open one sensitive door for somebody: taking one of them away would shut nothing.",
  },
  "twice-given": { title: "Given to the card and to its holder", flags: "Doors are given both to a card itself and to whoever has it." },
  "duties-conflict": {
    title: "Has what one person must not have together",
    flags: "Somebody has both sides of a pair of duties that is kept apart: areas that they reach, or levels that they hold.",
    needs: "duty pairs",
    isSilentWithout: true,
  },
  "visitor-sensitive": { title: "A visitor opens something sensitive", flags: "Somebody who is a visitor opens sensitive doors." },
  "too-many-holders": { title: "More people than an area allows", flags: "More holders reach an area than its greatest number says." },
  "level-limit": {
    title: "Many levels straight to one",
    flags: "Eight or more different levels and bundles are given straight to one person or card, which many systems cannot hold.",
  },
  "level-too-wide": { title: "A level opens plain and sensitive doors alike", flags: "The rows of a level cover doors of no sensitivity and sensitive ones." },
  "all-doors": { title: "Opens nearly everything", flags: "A level, bundle or group opens nine in ten of all doors, and more than five hold it." },
  "stranded-right": {
    title: "Opens a door and cannot get to it",
    flags: "Somebody opens a door inside, and at no time does anything lead them there from outside.",
    blind: "Ways that no reader guards: a door of which nobody wrote down where it leads from.",
  },
} as const satisfies Partial<Record<RuleKey, RuleWords>>;

const definitions = {
  "nothing-behind": { title: "Nothing behind it", flags: "A level, bundle, group, schedule or calendar that nothing uses, or that opens nothing." },
  "door-without-grants": { title: "Nobody opens it", flags: "No credential opens a door in the coming 13 months, and it never stands free." },
  "door-only-free": { title: "A sensitive door stands open", flags: "A sensitive door stands open to anybody at times." },
  "single-factor": { title: "Asks for less than card and PIN", flags: "A door of the highest sensitivity asks at times for something else than card and PIN." },
  "calendar-runs-out": {
    title: "A calendar runs out",
    flags: "The last date of a calendar is near or past, or a day that was entered for each of two years is missing in the next.",
  },
  "holiday-missing": {
    title: "A public holiday is not in the calendar",
    flags: "A public holiday of the whole country, by an independent library, is none in the calendar of a site there.",
    needs: "countries of sites",
    isSilentWithout: true,
  },
  "holiday-tie": {
    title: "Two entries of one rank on one date",
    flags: "Two entries of a calendar fall on one date with one priority and different day types: only their order decides.",
  },
  "holiday-open": { title: "Open on public holidays", flags: "A sensitive door stands open on public holidays, or more than five holders open it then." },
  "schedule-odd": {
    title: "A schedule that hardly anybody means",
    flags: "A schedule has an empty interval, a minute missing before midnight, intervals that overlap, or is over and still used.",
  },
} as const satisfies Partial<Record<RuleKey, RuleWords>>;

const told = {
  "opened-against-record": {
    title: "Let in against the record",
    flags: "A door let somebody in, and the snapshots before and after both say that it does not open for them then.",
    needs: "earlier snapshots",
  },
  "refused-against-record": {
    title: "Refused against the record",
    flags: "A door refused somebody, and the snapshots before and after both say that it opens for them then.",
    needs: "earlier snapshots",
  },
  "tried-again": {
    title: "Refused again and again",
    flags: "A credential was refused five times within ten minutes, or on three dates of a week.",
    needs: "events",
    isSilentWithout: true,
  },
  "unknown-tried": {
    title: "Something unknown was tried",
    flags: "A number or credential that the register does not have was presented at a sensitive door.",
    needs: "events",
    isSilentWithout: true,
  },
  "two-places": {
    title: "In two places at once",
    flags: "Somebody came in at two sites within less than the way takes, or twice into an area without leaving it.",
    needs: "events",
    isSilentWithout: true,
  },
  "let-in": {
    title: "Let in by somebody else",
    flags: "Somebody was refused, another came through within a minute, and then the first one was seen inside.",
    needs: "events",
    isSilentWithout: true,
  },
} as const satisfies Partial<Record<RuleKey, RuleWords>>;

/** The catalogue in words, in the order in which it is read. A rule without its words does not compile. */
export const ruleGroups: readonly { readonly title: string; readonly rules: readonly RuleKey[] }[] = [
  { title: "People and cards", rules: Object.keys(people) as (keyof typeof people)[] },
  { title: "Access", rules: Object.keys(access) as (keyof typeof access)[] },
  { title: "Definitions", rules: Object.keys(definitions) as (keyof typeof definitions)[] },
  { title: "What the events tell", rules: Object.keys(told) as (keyof typeof told)[] },
];

export const ruleWords: Readonly<Record<RuleKey, RuleWords>> = { ...people, ...access, ...definitions, ...told };

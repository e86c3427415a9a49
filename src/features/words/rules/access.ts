import type { SomeRules } from "./told-rule";

/** What can be wrong with what people open. */
export const access = {
  "standing-override": {
    title: "Passes everywhere",
    flags: "Somebody opens doors of a site by a standing override, without any grant and at all times.",
    why: "An override is outside all levels and schedules: what is taken away there leaves it as it is.",
    blind: "Whether the override is used, or only there for an emergency.",
  },
  privilege: {
    title: "Has a privilege",
    flags:
      "Somebody who opens doors passes in a lockdown, needs no PIN, has longer opening times, may hold a door open, starts the day’s unlocking, or is not asked to leave before coming back; or a level that is held carries an action of its own.",
    why: "Each of them does more than open a door, and lists of doors do not show it.",
    blind: "Privileges of whoever runs the access system itself.",
  },
  "around-the-clock": {
    title: "Opens a sensitive area at all hours",
    flags: "Somebody opens doors into a sensitive area so that in some week not a minute is left out.",
    why: "At night and on Sundays nobody is there to see who comes.",
    blind: "Access that leaves out a few minutes of each week: see those who open it out of hours.",
  },
  "out-of-hours": {
    title: "Opens a sensitive area out of hours, and never comes then",
    flags: "Somebody can enter a sensitive area for more than {hours|hour|hours} a week outside business hours, and did not do so in {days|day|days}.",
    why: "Hours that nobody needs can be taken away without anybody missing them.",
    needs: "events",
    blind: "Uses at doors that report no events, and people who come seldom but have to.",
  },
  "unlike-peers": {
    title: "Reaches what hardly a colleague does",
    flags: "Somebody reaches an area that at most {percent} % of the others in their department do, of at least {peers} who open doors.",
    why: "What hardly anybody with the same work needs is often left over from other work.",
    blind: "Smaller departments, people without one, and rights that a whole department has too many of.",
  },
  "right-unused": {
    title: "Uses few of the doors that a right opens",
    flags: "Of the doors that a level or a grant opens for somebody they have used fewer than {percent} % within {days|day|days}.",
    why: "A smaller right would be enough for what is really done.",
    needs: "events",
    blind: "By which of several rights a door was opened: a use counts for all of them.",
  },
  "by-exception": {
    title: "Opens something sensitive by an exception",
    flags: "A single grant, not a level, opens sensitive doors straight for a person or a card.",
    why: "Exceptions are forgotten: nobody who changes a level or a group sees them.",
    blind: "Exceptions that are given as a level or group of just one person.",
  },
  "hidden-path": {
    title: "Stays open by a second path",
    flags: "Two or more grants open one sensitive door for somebody: taking one of them away would not shut it.",
    why: "Whoever withdraws one of them believes that the door is shut.",
    blind: "Two paths through one and the same grant.",
  },
  "twice-given": {
    title: "Given to the card and to its holder",
    flags: "Doors are given both to a card itself and to whoever has it.",
    why: "A new card, or the end of one, changes less than one would think.",
    blind: "Doors that are given to the holder twice.",
  },
  "duties-conflict": {
    title: "Has what one person must not have together",
    flags: "Somebody has both sides of a pair of duties that is kept apart: areas that they reach, or levels that they hold.",
    why: "Two people are meant to be needed, so that no one alone can take and cover up.",
    needs: "duty pairs",
    isSilentWithout: true,
    blind: "Pairs that are not written down in the settings.",
  },
  "visitor-sensitive": {
    title: "A visitor opens something sensitive",
    flags: "Somebody who is a visitor opens sensitive doors.",
    why: "Visitors are to be accompanied where it matters.",
    blind: "Visitors who are entered as something else.",
  },
  "too-many-holders": {
    title: "More people than an area allows",
    flags: "More holders reach an area than its greatest number says.",
    why: "The number was set for a reason, and has been passed one grant at a time.",
    blind: "Areas without a greatest number.",
  },
  "level-limit": {
    title: "Many levels straight to one",
    flags: "At least {levels} different levels and bundles are given straight to one person or card.",
    why: "Nobody sees any more what they open together, and some controllers hold only so many for one card.",
    blind: "Levels that come through groups.",
  },
  "level-too-wide": {
    title: "A level opens plain and sensitive doors alike",
    flags: "The rows of a level cover doors of no sensitivity and sensitive ones.",
    why: "Whoever is given the front door is given the store behind it, too.",
    blind: "Bundles and groups that put such levels together.",
  },
  "all-doors": {
    title: "Opens nearly everything",
    flags: "A level, bundle or group opens at least {percent} % of all doors, and more than {holders|holder has|holders have} it.",
    why: "One card lost is the whole house open.",
    blind: "People who come to nearly everything by many small rights.",
  },
  "house-rule": {
    title: "Breaks a rule of the house",
    flags: "What the house has written down that must always be so is not: of a person, with a door and the first minute; of a number, with a minute at which it is wrong.",
    why: "The house knows best what must never be: it is held against every intake and every draft, in the 13 months ahead.",
    blind: "Lockdowns, cards that are not live, and what was not written down.",
    needs: "house rules",
    isSilentWithout: true,
  },
  "stranded-right": {
    title: "Opens a door and cannot get to it",
    flags: "Somebody opens a door inside, and at no time does anything that they open lead them there from outside.",
    why: "The right is of no use, or there is a way that the register does not know.",
    blind: "Ways that no reader guards, and doors of which nobody wrote down where they lead from.",
  },
} as const satisfies SomeRules;

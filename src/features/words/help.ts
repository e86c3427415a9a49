/** What a view shows, and how that is reckoned. */
export interface ViewHelp {
  readonly title: string;
  readonly shows: string;
  readonly reckoned: string;
}

/** By the beginning of the address, the longest that fits first. */
const views: readonly (readonly [address: RegExp, help: ViewHelp])[] = [
  [
    /^\/intake/,
    {
      title: "Intake",
      shows:
        "What was taken in and when, and a place to drop files, as other systems wrote them. Before anything is stored you see what was understood, what is odd, and who gains and loses what.",
      reckoned:
        "What a column is, what its values mean and how dates are written is said once, beside the file’s own rows, and kept as the source’s profile: suggestions are read only once you have looked at them, and what could be two things is asked. All or nothing: a file is stored whole as a snapshot with its SHA-256, or not at all. Rows that cannot be read stop it, unless you say that just so many may be left out; every answer then says so.",
    },
  ],
  [
    /^\/register\/departments/,
    {
      title: "Departments",
      shows: "Departments as a tree, with how many people each has, who manages it, what its people open, and a way to move them, in a draft.",
      reckoned:
        "People are counted by the department that stands with them; with those below, by all departments under it too. Who has none has nobody to certify them, unless a manager of their own is named.",
    },
  ],
  [
    /^\/register\/compare/,
    {
      title: "Two snapshots compared",
      shows: "Who opens more, less, or at other hours in the later snapshot, and what brought it about.",
      reckoned:
        "By access, not by records: both snapshots are laid out over the same 13 months and each pair of holder and door is compared, minute by minute.",
    },
  ],
  [
    /^\/register\/events\/replay/,
    {
      title: "Replay",
      shows: "Events held against the record of their time: how many the record explains, and which it does not.",
      reckoned:
        "Each event is asked of the snapshot that stood then, at its minute. Granted and open agree, refused and shut agree; anything else is a difference.",
    },
  ],
  [
    /^\/register\/events\/files/,
    {
      title: "Files of events",
      shows: "Each file of events that was taken in, with how many it brought that were new.",
      reckoned: "An event counts once, however many files bring it. Taking a file back takes back what only it brought, with all that was counted from it.",
    },
  ],
  [
    /^\/register\/events/,
    {
      title: "Events",
      shows: "What happened at the doors, the newest first; from an event to what the record of its time says.",
      reckoned: "Cards are told by their source's id, else by number and facility code; a number that several cards have is nobody's.",
    },
  ],
  [
    /^\/register\/drafts/,
    {
      title: "Drafts",
      shows: "Changes tried out: who would gain and lose what, which findings would come and go.",
      reckoned:
        "The changed register is laid out beside the present one and both are compared. Nothing changes in the register: what a source owns goes out as orders, what Nomade owns is applied as a snapshot.",
    },
  ],
  [
    /^\/register\/sources/,
    {
      title: "Sources",
      shows:
        "Which system brings which kinds of objects and fields, when it sent last, what it pushes, what of it is taken in by itself, and where its orders go.",
      reckoned:
        "A source owns what it has columns for. What is missing from a complete list is gone from the register. It is overdue after the hours that are said of it, or after one and a half times the usual time between its last ten deliveries.",
    },
  ],
  [
    /^\/register\/schedule\//,
    {
      title: "A schedule",
      shows: "Its week, what it makes of each coming date, and who and what uses it.",
      reckoned: "Dates are read with the chosen site's calendar and clock: what its row says, another row for a day type, or nothing on a holiday.",
    },
  ],
  [
    /^\/register\/calendar\//,
    {
      title: "A calendar",
      shows: "The coming 13 months: what each date is, which entry won over which, and the last date for which anything was entered.",
      reckoned: "Of entries on one date the highest priority wins, then the one that comes first.",
    },
  ],
  [
    /^\/register\/[^/]+\/./,
    {
      title: "An object of the register",
      shows: "Everything that it says, everything that hangs on it and by which way, what it opens, and how it came to be so.",
      reckoned: "What a person opens is all of their cards taken together, in the 13 months from the export on.",
    },
  ],
  [
    /^\/register\/levels/,
    {
      title: "Levels put right",
      shows:
        "Steps by which fewer levels and exceptions give the same, or what nobody used goes: equal levels made one, exceptions that recur given as a level, what is given twice or to nobody taken out, doors that no holder used dropped, a level split between groups that use different doors. Each can be tried as a draft.",
      reckoned:
        "Every step is proved before it is shown: the register with it is laid out beside the present one, and everybody is compared, as things are, in a lockdown and as if live. By use means the last 180 days, and only where events cover them. A step by which anybody would open anything more is not shown. It speaks of the doors that there are: a level that named an area, and is told its doors instead, will not have those that come to the area later.",
    },
  ],
  [
    /^\/register\/units\/./,
    {
      title: "A unit at the doors",
      shows:
        "What one unit holds against the register: each door and card of which it decides otherwise, from when and for how long; what it has no room for, with who is concerned; and what it would still do otherwise once it held all that it can. At a stand-in, cards and PINs can be presented beside it.",
      reckoned:
        "By access, over the 13 months from the export, not by records: what the unit told that it holds is laid out minute by minute beside the register. A door that stands free counts as open. Somebody who shows all that they have is taken to show it; whether a PIN is right only the unit knows. Nothing is sent to a unit that another system sends.",
    },
  ],
  [
    /^\/register\/units/,
    {
      title: "Units at the doors",
      shows:
        "Every unit that a door names, what is wrong first: silent, another version, opens more or less than the register says, being sent, a wrong clock.",
      reckoned:
        "Each unit is asked every few seconds how it is, what happened at its doors, and what it holds where that has changed. One that has not answered for two minutes does not answer. Events are acknowledged only once they are stored, so that none is lost and none counts twice.",
    },
  ],
  [
    /^\/register\/plans\/\d+\/edit/,
    {
      title: "Setting doors on a plan",
      shows:
        "The plan, and the doors of its site that are not on it yet. Carry one from the list to its place; or press Set and move it with the arrow keys, finely with Shift. Delete takes it off. Nothing is stored before you say so, and each step can be taken back.",
      reckoned: "A place is kept in ten-thousandths of the picture, so that doors stay where they are whatever the size at which it is seen.",
    },
  ],
  [
    /^\/register\/plans/,
    {
      title: "Plans of buildings",
      shows:
        "Pictures of floors and areas with the doors that stand on them. Wheel and pointer, or plus, minus, 0 and the arrow keys, bring a plan closer and move it. A door that is chosen leads to who opens it, and that of a lift to the other floors.",
      reckoned:
        "Plans are Nomade’s own, and the present ones: they do not change with the snapshot. A picture is kept as far as it can only be looked at: what would run, move or fetch something is left out of a drawing, and what else a photograph carries goes. What is done to a plan stands in the record.",
    },
  ],
  [
    /^\/register/,
    {
      title: "Register",
      shows: "All objects of a kind. Type any part of any field; narrow, break up and sort; the address holds what you see, and CSV saves it.",
      reckoned: "Search folds case and accents and looks in every field. The count on top is of all that fit, not of those drawn.",
    },
  ],
  [
    /^\/inquiry\/charts/,
    {
      title: "A question in charts",
      shows:
        "Of those who are asked about: how many open something in each hour of the week, by department how much of it is out of hours, and how many who can open a door did; and over the last snapshots how many reach doors of each sensitivity.",
      reckoned:
        "Weeks are ordinary ones at the asked time, each door on its own site’s clock; business hours are those set for its site. Somebody used a door whom an event shows granted there in the last 90 days. Each chart has its table, and each row of it leads to its question.",
    },
  ],
  [
    /^\/inquiry\/plan/,
    {
      title: "An answer on the plan",
      shows:
        "What the question asks, door by door: a leaf swung open with how many of those asked about open it, or that one person does; a shut leaf; a broken one where a card would have to be made active; an open passage where it stands free to anybody, whoever else opens it. Beside it the other plans, each with how many of its asked doors open.",
      reckoned:
        "A door opens where it opens at any minute of the asked time. The plan is the present one, also where the question is of an earlier snapshot. Doors that open and stand on no plan are told above it.",
    },
  ],
  [
    /^\/inquiry\/trials/,
    {
      title: "Trying a card at a door",
      shows:
        "A card, a door and a moment, as if it were presented there: what the door would do by the record, and why. Trials that are written down stand below, with what was expected and what comes out now.",
      reckoned:
        "By the register that is asked, at the minute, in ordinary mode or in a lockdown; of a person with several cards, by the one that tells most. Every trial is run anew whenever it is looked at, and on the snapshot of each round for its pack. What the unit at the door holds plays no part.",
    },
  ],
  [
    /^\/inquiry\/forecast/,
    {
      title: "What comes by itself",
      shows:
        "What begins and ends in the coming days though nobody touches anything: people, cards, memberships, grants, schedules; what that does to access, date by date; what days of the calendars do; and what comes of days that were typed in for the years before and not for this one.",
      reckoned:
        "From the export on, on the facility’s clock. Opened for the last time: not again in the 13 months ahead. Opened for the first time: and not in an ordinary week at the export. Days of the calendars are compared with the same register without calendars, missing ones with the same register in which they are typed in, over everybody and every door.",
    },
  ],
  [
    /^\/inquiry\/routes/,
    {
      title: "Routes on foot",
      shows:
        "Through which doors somebody gets from outside to where is asked, by how many at least, and when; for several, who gets there and through which door last. Left open, every place that can be walked to. Beside it: doors that somebody opens and has no way to, who could be shut in, and what a door out of use would cut off.",
      reckoned:
        "Doors lead from the area that they lead out of (without one, from outside) to the area that they lead into; that areas lie within others leads nowhere. A way counts at a minute at which each of its doors opens for them or stands free. Shut in is who gets to a place at a minute and finds no way outside at the next; places without a recorded door that leads outside are left by a handle, and nothing is said of them.",
    },
  ],
  [
    /^\/inquiry/,
    {
      title: "Inquiry",
      shows:
        "Who opens where, and when: fill any part of the sentence; what you leave open is what is asked. With all three filled it is a verdict with its reason.",
      reckoned:
        "Access is the union of everything somebody carries: grants to them, their cards, their department and groups with those above, through levels and bundles, by the calendar that counts for them, within their own hours and sites, less blocks; an override opens without any grant. A time is each site's own wall clock; over several minutes a door counts as opening if it opens at any of them. Hours a week are those of an ordinary week. Without a time, the 13 months from the export count.",
    },
  ],
  [
    /^\/findings\/rules/,
    {
      title: "A rule",
      shows: "What it flags, why, by which standard, with what figures, how many, an example, and what it cannot see.",
      reckoned: "Exactly as its page says; the figures are those in force.",
    },
  ],
  [
    /^\/findings\/house/,
    {
      title: "Rules of the house",
      shows:
        "What you have written down that must always be so, each with how it stands in the present register and what breaks it. On the line above you say of whom, where and when a new one speaks; beside the list, what must be of them.",
      reckoned:
        "A rule holds for the 13 months from the export on, at the hours that recur in it for good. “At most” counts everybody who opens it at some minute of the time; “at least” asks for that many at every minute of it. Members and holders are those from the export on. Writing one down takes effect at once, ending one needs a second person; both stand in the record.",
    },
  ],
  [
    /^\/findings\/settings/,
    {
      title: "Settings of rules",
      shows: "Every figure by which rules judge, weights, business hours, duties that nobody should have together.",
      reckoned:
        "Before a change is kept you see which findings would come and go. It takes effect when a second person confirms it, and is entered into the record.",
    },
  ],
  [
    /^\/findings\/trends/,
    {
      title: "Trends",
      shows: "Findings over the snapshots, by rule and by area, and of how many subjects it could be told.",
      reckoned: "Each snapshot by the findings that were made of it; later settings do not change earlier ones.",
    },
  ],
  [
    /^\/findings/,
    {
      title: "Findings",
      shows: "What should not be, the riskiest and newest first, each with its proof and its risk as a sum.",
      reckoned:
        "Each snapshot is looked through by all rules as of its export. “Cannot tell” is said apart: it means that data is missing, not that all is well.",
    },
  ],
  [
    /^\/certification\/new/,
    {
      title: "A new round",
      shows: "What it covers and who certifies, with what each choice does: dockets, lines, minutes, and who is missing.",
      reckoned: "Over one frozen snapshot. Nobody certifies themself; where manager and owner both decide, withdrawing wins.",
    },
  ],
  [
    /^\/certification\/occasions/,
    {
      title: "Occasions",
      shows: "What between rounds asks for a decision at once: a new department, a renewed contract, a new grant to a sensitive area, a waiver that ends.",
      reckoned: "Looked for at each intake; each makes a small docket of just these lines.",
    },
  ],
  [
    /^\/certification\/\d+\/lines/,
    {
      title: "Lines of a round",
      shows: "What was to be decided and what was, each line with what becomes of it.",
      reckoned: "A line speaks of all access from the snapshot on for 13 months.",
    },
  ],
  [
    /^\/certification/,
    {
      title: "Certification",
      shows: "Rounds with their dockets: who decided what and how fast, which orders went out, and whether what was withdrawn is gone.",
      reckoned:
        "Whether an order is done is asked of the resolver at the next intake from its source, not of records: done, in part, returned, not done, or cannot tell.",
    },
  ],
  [
    /^\/evidence\/retention/,
    {
      title: "How long things are kept",
      shows: "For each kind how long it is kept, what is past its time, and what was let go.",
      reckoned: "What goes, goes whole; its hash stays, so that the chain of the record still holds.",
    },
  ],
  [
    /^\/evidence/,
    {
      title: "Evidence",
      shows: "The record: who did what, on what, before and after, searchable in words.",
      reckoned:
        "Each entry holds the SHA-256 of itself together with the one before. On each visit the whole chain is walked and compared with its heads outside the database.",
    },
  ],
  [
    /^\/accounts\/look-ups/,
    { title: "Look-ups", shows: "Who looked at whose access, page or events.", reckoned: "Noted when the page is made, and kept as long as retention says." },
  ],
  [
    /^\/accounts/,
    {
      title: "Accounts",
      shows: "Who may sign in, as what, for which sites, and since when they did.",
      reckoned: "Each change is entered into the record, and verify compares the accounts with it.",
    },
  ],
  [
    /^\/glossary/,
    { title: "Glossary", shows: "The words that Nomade uses, one for each thing.", reckoned: "They mean the same in pages, documents and the command line." },
  ],
  [
    /^\/first-steps/,
    {
      title: "First steps",
      shows: "One story of this register from a question to its proof, a step at a time.",
      reckoned: "Each step leads to the view itself; nothing is made up for it.",
    },
  ],
];

const other: ViewHelp = {
  title: "Nomade",
  shows: "Who can open which doors, and when; what of it should not be; who certified it; and the proof.",
  reckoned: "Every number leads to its rows, every row to its reason.",
};

/** What the view at an address shows. */
export const helpOf = (address: string): ViewHelp => views.find(([pattern]) => pattern.test(address))?.[1] ?? other;

/** The words of Nomade and of the trade, each with what it means here. */
export const glossary: readonly (readonly [word: string, means: string])[] = [
  ["access level", "doors with a schedule for each, given as one. Changing its schedule changes everybody who has it."],
  ["area", "what lies behind doors. Areas lie in areas; the sensitivity of a door is the highest of the areas around it."],
  ["as if live", "how it would be if a card that is suspended, not yet valid or over were made active."],
  ["as of", "the instant of the export that a snapshot was made from. Findings, lines and forecasts speak of it; questions ask the clock."],
  ["asleep", "said of a card that is not live, does not begin by itself, and as if live would open something that its holder does not open otherwise."],
  ["block", "a grant that shuts: whatever else opens the door, it does not while the block holds."],
  ["bundle", "several access levels given as one."],
  ["cardholder", "a person who carries credentials: employee, contractor, visitor or tenant."],
  ["closing check", "the proof, on later data, that an order took effect."],
  ["credential", "what is presented at a reader: a card, a fob, a PIN, a phone."],
  ["day type", "what a calendar makes of a date: a public holiday, a company's own day."],
  ["docket", "one certifier's list in a round."],
  ["draft", "changes tried out on the register without touching it."],
  ["exception", "a grant made directly to one person or card, not through a level or a group."],
  ["finding", "something in the register that should not be, with its proof."],
  ["forecast", "what begins and ends by itself in the coming days, and what days of the calendars do, though nobody touches anything."],
  ["free", "unlocked for everybody by a schedule; told apart from who may open."],
  ["hours a week", "how long a door opens in an ordinary week at the asked date, without holidays."],
  ["house rule", "what the house has written down that must always be so, as a question of who, where and when; what breaks it is a finding."],
  ["inquiry", "a question of who, where and when, and its answer."],
  ["intake", "one run of taking data in from a source."],
  ["line", "one decision of a docket that a person can understand."],
  ["lockdown", "when a grant counts only if it is marked for a lockdown, or its holder passes in one, and nothing is free; an override opens all the same."],
  ["order", "a change that the controlling system must make, from a decision."],
  ["out of hours", "outside the site's business hours; a public holiday counts as out of hours."],
  ["override", "a person passes everywhere, or at some sites, at all times, without any grant; blocks still hold."],
  ["path", "one way in which a grant gets from somewhere to a credential."],
  ["plan", "a picture of a floor or an area with doors set on it, on which answers are shown."],
  ["reach", "everything that somebody opens at any time of the coming 13 months."],
  ["record", "who did what, when, on what; each entry chained to the one before by its hash."],
  ["register", "the facility's data as Nomade holds them now."],
  ["risk", "a finding's weight, as a sum of what speaks for it; the sum is shown with it."],
  ["round", "one certification over a frozen snapshot."],
  ["route", "a way on foot through doors, each of which opens for somebody or stands free at the minute at which it is gone."],
  ["snapshot", "the register frozen at an intake, with its SHA-256; it never changes."],
  ["source", "a system that brings data, and owns what it brings."],
  ["source profile", "how a source writes things: what its columns are, what its values mean, how its dates are written."],
  ["stand-in", "a small simulated outside service that ships with Nomade."],
  ["trace", "why a door opens, or does not: all paths, and what each depends on."],
  ["trial", "a card tried at a door at an instant, written down with what was expected, and run again on every snapshot."],
  ["unit", "the controller at some doors. It decides who comes in by what it holds, which may be older, or less, than what the register says."],
  ["waiver", "a reasoned, dated acceptance of a finding."],
];

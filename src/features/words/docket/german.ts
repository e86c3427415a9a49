import type { CredentialLife, LifeBound } from "@/core/certification/line";
import { daysOfUse } from "@/core/findings/use";
import { unreachable } from "@/core/kernel/invariant";
import { formatClock, parseCivilDay } from "@/core/time/civil-day";
import type { EpochMinute } from "@/core/time/instant";
import { germanDefinitions } from "./german-definitions";
import type { DocketWords } from "./docket-words";
import { germanMoment, germanWithdrawal } from "./german-changes";
import { germanFinding } from "./german-findings";
import { germanCapital, germanCount, germanDate, germanList, germanNumber, germanTimes } from "./german-numbers";

const bound = ({ date, minuteOfDay }: LifeBound): string =>
  minuteOfDay === undefined ? `am ${germanDate(date)}` : `am ${germanDate(date)} um ${formatClock(minuteOfDay)}`;

function places({ places: english, placeNames, morePlaces = 0 }: Extract<CredentialLife, { readonly kind: "asleep" }>): string | undefined {
  if (!placeNames) return english;
  return morePlaces > 0 ? `${placeNames.join(", ")} und ${germanCount(morePlaces, "einen weiteren Ort", "weitere Orte")}` : germanList(placeNames);
}

function life(of: CredentialLife): string {
  switch (of.kind) {
    case "live":
      return "In Gebrauch, ohne Ende in den kommenden 13 Monaten.";
    case "ends":
      return `In Gebrauch; endet ${bound(of.last)}.`;
    case "begins":
      return `Noch nicht in Gebrauch; beginnt ${bound(of.first)}.`;
    case "asleep": {
      const besides = places(of);
      return besides === undefined
        ? "Nicht in Gebrauch, und beginnt nicht von selbst. Wieder aktiv gesetzt, öffnete er nichts weiter."
        : `Nicht in Gebrauch, und beginnt nicht von selbst. Wieder aktiv gesetzt, öffnete er auch ${besides}.`;
    }
    default:
      return unreachable(of);
  }
}

function ago(then: EpochMinute, now: EpochMinute): string {
  const days = Math.floor((now - then) / 1440);
  if (days <= 0) return "heute";
  return days === 1 ? "gestern" : `vor ${days} Tagen`;
}

const types: Readonly<Record<string, string>> = { contractor: "Fremdfirma", visitor: "zu Besuch", tenant: "eingemietet", other: "sonstig" };
const statuses: Readonly<Record<string, string>> = { suspended: "gesperrt", left: "ausgeschieden" };
const lines = (n: number): string => germanCount(n, "eine Zeile", "Zeilen");
const dateOf = (at: string): string => {
  const date = parseCivilDay(at.slice(0, 10));
  return date === undefined ? at : germanDate(date);
};

const doorsShown = 3;
const closed = "Diese Mappe wurde geschlossen: darin kann nichts mehr entschieden werden.";
const signed = "Diese Mappe wurde inzwischen unterschrieben und ändert sich nicht mehr.";
const notYours = "Über diese Mappe entscheiden nicht Sie.";

/** The docket in German. */
export const german: DocketWords = {
  language: "de",
  called: "Deutsch",
  locale: "de-AT",

  dockets: (open) => (open === 0 ? "Nichts wartet auf Sie" : germanCapital(`${germanCount(open, "eine Mappe wartet", "Mappen warten")} auf Sie`)),
  due: (date) => `Fällig am ${germanMoment(date)}.`,
  progress: (decided, of) => `${decided} von ${of} Zeilen entschieden`,
  flaggedAmong: (flagged) => `Gegen ${lines(flagged)} spricht etwas.`,
  signedThen: "Unterschrieben.",
  closedThen: "Ohne Unterschrift geschlossen.",
  waitsFor: (certifier) => `In Vertretung von ${certifier}.`,
  signOut: "Abmelden",
  yourAccount: "Ihr Konto",

  personOf: (person, of) => `Person ${person} von ${of}`,
  docketOf: (certifier) => `Mappe von ${certifier ?? "der Prüfstelle"}`,
  notDecidedByYou: ", die Sie sehen, aber nicht entscheiden",
  correctsEarlier: "Sie berichtigt eine Mappe, die schon unterschrieben wurde und so bleibt, wie sie ist.",
  holder: (holder) => {
    if (!holder) return "kein Inhaber";
    const { department, type, status } = holder;
    return [
      department ?? "Keine Abteilung",
      ...(type === undefined || type === "employee" ? [] : [types[type] ?? type]),
      ...(status === "active" ? [] : [statuses[status] ?? status]),
    ].join(", ");
  },
  definitions: germanDefinitions,
  back: "Zurück",
  nextPerson: "Nächste Person",
  toSignature: "Zur Unterschrift",
  keepAll: (open) => (open === 1 ? "Die eine wie bei den meisten behalten" : `Alle ${germanNumber(open)} wie bei den meisten behalten`),
  keysHint: "K behalten, N einschränken, W entziehen, P weitergeben, U zurücknehmen; ↓ ↑ Zeile, → ← Person, A wie bei den meisten.",

  override: "Kommt hier durch eine Dauerfreigabe hinein: keine Berechtigung ist nötig.",
  hours: ({ words, german: said }) => `${said ?? words}.`,
  doors: (names) => (names.length <= doorsShown ? names.join(", ") : `${names.length} Türen: ${names.slice(0, 2).join(", ")} und ${names.length - 2} weitere`),
  use: ({ use: { count, last, coveredDays }, subject }, asOf) => {
    const isCard = subject.kind === "credential";
    if (last !== undefined) return `${germanCapital(germanTimes(count))} ${isCard ? "genutzt" : "hier gewesen"}, zuletzt ${ago(last, asOf)}.`;
    if (!(coveredDays > 0)) return "Keine Ereignisse von diesem Ort: ob genutzt wurde, ist nicht zu sagen.";
    const not = isCard ? "Nicht genutzt" : "Hier nicht gesehen";
    return coveredDays >= daysOfUse ? `${not} in ${daysOfUse} Tagen.` : `${not}; die Ereignisse decken ${coveredDays} der letzten ${daysOfUse} Tage ab.`;
  },
  peers: ({ peers }) => {
    if (!peers || peers.of === 0) return "Niemand in der Abteilung zum Vergleichen.";
    const { same, of } = peers;
    if (same === 0) return `Von ${of} in der Abteilung kann das sonst niemand.`;
    return same === of ? `Alle ${of} anderen der Abteilung haben es auch.` : `${same} von ${of} anderen der Abteilung können dasselbe.`;
  },
  since: ({ from, notYet }) =>
    notYet === undefined
      ? `Kam schon am ${germanMoment(from)} hinein.`
      : `Kam spätestens am ${germanMoment(from)} hinein, am ${germanMoment(notYet)} noch nicht.`,
  keptBefore: (at) => `Am ${dateOf(at)} so behalten, wie es jetzt ist.`,
  life,
  finding: (finding, timeZone) => ("sentence" in finding ? finding.sentence : (germanFinding(finding.facts, finding.names, timeZone) ?? finding.facts.rule)),
  usualWeek: (words) => `Übliche Woche: ${words}`,
  more: "Mehr",
  showKeys: "Tasten",
  aboutYourself: "In dieser Zeile geht es um Sie selbst. Niemand bestätigt sich selbst: geben Sie sie weiter.",
  passedOnToYou: "An Sie weitergegeben.",

  keep: (isCard) => (isCard ? "Ausweis behalten" : "Behalten"),
  narrow: "Einschränken …",
  withdraw: (isCard) => (isCard ? "Ausweis zurück" : "Entziehen"),
  passOn: "Weitergeben …",
  undo: "Zurücknehmen",
  keepNamed: (subject) => `${subject} behalten`,
  withdrawNamed: (subject) => `${subject} entziehen`,
  withdrawnKeep: "entzogen; behalten",
  showMore: (n) => `${germanCapital(lines(n))} einzeln zeigen`,
  sameAsColleagues: (n) => `Wie bei den meisten anderen: ${lines(n)}`,
  nothingChanges: "Nichts ändert sich.",
  notDecided: "nicht entschieden",
  decided: (decision) => ({ keep: "behalten", withdraw: "entzogen", narrow: "eingeschränkt", "pass-on": "weitergegeben" })[decision],

  why: "Wozu wird es gebraucht?",
  whyHint: "Etwas spricht gegen diese Zeile: sagen Sie mehr, als dass es stimmt.",
  narrowTo: "Was bleibt",
  inHours: "Nur in den Stunden von",
  inHoursNone: "Wie es ist",
  share: (stays, of) => `davon bleiben ${Math.max(1, Math.round((100 * stays) / of))} %`,
  untilDate: "Bis",
  untilHint: "Der letzte Tag, an dem es öffnet",
  untilUnread: (typed) => `${typed} ist nicht als ein Datum zu lesen. Schreiben Sie es wie 31 Dec 2026 oder 31.12.2026.`,
  onlyDoors: "Nur an diesen Türen",
  onlyDoorsHint: "Nehmen Sie die Türen weg, die nicht gebraucht werden.",
  doNarrow: "So einschränken",
  stays: "bleibt",
  goes: "fällt weg",
  narrowedTo: ({ schedule, until, shut }) =>
    shut.length > 0
      ? `Bleibt, ohne ${germanList(shut)}.`
      : `Bleibt ${[schedule === undefined ? "" : `in den Stunden von ${schedule}`, until === undefined ? "" : `bis ${germanMoment(until)}`].filter(Boolean).join(", ")}.`,
  passOnTo: "Wer soll es entscheiden?",
  passOnWhy: "Warum (wenn Sie mögen)",
  doPassOn: "Weitergeben",
  passedOnTo: (name) => `Weitergegeben an ${name}, zur Entscheidung. Die Zeile liegt jetzt in jener Mappe.`,
  reviewer: "Die Prüfstelle",

  workingOut: "Es wird ausgerechnet, was das sonst noch wegnimmt …",
  notWorkedOut: "Was das sonst noch wegnimmt, war nicht auszurechnen. Laden Sie die Seite neu.",
  withdrawal: germanWithdrawal,

  comments: (count) => (count === 0 ? "Die Prüfstelle fragen" : germanCount(count, "eine Bemerkung", "Bemerkungen")),
  comment: "Bemerkung",
  send: "Senden",

  saved: "Gespeichert",
  inRecord: "Im Protokoll",
  saving: "Wird gespeichert …",
  waiting: (count) => `${germanCapital(germanCount(count, "eine Entscheidung wartet", "Entscheidungen warten"))} auf das Speichern`,
  refusals: {
    "reason-needed": "Sagen Sie in Worten, wozu es gebraucht wird: etwas spricht gegen diese Zeile, und „ok“ sagt nichts.",
    "task-needed": "Sagen Sie in Worten, was geändert werden soll.",
    "docket-signed": signed,
    "not-yours": notYours,
    "about-yourself": "In dieser Zeile geht es um Sie selbst, und niemand bestätigt sich selbst. Geben Sie sie weiter.",
    "passed-on-already": "Diese Zeile wurde an Sie weitergegeben: weiter weg kann sie nicht gegeben werden.",
    "nothing-to-narrow": "Das ließe alles, wie es ist, oder ist nicht mehr möglich. Wählen Sie andere Stunden, einen kommenden Tag oder einige der Türen.",
    "not-a-certifier": "An diese Person kann sie nicht weitergegeben werden: wählen Sie eine andere dieser Runde.",
    "round-closed": closed,
    "taken-up": "An wen Sie diese Zeile weitergaben, hat sie schon entschieden.",
  },
  unread: "Diese Entscheidung war nicht zu lesen; laden Sie die Seite neu.",

  signHeading: "Ihre Mappe unterschreiben",
  signedHeading: "Unterschrieben",
  closedHeading: "Ohne Unterschrift geschlossen",
  closedSays: "Die Prüfstelle hat diese Mappe geschlossen. Was niemand entschieden hatte, gilt so, wie es die Runde vorsieht.",
  counts: (counts) =>
    `${[
      germanCapital(germanCount(counts.keep, "eine Zeile bleibt", "Zeilen bleiben")),
      ...(counts.narrow > 0 ? [`${germanCount(counts.narrow, "eine bleibt", "bleiben")} zum Teil`] : []),
      germanCount(counts.withdraw, "eine wird entzogen", "werden entzogen"),
      ...(counts["pass-on"] > 0 ? [germanCount(counts["pass-on"], "eine wurde weitergegeben", "wurden weitergegeben")] : []),
    ].join(", ")}.`,
  goingHeading: "Fällt weg, ganz oder zum Teil:",
  undecidedHeading: "Noch nicht entschieden:",
  sign: (n) => `${germanCapital(lines(n))} unterschreiben`,
  forGood:
    "Die Unterschrift gilt für immer: eine unterschriebene Mappe ändert sich nicht mehr, und was Sie entzogen oder eingeschränkt haben, geht als Auftrag hinaus.",
  notSigned: {
    "already-signed": signed,
    "not-yours": notYours,
    "changed-meanwhile": "Eine Entscheidung hat sich geändert, während Sie unterschrieben. Sehen Sie noch einmal nach und unterschreiben Sie dann.",
    closed,
  },
  undecided: (count) => `${germanCapital(germanCount(count, "eine Zeile ist", "Zeilen sind"))} noch nicht entschieden.`,
};

import type { ToldRule } from "@/core/certification/against";
import { spokenKey } from "@/core/findings/about";
import type { FactsOf, FindingFacts } from "@/core/findings/finding";
import type { SubjectKind } from "@/core/findings/flag";
import { minuteDown, parseInstant } from "@/core/time/instant";
import { formatClock, parseCivilDay } from "@/core/time/civil-day";
import { lastDateText, localDateText, localTime, zoneOf } from "@/core/time/zone";
import { germanCapital, germanCount, germanDate, germanList, germanSome, germanTimes } from "./german-numbers";

/** Turns what a proof holds into German words; an id where something has no name any more. */
class Say {
  constructor(
    private readonly names: Readonly<Record<string, string>>,
    private readonly timeZone: string,
  ) {}

  day(written: string): string {
    const date = parseCivilDay(written);
    return date === undefined ? written : germanDate(date);
  }

  date(minute: string): string {
    const instant = parseInstant(minute);
    return instant ? this.day(localDateText(zoneOf(this.timeZone), minuteDown(instant))) : minute;
  }

  lastDate(minute: string): string {
    const instant = parseInstant(minute);
    return instant ? this.day(lastDateText(zoneOf(this.timeZone), minuteDown(instant))) : minute;
  }

  moment(written: string): string {
    const instant = parseInstant(written);
    if (!instant) return written;
    return `${this.date(written)} um ${formatClock(localTime(zoneOf(this.timeZone), minuteDown(instant)).minuteOfDay)}`;
  }

  one(kind: SubjectKind, id: string | undefined): string {
    return id === undefined ? "" : (this.names[spokenKey({ kind, id })] ?? id);
  }

  some(kind: SubjectKind, ids: readonly string[]): string {
    return germanSome(ids.map((id) => this.one(kind, id)));
  }

  doors(ids: readonly string[]): string {
    return ids.length === 0 ? "keine Tür" : this.some("door", ids);
  }
}

const missing: Readonly<Record<string, string>> = {
  sponsor: "niemand ist als Ansprechperson genannt",
  "sponsor-left": "die Ansprechperson ist nicht mehr da",
  company: "keine Firma ist genannt",
};

const privileges: Readonly<Record<string, string>> = {
  lockdownPass: "Kommt auch bei einer Sperre durch",
  pinExempt: "Kommt ohne PIN durch",
  extraTime: "Hat längere Öffnungszeiten",
  holdOpen: "Darf Türen offen halten",
  passbackExempt: "Darf wieder hinein, ohne hinausgegangen zu sein",
  firstIn: "Schaltet mit dem ersten Eintreten die Tagesöffnung ein",
};

const statuses: Readonly<Record<string, string>> = { suspended: "gesperrt", lost: "als verloren gemeldet", stock: "im Vorrat", returned: "zurückgegeben" };

const sensitive = (n: number): string => germanCount(n, "eine sensible Tür", "sensible Türen");
const hours = (minutes: number): string => `${(minutes / 60).toLocaleString("de-AT", { maximumFractionDigits: 1 })} h`;

const weekdayNames: Readonly<Record<string, string>> = {
  mon: "Montag",
  tue: "Dienstag",
  wed: "Mittwoch",
  thu: "Donnerstag",
  fri: "Freitag",
  sat: "Samstag",
  sun: "Sonntag",
};

const rowName = (row: string): string => weekdayNames[row] ?? `Tagesart „${row.replace(/^holidays\./, "")}“`;

/** What is odd about a schedule. */
const odd: Readonly<Record<string, (rows: string, until: string) => string>> = {
  "empty-interval": (rows) => `Hat eine leere Zeitspanne: ${rows}.`,
  "minute-gap": (rows) => `Endet eine Minute vor Mitternacht: ${rows}.`,
  overlap: (rows) => `Zeitspannen überschneiden einander: ${rows}.`,
  over: (_, until) => `Ist seit dem ${until} vorbei und wird noch verwendet.`,
};

type Sentences = { readonly [K in ToldRule]: (finding: FactsOf<K>, say: Say) => string };

const sentences: Sentences = {
  "leaver-live": ({ proof: { left, leftBy, credentials } }, say) =>
    `Ausgeschieden${left === undefined ? "" : ` am ${leftBy === "end" ? say.lastDate(left) : say.date(left)}`}; ${credentials.length === 1 ? "ein Ausweis gilt" : `${credentials.length} Ausweise gelten`} weiter als aktiv.`,
  "mover-kept": ({ proof: { moved, doors }, distinct: [former] }, say) =>
    `Hatte ${say.one("group", former)} bis ${say.date(moved)} verlassen und öffnet weiter ${say.doors(doors)}, was nur mit dieser Abteilung kam.`,
  "requirement-over": ({ proof: { ended }, distinct: [name = ""] }, say) => `Öffnet weiter Türen, obwohl „${name}“ am ${say.lastDate(ended)} geendet hat.`,
  "no-sponsor": ({ proof }) => `Öffnet Türen, aber ${germanList(proof.missing.map((one) => missing[one] ?? one))}.`,
  "unknown-to-source": ({ proof: { sources } }) => `Öffnet Türen, und ${germanList(sources)} ${sources.length === 1 ? "kennt" : "kennen"} diese Person nicht.`,
  "house-rule": ({ proof: { name, door, there, otherDoor } }, say) =>
    `Verstößt gegen die Hausregel „${name}“: öffnet ${say.one("door", door)}${there === undefined ? "" : ` zuerst am ${say.day(there.slice(0, -6))} um ${there.slice(-5)}`}${otherDoor === undefined ? "" : ` und auch ${say.one("door", otherDoor)}`}.`,
  "expired-active": ({ proof: { end } }, say) =>
    `Hat am ${say.lastDate(end)} geendet, gilt aber weiter als aktiv: öffnet nichts, und ein geändertes Datum bringt es zurück.`,
  "no-end-date": ({ proof: { end } }, say) => (end === undefined ? "Hat kein Enddatum." : `Endet erst am ${say.lastDate(end)}.`),
  "outlives-holder": ({ proof: { end, holderEnd } }, say) => `Endet am ${say.lastDate(end)}, nach dem Ende der Person am ${say.lastDate(holderEnd)}.`,
  "spare-outstanding": ({ proof: { since } }, say) => `Ein Ersatzausweis, der seit ${say.date(since)} ausgegeben ist.`,
  unused: ({ proof: { lastUse, days, coveredDays } }, say) =>
    lastUse === undefined
      ? `Gültig, aber in ${days} Tagen ist keine Nutzung bekannt; für ${coveredDays} davon gibt es Ereignisse.`
      : `Gültig, aber seit ${say.date(lastUse)} nicht genutzt.`,
  "never-used": ({ proof: { given } }, say) => `Am ${say.date(given)} ausgegeben, und keine Nutzung ist bekannt.`,
  "stock-active": ({ proof }) => `Gilt als aktiv, obwohl niemand ihn hat; öffnet ${germanCount(proof.doors, "eine Tür", "Türen")}.`,
  "lost-in-use": ({ proof: { since, events, granted, last } }, say) =>
    `Seit ${say.date(since)} außer Gebrauch, danach ${germanTimes(events)} vorgezeigt und ${granted === 0 ? "nie" : germanTimes(granted)} eingelassen; zuletzt am ${say.moment(last)}.`,
  "dead-card-tried": ({ proof: { refused, last } }, say) =>
    `${germanCapital(germanTimes(refused))} abgewiesen, während er nicht galt, zuletzt am ${say.moment(last)}.`,
  "sleeping-access": ({ proof: { status, areas, doors } }, say) =>
    `Ist ${status === "active" ? "noch nicht gültig" : (statuses[status] ?? status)}; wäre er gültig, öffnete er ${sensitive(doors)} in ${say.some("area", areas)}.`,
  waking: ({ proof: { from, areas, doors } }, say) => `Gilt ab ${say.moment(from)} und öffnet dann ${sensitive(doors)} in ${say.some("area", areas)}.`,
  "standing-override": ({ proof: { sites, doors } }, say) =>
    `Hat eine Dauerfreigabe an ${say.some("site", sites)} und öffnet dort ${germanCount(doors, "eine Tür", "Türen")} zu jeder Zeit.`,
  privilege: ({ distinct: [name = ""] }) => `${privileges[name] ?? name}.`,
  "around-the-clock": ({ proof: { week }, distinct: [area] }, say) =>
    `Öffnet ${say.one("area", area)} zu jeder Zeit, Tag und Nacht, so in der Woche vom ${say.day(week)}.`,
  "out-of-hours": ({ proof: { minutes, week }, distinct: [area] }, say) =>
    `Öffnet ${say.one("area", area)} in der Woche vom ${say.day(week)} für ${hours(minutes)} außerhalb der Geschäftszeiten, wird dort zu solchen Zeiten aber nicht gesehen.`,
  "unlike-peers": ({ proof: { peers, reach }, distinct: [area] }, say) =>
    `Kommt in ${say.one("area", area)}; von den ${peers} anderen der Abteilung, die Türen öffnen, ${reach === 0 ? "niemand" : reach === 1 ? "nur eine Person" : `nur ${reach}`}.`,
  "by-exception": ({ proof: { doors } }, say) => `Öffnet ${say.doors(doors)} durch eine einzeln vergebene Berechtigung, nicht über eine Stufe oder Gruppe.`,
  "duties-conflict": ({ proof: { a, b }, distinct: [duty = ""] }, say) =>
    `Hat beide Seiten von „${duty}“: die eine öffnet ${say.doors(a)}, die andere ${say.doors(b)}.`,
  "visitor-sensitive": ({ proof: { areas, doors } }, say) => `Zu Besuch, und öffnet ${sensitive(doors)} in ${say.some("area", areas)}.`,
  "opened-against-record": ({ proof: { events, last }, distinct: [credential] }, say) =>
    `${say.one("credential", credential)} wurde ${germanTimes(events)} eingelassen, obwohl es nach den Daten nicht sein dürfte, zuletzt am ${say.moment(last)}.`,
  "tried-again": ({ proof: { refused, first = "", dates = 0, week = "" } }, say) =>
    refused === undefined
      ? `An ${dates} Tagen der Woche vom ${say.day(week)} abgewiesen.`
      : `${germanCapital(germanTimes(refused))} innerhalb von Minuten abgewiesen, zuerst am ${say.moment(first)}.`,
  "two-places": ({ proof: { times, last }, distinct: [what, ...ids] }, say) =>
    what === "sites"
      ? `War an ${say.some("site", ids)} in kürzerer Zeit, als der Weg braucht, ${germanTimes(times)}, zuletzt am ${say.moment(last)}.`
      : `Kam wieder in ${say.some("area", ids)}, ohne hinausgegangen zu sein, ${germanTimes(times)}, zuletzt am ${say.moment(last)}.`,
  "level-too-wide": ({ proof: { low, high } }) =>
    `Öffnet ${germanCount(low, "eine nicht sensible Tür", "nicht sensible Türen")} zusammen mit ${germanCount(high, "einer sensiblen", "sensiblen")}.`,
  "all-doors": ({ proof: { doors, of, holders } }) =>
    `Öffnet ${doors} von ${of} Türen, Stockwerke von Aufzügen nicht gezählt, für ${germanCount(holders, "eine Person", "Personen")}.`,
  "door-only-free": ({ proof: { minutes, week } }, say) => `Steht zeitweise für alle offen: ${hours(minutes)} in der Woche vom ${say.day(week)}.`,
  "calendar-runs-out": ({ proof: { last, expected = "" }, distinct: [, name = "", year = ""] }, say) =>
    last === undefined
      ? `„${name}“ war in den beiden Jahren davor eingetragen, für ${year} aber nicht: zu erwarten etwa am ${say.day(expected)}.`
      : `Der letzte eingetragene Tag ist der ${say.day(last)}.`,
  "holiday-missing": ({ proof: { name, other }, distinct: [date = ""] }, say) =>
    `${name} am ${say.day(date)} ist dort ein gesetzlicher Feiertag, steht aber nicht in diesem Kalender${other === undefined ? "" : `; einen Eintrag dieses Namens gibt es am ${say.day(other)}`}.`,
  "holiday-tie": ({ proof: { first, dates }, distinct: [wins = "", loses = ""] }, say) =>
    `„${wins}“ und „${loses}“ haben denselben Rang und verschiedene Tagesarten, an ${germanCount(dates, "einem Tag", "Tagen")}, zuerst am ${say.day(first)}; es gilt „${wins}“.`,
  "holiday-open": ({ proof: { first, dates, free, holders } }, say) =>
    `An ${germanCount(dates, "einem Feiertag", "Feiertagen")}, zuerst am ${say.day(first)}: ${germanList([
      ...(free > 0 ? [`für alle offen an ${germanCount(free, "einem", "Tagen")}`] : []),
      ...(holders > 0 ? [`bis zu ${germanCount(holders, "eine Person kann", "Personen können")} sie öffnen`] : []),
    ])}.`,
  "schedule-odd": ({ proof: { rows = [], until = "" }, distinct: [what = ""] }, say) => odd[what]?.(germanSome(rows.map(rowName)), say.day(until)) ?? what,
  "let-in": ({ proof: { times, last, by }, distinct: [door] }, say) =>
    `An ${say.one("door", door)} abgewiesen und dann doch drinnen, nachdem ${say.some("cardholder", by)} geöffnet hatte, ${germanTimes(times)}, zuletzt am ${say.moment(last)}.`,
};

/** What speaks against a line, as a German sentence; undefined of a rule that is not told to certifiers. */
export function germanFinding(finding: FindingFacts, names: Readonly<Record<string, string>>, timeZone: string): string | undefined {
  if (!Object.hasOwn(sentences, finding.rule)) return undefined;
  // A finding proves what is said of its rule.
  return (sentences[finding.rule as ToldRule] as (of: FindingFacts, say: Say) => string)(finding, new Say(names, timeZone));
}

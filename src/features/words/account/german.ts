import { germanCapital, germanCount } from "../docket/german-numbers";
import type { AccountWords } from "./account-words";

const clock = new Intl.DateTimeFormat("de-AT", { dateStyle: "medium", timeStyle: "short", timeZone: "UTC" });

export const german: AccountWords = {
  roles: { administrator: "Verwaltung", reviewer: "Prüfstelle", manager: "Führungskraft", owner: "Bereichsverantwortung", auditor: "Revision" },
  back: "Zurück zu Ihrer Arbeit",
  clock: (instant) => `${clock.format(new Date(instant))} UTC`,
  password: {
    heading: "Passwort",
    present: "Jetziges Passwort",
    next: "Neues Passwort",
    first: "Passwort",
    atLeast: "Mindestens zwölf Zeichen.",
    isChanged: "Es ist geändert. Alle anderen Anmeldungen sind beendet.",
    change: "Passwort ändern",
    set: "Passwort setzen",
    refusals: {
      wrong: "Das jetzige Passwort stimmt nicht.",
      short: "Nehmen Sie mindestens zwölf Zeichen; ein paar Wörter merkt man sich leichter als Zeichen.",
      same: "Das ist das Passwort, das Sie haben.",
      barred: "Zu viele Versuche sind fehlgeschlagen. Versuchen Sie es in einer Viertelstunde wieder.",
    },
  },
  factor: {
    heading: "Zweiter Faktor",
    code: "Code",
    wrong: "Dieser Code stimmt nicht oder wurde schon verwendet. Warten Sie auf den nächsten.",
    keepCodes:
      "Er gilt. Heben Sie diese Codes dort auf, wo Sie sie auch ohne Ihre Authentifizierungs-App finden: jeder gilt einmal, und sie werden nur jetzt gezeigt.",
    isAsked: "Er gilt, und Ihre Rolle verlangt ihn.",
    inForce: "Er gilt. Um ihn wegzunehmen, geben Sie einen Code ein.",
    takeAway: "Wegnehmen",
    askedFirst: "Ihre Rolle verlangt einen: richten Sie ihn vor allem anderen ein.",
    what: "Ein Code einer Authentifizierungs-App neben dem Passwort, bei jeder Anmeldung.",
    setUp: "Einrichten",
    readThis: "Lesen Sie dies mit Ihrer Authentifizierungs-App oder tippen Sie das Geheimnis ab; geben Sie dann den Code ein, den sie zeigt.",
    square: "Das Geheimnis als Quadrat, das eine Kamera liest",
    putInForce: "In Kraft setzen",
  },
  sessions: {
    heading: (count) => germanCapital(germanCount(count, "eine Anmeldung", "Anmeldungen")),
    ends: "Jede endet von selbst nach zwölf Stunden, oder nach acht ohne Gebrauch.",
    where: "Wo",
    lastUsed: "Zuletzt verwendet",
    since: "Seit",
    end: "Ende",
    unknown: "unbekannter Browser",
    thisOne: "diese",
    endIt: "beenden",
  },
  link: {
    once: "Dieser Link meldet Sie einmal an. Wenn Sie jemand anderes sind, schließen Sie diese Seite.",
    code: "Code Ihrer Authentifizierungs-App",
    goOn: "Weiter",
    barred: "Zu viele Versuche sind fehlgeschlagen. Versuchen Sie es in einer Viertelstunde wieder.",
    wrongCode: "Dieser Code stimmt nicht oder wurde schon verwendet. Warten Sie auf den nächsten oder nehmen Sie einen Notfallcode.",
    used: "Dieser Link wurde schon verwendet, oder seine Zeit ist um. Bitten Sie um einen anderen oder melden Sie sich mit Ihrem Passwort an.",
  },
};

import { plainWord } from "./month-names";

/**
 * What values of closed lists and flags plainly mean, in English, German, French, Spanish and Dutch: common practice, no source. They are suggestions: nothing
 * is read by them that a profile does not say.
 */
const words: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  "cardholders.status": wordsOf({
    active: "active a 1 yes y true enabled valid current live employed ja j aktiv gultig beschaftigt oui actif actief activo si x",
    suspended: "suspended s inactive i 0 no n false disabled locked blocked gesperrt inaktiv nein non inactif suspendu geblokkeerd nee inactief inactivo",
    left: "left l leaver terminated t ended expired gone retired resigned departed ausgeschieden ausgetreten parti baja vertrokken",
  }),
  "cardholders.type": wordsOf({
    employee: "employee e staff permanent internal mitarbeiter intern angestellter employe empleado medewerker",
    contractor: "contractor c external vendor temp extern fremdfirma dienstleister externe contratista",
    visitor: "visitor v guest besucher gast visiteur visitante bezoeker",
    tenant: "tenant mieter locataire inquilino huurder",
    other: "other sonstige autre otro overig",
  }),
  "credentials.status": wordsOf({
    active: "active a 1 yes y true enabled valid issued live ja j aktiv gultig oui actif actief activo si in-use x",
    suspended: "suspended s inactive i 0 no n false disabled locked blocked deactivated gesperrt inaktiv nein non inactif suspendu nee inactief inactivo",
    lost: "lost stolen missing verloren gestohlen perdu vole perdido kwijt gestolen",
    stock: "stock unassigned spare unused available lager frei",
    returned: "returned destroyed void deleted zuruckgegeben vernichtet rendu devuelto ingeleverd",
  }),
  "credentials.kind": wordsOf({
    card: "card badge c proximity prox smartcard karte ausweis carte tarjeta pas kaart",
    fob: "fob tag keyfob token anhanger transponder",
    mobile: "mobile phone app ble nfc handy",
    biometric: "biometric finger fingerprint face",
    remote: "remote transmitter",
    pin: "pin code",
  }),
  "doors.kind": wordsOf({
    door: "door d tur porte puerta deur",
    gate: "gate barrier tor schranke portail poort",
    turnstile: "turnstile drehkreuz tourniquet",
    lift: "lift elevator aufzug ascenseur",
    floor: "floor etage stockwerk",
    cabinet: "cabinet locker schrank",
  }),
  "groups.kind": wordsOf({ department: "department dept abteilung service afdeling departamento", group: "group gruppe groupe groep grupo role" }),
  "events.result": wordsOf({
    granted:
      "granted access-granted grant allowed accepted ok open opened unlocked success valid entry admitted g 1 yes true granted-not-opened granted-no-entry access-granted-no-entry access-granted-door-not-opened " +
      "zutritt-gewahrt gewahrt erlaubt accorde autorise concedido toegang-verleend",
    refused:
      "refused denied access-denied deny rejected invalid failed unknown expired r d 0 no false zutritt-verweigert verweigert abgelehnt refuse denegado geweigerd forced door-forced held door-held",
  }),
  "grants.effect": wordsOf({ allow: "allow allowed permit grant yes x", block: "block blocked deny denied forbid no" }),
  "schedules.onHoliday": wordsOf({ closed: "closed no", weekday: "weekday open yes" }),
  flag: wordsOf({
    true: "true yes y 1 x t on ja j wahr oui o vrai si s waar ✓ ✔",
    false: "false no n 0 - off nein falsch non f faux nee onwaar",
  }),
};

function wordsOf(byValue: Readonly<Record<string, string>>): Readonly<Record<string, string>> {
  return Object.fromEntries(Object.entries(byValue).flatMap(([value, texts]) => texts.split(" ").map((text) => [text, value])));
}

/** What a text plainly means for a field; undefined where it is not plain. */
export function plainMeaning(field: string, text: string): string | undefined {
  const known = Object.hasOwn(words, field) ? words[field] : undefined;
  const word = plainWord(text).replace(/[\s_]+/g, "-");
  if (known && Object.hasOwn(known, word)) return known[word];
  if (field !== "events.result") return undefined;
  // Sentences of a log: one that speaks of a refusal is one, whatever else it says.
  if (refusing.test(word)) return "refused";
  return granting.test(word) ? "granted" : undefined;
}

const refusing =
  /(^|-)(denied|deny|refused|rejected|invalid|unknown|expired|forced|held|lost|failed|not-authori[sz]ed|verweigert|abgelehnt|ungultig|refuse|denegado|geweigerd|no-access)(-|$)/;
const granting = /(^|-)(granted|allowed|accepted|admitted|gewahrt|erlaubt|autorise|accorde|autorizado|concedido|verleend)(-|$)/;

/** Marks in the cells of a matrix: what stands for a cross, and what for none. */
export const markMeaning = (text: string): boolean | undefined => {
  if (text.trim() === "") return false;
  const meaning = plainMeaning("flag", text);
  return meaning === undefined ? undefined : meaning === "true";
};

export const allDayWords = ["24h", "24/7", "24x7", "always", "all day", "immer", "ganztags", "toujours", "siempre", "altijd"];
export const neverWords = [
  "closed",
  "never",
  "none",
  "-",
  "–",
  "geschlossen",
  "nie",
  "ferme",
  "fermé",
  "jamais",
  "cerrado",
  "nunca",
  "gesloten",
  "nooit",
  "off",
];
export const noEndWords = [
  "never",
  "none",
  "unlimited",
  "permanent",
  "no expiry",
  "nie",
  "unbefristet",
  "unbegrenzt",
  "jamais",
  "illimite",
  "illimité",
  "nunca",
  "nooit",
  "onbeperkt",
  "-",
  "–",
];
export const isOneOf = (list: readonly string[], text: string): boolean => list.some((word) => plainWord(word) === plainWord(text));

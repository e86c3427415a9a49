import { plainWord } from "./month-names";

/** What a column's heading plainly is, whatever table it stands in. */
export type Concept =
  | "id"
  | "name"
  | "firstName"
  | "lastName"
  | "staffNumber"
  | "email"
  | "department"
  | "company"
  | "manager"
  | "sponsor"
  | "status"
  | "type"
  | "kind"
  | "cardholder"
  | "cardNumber"
  | "facilityCode"
  | "printedNumber"
  | "cardStatus"
  | "cardKind"
  | "credential"
  | "pin"
  | "issuedAt"
  | "lastUse"
  | "firstUse"
  | "group"
  | "level"
  | "door"
  | "area"
  | "site"
  | "schedule"
  | "timeZone"
  | "parent"
  | "sensitivity"
  | "controller"
  | "from"
  | "until"
  | "weekday"
  | "start"
  | "end"
  | "hours"
  | "at"
  | "date"
  | "time"
  | "result"
  | "reason"
  | "eventId"
  | "dayType"
  | "priority"
  | "note";

/** Headings in English, German, French, Spanish and Dutch, without accents, signs and spaces: common practice, no source. */
const headings: Readonly<Record<Concept, string>> = {
  id: "id key identifier kennung guid uuid",
  name: "displayname name cn fullname nameformatted title bezeichnung nom nombre naam nomcomplet nombrecompleto volledigenaam",
  firstName: "firstname givenname namegivenname forename vorname prenom voornaam givennames",
  lastName: "lastname surname sn namefamilyname familyname nachname familienname nomdefamille apellidos apellido achternaam",
  staffNumber:
    "staffnumber employeenumber staffno staffid employeenumber employeeno employeeid empid empno personnelnumber personnelno personnummer personno personid userid personalnummer personalnr persnr pnr mitarbeiternummer mitarbeiternr " +
    "matricule numeroempleado personeelsnummer payrollnumber payrollno workerid hrid",
  email: "email mail emailsvalue emailaddress mailadresse courriel correo correoelectronico emailadres",
  department:
    "department dept departmentname division orgunit abteilung fachbereich service departement departamento afdeling costcentre costcenter kostenstelle",
  company: "company companyname employer firm firma organisation organization unternehmen societe entreprise empresa bedrijf",
  manager: "manager managervalue supervisor linemanager boss vorgesetzter vorgesetzte responsable jefe leidinggevende managername",
  sponsor: "sponsor host gastgeber hote anfitrion gastheer",
  status: "status state standing aktiv active enabled zustand statut etat estado aktief",
  type: "type persontype employeetype category usertype personentyp art tipo soort contracttype",
  kind: "kind technology",
  cardholder:
    "cardholder cardholdername holder owner person personname employee employeename user username inhaber karteninhaber mitarbeiter benutzer titulaire titular kaarthouder medewerker people staff visitor",
  cardNumber:
    "cardnumber cardno card badge badgenumber badgeno badgeid cardid credentialnumber credential tokennumber kartennummer kartennr ausweisnummer ausweisnr ausweis karte numerobadge numerocarte numerodecarte numerodebadge carte " +
    "numerotarjeta tarjeta kaartnummer pasnummer pas rfid rfidnumber cardhex cardnumberhex tagnumber fobnumber cardcode encodednumber internalnumber transpondernummer chipnummer",
  facilityCode: "facilitycode facility sitecode fc facilityno anlagencode anlagennummer codesite systemcode",
  printedNumber: "printednumber printed hotstamp embossednumber externalnumber aufdruck gedruckt numeroimprime labelnumber",
  cardStatus: "cardstatus badgestatus credentialstatus cardstate kartenstatus ausweisstatus statutcarte statutbadge estadotarjeta passtatus",
  cardKind: "cardtype badgetype credentialtype cardtechnology kartentyp ausweistyp typecarte tipotarjeta pastype",
  credential: "credentialid",
  pin: "pin pincode pinnumber",
  issuedAt: "issued issuedat issuedate issuedon dateissued ausgestellt ausgabedatum delivrele emitida uitgegeven",
  lastUse: "lastuse lastused lastaccess lastseen lastevent lastbadged letztenutzung letzteverwendung letzterzutritt dernieracces ultimoacceso laatstgebruikt",
  firstUse: "firstuse firstused firstaccess erstenutzung",
  group:
    "group groups groupname accessgroup accessgroups membership memberof team teams gruppe gruppen berechtigungsgruppe groupe groupes grupo grupos groep groepen role roles",
  level:
    "level levels accesslevel accesslevels levelname clearance clearances accessprofile profile profil accessright accessrights berechtigung berechtigungen zutrittsprofil zutrittsprofile niveau niveaux nivel niveles toegangsniveau",
  door: "door doors doorname reader readername readers accesspoint portal entrance tur turen tuer tueren leser zutrittspunkt porte portes lecteur puerta puertas lector deur deuren lezer location where",
  area: "area zone areaname zonename bereich raumzone secteur area's gebied ruimte room raum",
  site: "site sitename building campus standort gebaude batiment edificio sede locatie vestiging",
  schedule:
    "schedule schedulename timeschedule timespec timezonename timeprofile zeitprofil zeitplan zeitzone zeitmodell horaire planning plagehoraire horario tijdschema tijdzone accesstimes",
  timeZone: "timezone tz ianazone",
  parent: "parent parentgroup parentname partof ubergeordnet",
  sensitivity: "sensitivity security securitylevel schutzbedarf",
  controller: "controller panel unit acu steuerung",
  from: "from validfrom startdate activationdate activation activefrom effectivefrom effectivedate gultigab gultigvon von ab debut datedebut debutvalidite valabledu desde fechainicio validodesde geldigvanaf vanaf begindatum starts validfromdate activefromdate",
  until:
    "until to validto validuntil expires expiry expiration expirydate expirationdate enddate deactivationdate deactivation activeuntil activeto gultigbis bis fin datefin finvalidite validite expirationle valableau hasta fechafin validohasta geldigtot tot einddatum expireson ablaufdatum vervaldatum",
  weekday: "weekday day days dayofweek wochentag tag tage jour jours jourdelasemaine dia dias diasemana dag dagen weekdag",
  start: "start starttime opens open begin begins beginn startzeit timefrom fromtime heuredebut horainicio starttijd",
  end: "end endtime closes close ende endzeit timeto totime heurefin horafin eindtijd",
  hours: "hours times interval openinghours zeiten offnungszeiten heures horas uren",
  at: "at timestamp datetime eventtime eventdate occurred occurredat time/date dateandtime datumzeit zeitpunkt horodatage fechahora tijdstip eventtimestamp messagetime datetimeutc utctime logtime",
  date: "date datum fecha jourdate",
  time: "time uhrzeit zeit heure hora tijd",
  result:
    "result outcome access decision accessresult event eventtype eventname message description ergebnis ereignis meldung resultat evenement resultado evento gebeurtenis action transactiontype",
  reason: "reason details detail grund motif motivo reden reasoncode comment",
  eventId: "eventid eventno sequence seq recordid transactionid logid ereignisnummer recordnumber",
  dayType: "daytype holidaytype tagesart",
  priority: "priority prioritat",
  note: "note notes remark remarks bemerkung remarque nota opmerking notizen",
};

const byHeading = new Map<string, Concept>();
for (const [concept, words] of Object.entries(headings)) for (const word of words.split(" ")) if (!byHeading.has(word)) byHeading.set(word, concept as Concept);

export const plainHeading = (heading: string): string =>
  plainWord(heading)
    .replace(/ß/g, "ss")
    .replace(/[^\p{L}\p{N}]/gu, "");

/** What is longer is a sentence, or a cell of data, and not to be searched through by patterns. */
const longestHeading = 80;

/** What a heading plainly is; undefined where it is not plain. */
export function conceptOf(written: string): Concept | undefined {
  const heading = written.replace(/\s+/g, " ").trim();
  if (heading.length > longestHeading) return undefined;
  // A number in brackets tells columns of one heading apart.
  const bare = heading
    .replace(/ \(\d+\)$/, "")
    .replace(/^(n[°º]|nr\.?|no\.)\s+/i, "")
    .replace(/\s+(de|du|des|de la|del|der|van|of|the)\s+/gi, " ");
  const plain = plainHeading(bare);
  return (
    byHeading.get(plain) ??
    byHeading.get(plain.replace(/(nr|no|num|number|name|code)$/, "")) ??
    (plain.endsWith("en") ? byHeading.get(plain.slice(0, -2)) : undefined)
  );
}

/** Whether a heading is the id of what another heading is the name of: `Door ID`, `Level No.` */
export function isIdOf(heading: string, concept: Concept): boolean {
  const [, stem = ""] = /^(.+?)(?:id|no|nr|num|number|key|code)$/.exec(plainHeading(heading)) ?? [];
  return stem !== "" && byHeading.get(stem) === concept;
}

/** What a file or sheet plainly holds, by what it is called. */
export type TableKind =
  "people" | "cards" | "groups" | "memberships" | "levels" | "levelRows" | "schedules" | "doors" | "areas" | "sites" | "events" | "grants" | "calendar";

const tableWords: Readonly<Record<TableKind, string>> = {
  events: "events event transactions log history journal ereignisse buchungen evenements eventos gebeurtenissen audittrail",
  memberships: "memberships membership members usergroups persongroups groupmembers mitgliedschaften zugehorigkeit",
  levelRows: "levelrows leveldoors levelsdoors accessmatrix levelmatrix doorlevels",
  grants: "grants assignments rights permissions zuweisungen berechtigungszuweisung",
  cards: "cards card badges badge credentials tokens karten ausweise cartes tarjetas kaarten passen fobs",
  people:
    "people persons person cardholders cardholder staff personnel employees employee users user personen mitarbeiter personal personnes personas personeel medewerkers karteninhaber kartenliste zutritt",
  groups: "groups group departments department teams gruppen abteilungen groupes grupos groepen afdelingen",
  levels: "levels level accesslevels profiles zutrittsprofile berechtigungen niveaux niveles",
  schedules: "schedules schedule timezones times timeprofiles zeitprofile zeitplane horaires horarios tijdschemas hours openinghours",
  doors: "doors door readers reader accesspoints turen leser portes puertas deuren",
  areas: "areas zones bereiche secteurs gebieden rooms raume",
  sites: "sites buildings standorte batiments edificios locaties",
  calendar: "holidays calendar feiertage kalender jours feries festivos feestdagen",
};
const byTable = new Map<string, TableKind>();
for (const [kind, words] of Object.entries(tableWords)) for (const word of words.split(" ")) if (!byTable.has(word)) byTable.set(word, kind as TableKind);

/** What a file is plainly called; its dates and numbers do not count. */
export function kindByName(name: string): TableKind | undefined {
  const plain = plainHeading(name.replace(/[\d_.-]+/g, " "));
  const known = byTable.get(plain);
  if (known) return known;
  for (const word of plainWord(name).split(/[^\p{L}]+/u)) {
    const kind = byTable.get(word);
    if (kind) return kind;
  }
  return undefined;
}
